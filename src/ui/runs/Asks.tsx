import type { Desk, DeskAttempt } from '#core/runs/desk-contract.ts'
import { setReason } from '#core/runs/note-contract.ts'
import { owed } from '#core/projects/policy.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Desk.module.css'
import type { DeskActs } from './useDeskActs.ts'

/** Steps that ask for evidence, were judged, and have none. */
const bareSteps = ({ steps, marks, evidence }: DeskAttempt): number =>
  marks.filter(
    (mark) =>
      steps.some(({ id, evidence: asks }) => id === mark.step && asks) &&
      mark.verdict !== 'Not run' &&
      mark.verdict !== 'Skipped' &&
      !evidence.some(({ step, row }) => step === mark.step && (row ?? 1) === mark.row),
  ).length

/** What the verdict asks for and was not given yet, each with the act that gives it; and the reason that was given. */
export function Asks({ desk, acts }: { desk: Desk; acts: DeskActs }) {
  const { attempt } = acts.own
  if (!attempt?.final) return null
  const words = attempt.comment !== '' || attempt.marks.some(({ comment }) => comment !== '')
  const still = owed(attempt.policy, {
    verdict: attempt.verdict,
    words,
    reason: attempt.reason,
    evidence: attempt.evidence.length,
    bare: bareSteps(attempt),
    defects: desk.defects.filter(({ here }) => here).length,
  })
  if (still.length === 0 && attempt.reason === null) return null
  return (
    <p className={css['note']} role="status" aria-label="Asked for">
      {still.length > 0 && <>{attempt.word ?? attempt.verdict} asks for </>}
      {still.map((each, at) => (
        <span key={each}>
          {at > 0 && ', '}
          {each === 'a reason' ? <Reason acts={acts} /> : <Give what={each} acts={acts} />}
        </span>
      ))}
      {still.length > 0 && '; the run is not closed before.'}
      {attempt.reason !== null && (
        <>
          {' '}
          Reason: <Reason acts={acts} />.
        </>
      )}
    </p>
  )
}

function Give({ what, acts }: { what: 'a word' | 'evidence' | 'a defect'; acts: DeskActs }) {
  const give = {
    'a word': () => document.querySelector<HTMLElement>('[data-happened]')?.focus(),
    evidence: acts.chooseFile,
    'a defect': () => acts.ask('defect'),
  }[what]
  return (
    <Button look="word" onClick={give}>
      {what}
    </Button>
  )
}

/** One of the project's reasons for the verdict. */
function Reason({ acts: { own } }: { acts: DeskActs }) {
  const { key, project } = useHere()
  const { attempt: store } = useWrite(setReason)
  const { attempt } = own
  if (!attempt) return null
  const inUse = project.reasons.filter((each) => each.verdict === attempt.verdict && each.retiredAt === null)
  if (inUse.length === 0 && attempt.reason === null)
    return (
      <>
        a reason (<a href={`/p/${key}/set-up/verdicts`}>none is set up for {attempt.verdict}</a>)
      </>
    )
  const choose = async (reason: string) => {
    const done = await store({ params: { key, id: attempt.id }, body: { reason: reason === '' ? null : reason } })
    if (done) own.patch((before) => ({ ...before, reason: done.reason }))
  }
  return (
    <Choice
      label={`Reason for ${attempt.verdict}`}
      value={attempt.reason ?? ''}
      options={[{ value: '', label: 'a reason' }, ...inUse.map(({ word }) => word)]}
      onChoose={(reason) => void choose(reason)}
    />
  )
}
