import { updateRun } from '#core/runs/contract.ts'
import { mostReserve } from '#core/projects/reserve.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { TeamPick } from '#ui/runs/TeamPick.tsx'
import { useEdit } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './CutLine.module.css'
import { percentTyped } from './line-figures.ts'

type RunOf = LineAnswer['runs'][number]

/** Who executes a run, and what of their time is kept back. */
export function TeamEdit({ of }: { of: LineAnswer }) {
  const [run, ...more] = of.runs
  return run && more.length === 0 ? <OfRun run={run} /> : null
}

function OfRun({ run }: { run: RunOf }) {
  const { key } = useHere()
  const edit = useEdit(updateRun, { key, ref: run.key }, run)
  const keep = (text: string) => {
    const percent = percentTyped(text)
    if (percent === null) notify(`“${text}” is no part of the time; type 0 to ${mostReserve}.`, { tone: 'problem' })
    else void edit({ reservePercent: percent })
  }
  return (
    <p className={css['simply']}>
      <Pop title="Testers" label="choose testers">
        <TeamPick team={run.team} onChoose={(people) => void edit({ people })} />
      </Pop>
      {' · '}
      <EditText label="Kept for retests" value={`${run.reserve} %`} onStore={keep} /> kept for retests
      {run.ownReserve && (
        <>
          {' ('}
          <Button look="word" onClick={() => void edit({ reservePercent: null })}>
            as in the project
          </Button>
          )
        </>
      )}
    </p>
  )
}
