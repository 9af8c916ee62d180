import { Choice } from './Choice.tsx'

interface Props {
  readonly label: string
  readonly is: boolean
  readonly onChoose: (is: boolean) => void
  /** What the two are called. */
  readonly no?: string
  readonly yes?: string
  readonly disabled?: boolean
}

/** One of two, called by what each means. */
export const YesNo = ({ label, is, onChoose, no = 'no', yes = 'yes', disabled = false }: Props) => (
  <Choice
    label={label}
    look="box"
    disabled={disabled}
    value={is ? 'yes' : 'no'}
    options={[
      { value: 'no', label: no },
      { value: 'yes', label: yes },
    ]}
    onChoose={(value) => onChoose(value === 'yes')}
  />
)
