import { actWords } from '#core/history/acts.ts'
import { type HistoryEntry, listHistory } from '#core/history/contract.ts'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useAnswer } from './answers.tsx'
import { ago } from './people.ts'
import { useHere } from './here.ts'
import css from './History.module.css'

const brief = (value: unknown): string => {
  const text =
    value === null || value === undefined || value === ''
      ? 'nothing'
      : Array.isArray(value)
        ? value.join(', ')
        : String(value).replace(/<[^>]*>/g, '')
  return text.length > 60 ? `${text.slice(0, 59)}…` : text
}

/** Who changed what, when, from which value. Asked for when it is opened. */
export function History({ about }: { about: string }) {
  return (
    <Unfold className={css['history']} summary="History">
      <Changes about={about} />
    </Unfold>
  )
}

function Changes({ about }: { about: string }) {
  const { key } = useHere()
  const { data } = useAnswer(listHistory, { params: { key }, query: { ref: about } })
  return (
    <ul>
      {data?.rows.length === 0 && <li className="quiet">Nothing has been changed since it was brought in.</li>}
      {data?.rows.map((entry) => (
        <li key={entry.id}>
          <span className="quiet">{ago(entry.at)}</span> <b>{entry.person ?? 'Command line'}</b> <Told of={entry} />
        </li>
      ))}
    </ul>
  )
}

/** What was done, with each value from and to. */
export const Told = ({ of: { kind, action, detail } }: { of: HistoryEntry }) => (
  <>
    {actWords(kind, action)}{' '}
    {detail &&
      Object.entries(detail).map(([field, [from, to]]) => (
        <span key={field}>
          {' '}
          · {field}: {brief(from)} → {brief(to)}
        </span>
      ))}
  </>
)
