import type { CaseSheet } from '#core/cases/contract.ts'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { Comments } from '#ui/shell/Comments.tsx'
import css from '#ui/cases/Steps.module.css'
import type { DraftStep } from '#ui/cases/draft.ts'

/** What people say of a step, below it; offered while the case is being reviewed, shown wherever somebody said something. */
export function StepTalk({ of, step, at }: { of: CaseSheet; step: DraftStep; at: number }) {
  const said = step.id === null ? 0 : (of.stepComments.find((each) => each.step === step.id)?.n ?? 0)
  if (step.id === null || (said === 0 && of.state !== 'In review')) return null
  return (
    <Unfold
      className={css['talk']}
      summary={
        said === 0 ? `comment on step ${at + 1}` : `${said} ${said === 1 ? 'comment' : 'comments'} on step ${at + 1}`
      }
    >
      <Comments about={of.key} step={step.id} />
    </Unfold>
  )
}
