import css from './Plans.module.css'

/** Some of several, each with a box to tick. */
export function Ticks<Id extends string | number>({
  legend,
  all,
  ticked,
  onTick,
}: {
  legend: string
  all: readonly { readonly id: Id; readonly name: string; readonly note?: string }[]
  ticked: readonly Id[]
  onTick: (ids: Id[]) => void
}) {
  const toggle = (id: Id) => onTick(ticked.includes(id) ? ticked.filter((each) => each !== id) : [...ticked, id])
  return (
    <fieldset className={css['ticks']}>
      <legend>{legend}</legend>
      {all.map(({ id, name, note }) => (
        <label key={id}>
          <input type="checkbox" checked={ticked.includes(id)} onChange={() => toggle(id)} /> {name}{' '}
          {note && <span className="quiet">{note}</span>}
        </label>
      ))}
    </fieldset>
  )
}
