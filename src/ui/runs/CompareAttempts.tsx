import { type ReadAttempt, readAttempt } from '#core/runs/attempts-contract.ts'
import { compareAttempts, type StepSaid } from '#core/runs/compare-attempts.ts'
import { sentenceOf } from '#ui/call.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import css from './Doubt.module.css'

/** Two attempts step by step, with what differs marked. */
export function CompareAttempts({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const { key } = useHere()
  const [first = 0, second = 0] = ids
  const one = useAnswer(readAttempt, { params: { key, id: first } })
  const other = useAnswer(readAttempt, { params: { key, id: second } })
  const error = one.error ?? other.error
  return (
    <Dialog title="Two attempts, step by step" onClose={onClose} wide>
      {error && <p role="alert">{sentenceOf(error)}</p>}
      {!error && !(one.data && other.data) && <p className="quiet">Reading both …</p>}
      {one.data && other.data && <Both one={one.data} other={other.data} />}
    </Dialog>
  )
}

function Both({ one, other }: { one: ReadAttempt; other: ReadAttempt }) {
  const steps = compareAttempts(one.attempt, other.attempt)
  const several = Math.max(one.attempt.rows.length, other.attempt.rows.length) > 1
  const differing = steps.filter(({ differs }) => differs).length
  return (
    <>
      {one.row.case !== other.row.case && (
        <p role="note">
          They are of two cases, {one.row.case} and {other.row.case}: no step is the same.
        </p>
      )}
      <p className="quiet">
        {differing === 0 ? 'They say the same of every step.' : `They differ at ${differing} of ${steps.length} steps.`}
      </p>
      <table className={css['compared']}>
        <thead>
          <tr>
            <th scope="col">Step</th>
            <Head of={one} />
            <Head of={other} />
          </tr>
        </thead>
        <tbody>
          {steps.map((step, at) => (
            <tr key={at} data-differs={step.differs || undefined}>
              <td>
                {several && <span className="quiet">row {step.row}: </span>}
                {step.action}
              </td>
              <Said of={step.one} />
              <Said of={step.other} />
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

const Head = ({ of: { row } }: { of: ReadAttempt }) => (
  <th scope="col">
    <SaidMark verdict={row.verdict} word={row.word} /> {row.build}, {row.environment}
    <div className={css['values']}>
      v{row.version}, {shortName(row.person)}
      {row.finishedAt !== null && `, ${momentText(row.finishedAt)}`}
    </div>
  </th>
)

const Said = ({ of }: { of: StepSaid | null }) => (
  <td>
    {of === null ? (
      <span className="quiet">not part of it</span>
    ) : (
      <>
        <SaidMark verdict={of.verdict} word={of.word} /> {of.comment}
      </>
    )}
  </td>
)
