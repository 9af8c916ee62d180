import type { Desk } from '#core/runs/desk-contract.ts'
import { minutesText } from '#core/lib/figures.ts'
import css from './Desk.module.css'

/** What comes after this item: the next two to open, and how much is left after them. */
export function DeskQueue({ rest, onOpen }: { rest: Desk['queue']; onOpen: (id: number) => void }) {
  const toDo = rest.filter(({ verdict, waits }) => verdict === 'Not run' || waits === 'freed')
  // What waits comes after all that does not.
  const open = [...toDo.filter(({ waits }) => waits !== 'waiting'), ...toDo.filter(({ waits }) => waits === 'waiting')]
  return (
    <footer className={css['queue']}>
      <span className="quiet">then</span>
      {open.slice(0, 2).map((item) => (
        <button key={item.id} type="button" onClick={() => onOpen(item.id)}>
          <span className="key quiet">{item.case}</span> {item.title}{' '}
          <span className="quiet">{item.waits ?? `${item.minutes} min`}</span>
        </button>
      ))}
      <span className="quiet">{restText(open.slice(2))}</span>
    </footer>
  )
}

const restText = (rest: Desk['queue']): string =>
  rest.length === 0
    ? 'nothing more'
    : `and ${rest.length} more, ${minutesText(rest.reduce((sum, { minutes }) => sum + minutes, 0))}`
