import css from './Choice.module.css'

export interface Option<Value extends string = string> {
  readonly value: Value
  readonly label: string
}
export type Options<Value extends string> = readonly (Option<Value> | Value)[]

interface Props<Value extends string> {
  readonly label: string
  readonly value: Value
  readonly options: Options<Value>
  readonly onChoose: (value: Value) => void
  readonly look?: 'word' | 'box'
  readonly disabled?: boolean
  readonly tone?: 'risk' | undefined
}

const optionOf = <Value extends string>(each: Option<Value> | Value): Option<Value> =>
  typeof each === 'string' ? { value: each, label: each } : each

/** One of several: the platform's own list, dressed as a word in a sentence or as a field. */
export function Choice<Value extends string>(props: Props<Value>) {
  const { label, value, onChoose, look = 'word', disabled = false } = props
  const all = props.options.map(optionOf)
  const known = all.find((each) => each.value === value)
  const shown = known?.label ?? value
  const choose = (text: string) => {
    const chosen = all.find((each) => each.value === text)
    if (chosen) onChoose(chosen.value)
  }
  return (
    <span className={look === 'word' ? css['word'] : css['box']} data-tone={props.tone}>
      {look === 'word' && <span aria-hidden="true">{shown || '–'}</span>}
      <select aria-label={label} value={value} disabled={disabled} onChange={(event) => choose(event.target.value)}>
        {!known && <option value={value}>{value || '–'}</option>}
        {all.map((each) => (
          <option key={each.value} value={each.value}>
            {each.label}
          </option>
        ))}
      </select>
    </span>
  )
}
