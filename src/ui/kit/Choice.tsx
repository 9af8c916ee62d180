import css from './Choice.module.css'

export interface Option {
  readonly value: string
  readonly label: string
}
interface Props {
  readonly label: string
  readonly value: string
  readonly options: readonly (Option | string)[]
  readonly onChoose: (value: string) => void
  readonly look?: 'word' | 'box'
  readonly disabled?: boolean
  readonly tone?: 'risk' | undefined
}

const optionOf = (each: Option | string): Option => (typeof each === 'string' ? { value: each, label: each } : each)

/** One of several: the platform's own list, dressed as a word in a sentence or as a field. */
export function Choice({ label, value, options, onChoose, look = 'word', disabled = false, tone }: Props) {
  const all = options.map(optionOf)
  const shown = all.find((each) => each.value === value)?.label ?? value
  return (
    <span className={look === 'word' ? css['word'] : css['box']} data-tone={tone}>
      {look === 'word' && <span aria-hidden="true">{shown || '–'}</span>}
      <select aria-label={label} value={value} disabled={disabled} onChange={(event) => onChoose(event.target.value)}>
        {!all.some((each) => each.value === value) && <option value={value}>{value || '–'}</option>}
        {all.map((each) => (
          <option key={each.value} value={each.value}>
            {each.label}
          </option>
        ))}
      </select>
    </span>
  )
}
