import { Choice, type Options } from '#ui/kit/Choice.tsx'

const asked = ' '

/** A word among what can be done with ticked rows: choosing from it sets that on all of them. */
export function SetTo<Value extends string>(props: {
  readonly label: string
  readonly words?: string
  readonly options: Options<Value>
  readonly onSet: (value: Value) => void
}) {
  const { label, words = label.toLowerCase(), options, onSet } = props
  return (
    <Choice<Value | typeof asked>
      label={label}
      value={asked}
      options={[{ value: asked, label: words }, ...options]}
      onChoose={(value) => {
        if (value !== asked) onSet(value)
      }}
    />
  )
}
