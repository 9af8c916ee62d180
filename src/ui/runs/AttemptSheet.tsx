import { timingWords } from '#core/runs/timing.ts'
import { changeAttempts, type ReadAttempt, readAttempt } from '#core/runs/attempts-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Lost } from '#ui/shell/Lost.tsx'
import { useMany } from '#ui/shell/many.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Doubt.module.css'
import { MoveAttempt, RowBelongs } from './MoveAttempt.tsx'
import { StrikeOut } from './StrikeOut.tsx'

const close = () => go({ params: { attempt: null } })

/** An attempt as it was executed, beside the list of all. */
export function AttemptSheet({ id, onDoubt }: { id: number; onDoubt: (ids: readonly number[]) => void }) {
  const { key } = useHere()
  const { data, error } = useAnswer(readAttempt, { params: { key, id } })
  if (error && !data) return <Lost error={error} onClose={close} />
  if (!data) return null
  return (
    <article className={sheet['sheet']} aria-label={`Attempt at ${data.row.case}`}>
      <Head of={data} />
      <Facts of={data} />
      <Acts of={data} onDoubt={onDoubt} />
      <Steps of={data} />
      <Evidence of={data} />
    </article>
  )
}

function Head({ of: { row } }: { of: ReadAttempt }) {
  const { key } = useHere()
  return (
    <header className={sheet['head']}>
      <h2 className={row.struck === null ? undefined : css['struck']}>
        <SaidMark verdict={row.verdict} word={row.word} size={18} /> {row.word ?? row.verdict}{' '}
        <span className="quiet">
          <a href={`/p/${key}/${row.case}`}>{row.case}</a> {row.title}
        </span>
      </h2>
      <Button look="word" onClick={close}>
        close
      </Button>
    </header>
  )
}

function Facts({ of: { row, attempt } }: { of: ReadAttempt }) {
  const { key } = useHere()
  return (
    <div className={sheet['facts']}>
      <p>
        On <b className="key">{row.build}</b> in <b>{row.environment}</b>, version {row.version}, by{' '}
        <b>{row.person ?? 'a machine'}</b>
        {row.recordedBy !== null && <>, recorded by {row.recordedBy}</>}; {momentText(row.startedAt)}
        {row.finishedAt !== null && ` to ${momentText(row.finishedAt)}`}
        {row.seconds > 0 && `, ${Math.max(1, Math.round(row.seconds / 60))} min ${timingWords[row.timing]}`}.
      </p>
      <p>
        {row.run !== null && row.item !== null && (
          <>
            An item of <a href={`/p/${key}/${row.run}?full=yes`}>{row.run}</a>,{' '}
            <a href={`/p/${key}/desk/${row.item}?mine=no`}>at the desk</a>.{' '}
          </>
        )}
        {row.struck !== null
          ? `Struck out: ${row.struck}. It counts nowhere.`
          : row.doubt !== null
            ? `Doubted: ${row.doubt}. It is not current.`
            : row.stands
              ? 'It is what counts here.'
              : row.final
                ? 'Another result counts here by now.'
                : 'It goes on.'}
      </p>
      {row.reason !== null && <p>Reason: {row.reason}.</p>}
      {attempt.override !== null && <p>Overridden: {attempt.override}.</p>}
      {row.comment !== '' && <p>{row.comment}</p>}
      {row.defects.length > 0 && (
        <p>
          Defects:{' '}
          {row.defects.map((defect) => (
            <a key={defect} href={`/p/${key}/${defect}`} style={{ marginInlineEnd: 8 }}>
              {defect}
            </a>
          ))}
        </p>
      )}
    </div>
  )
}

function Acts({ of: { row }, onDoubt }: { of: ReadAttempt; onDoubt: (ids: readonly number[]) => void }) {
  const { key, project } = useHere()
  const many = useMany(changeAttempts, { params: { key }, one: 'attempt', nothing: {} })
  if (project.role !== 'lead') return null
  return (
    <p className={css['acts']}>
      {row.final && row.doubt === null && row.struck === null && (
        <Button look="word" onClick={() => onDoubt([row.id])}>
          doubt it
        </Button>
      )}
      {row.struck === null ? (
        <Pop label="strike it out" title="Strike the attempt out">
          <StrikeOut count={1} onStrike={(struck) => many.set([row.id], { struck })} />
        </Pop>
      ) : (
        <Button look="word" onClick={() => void many.set([row.id], { struck: null })}>
          bring it back
        </Button>
      )}
      {row.struck === null && (
        <Pop label="move it" title="To the item it belongs to">
          <MoveAttempt of={row} />
        </Pop>
      )}
    </p>
  )
}

function Steps({ of: { attempt } }: { of: ReadAttempt }) {
  const rows = attempt.rows.length === 0 ? [{}] : attempt.rows
  return (
    <section className={sheet['part']}>
      <h3>Steps</h3>
      {rows.map((values, at) => (
        <div key={at}>
          {rows.length > 1 && (
            <p className={css['values']}>
              row {at + 1}:{' '}
              {Object.entries(values)
                .map(([name, value]) => `${name} ${String(value)}`)
                .join(', ')}{' '}
              <RowBelongs attempt={attempt.id} row={at + 1} rows={rows.length} />
            </p>
          )}
          <table className={css['compared']}>
            <tbody>
              {attempt.steps.map((step, place) => {
                const mark = attempt.marks.find((each) => each.row === at + 1 && each.step === step.id)
                return (
                  <tr key={step.id}>
                    <td className={css['mark']}>
                      <SaidMark verdict={mark?.verdict ?? 'Not run'} word={mark?.word ?? null} />
                    </td>
                    <td>
                      <span className="quiet">{place + 1}</span> <Shown inline html={step.action} />
                      {mark?.comment && (
                        <div>
                          <Shown inline html={mark.comment} />
                        </div>
                      )}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </div>
      ))}
    </section>
  )
}

const Evidence = ({ of: { attempt } }: { of: ReadAttempt }) =>
  attempt.evidence.length === 0 ? null : (
    <section className={sheet['part']}>
      <h3>Evidence</h3>
      <ul>
        {attempt.evidence.map((each) => (
          <li key={each.id}>
            <a href={each.url} target="_blank" rel="noreferrer">
              {each.name}
            </a>
          </li>
        ))}
      </ul>
    </section>
  )
