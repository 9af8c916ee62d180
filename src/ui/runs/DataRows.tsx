import { isRowsText } from '#core/runs/data-rows.ts'

/** Which data rows of each case are executed; all where nothing is typed. */
export const DataRows = ({ value, onChange }: { value: string; onChange: (text: string) => void }) => (
  <span>
    Data rows{' '}
    <input
      aria-label="Data rows of each case"
      aria-invalid={!isRowsText(value)}
      placeholder="all, or 1, 3-5"
      style={{ inlineSize: 120 }}
      maxLength={100}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
    .
  </span>
)
