import { commaList } from '#core/lib/comma-list.ts'
import { useState } from 'react'
import type { CustomField } from '#core/projects/custom.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Form } from '#ui/kit/Form.tsx'
import type { ManyEdit } from './many.ts'
import { Value } from './OwnFields.tsx'

type OwnEdit = ManyEdit<{ custom: Record<string, string[]> }>

/** Tags and own fields of all ticked rows. */
export const ManyFields = ({ fields, onEdit }: { fields: readonly CustomField[]; onEdit: (edit: OwnEdit) => void }) => (
  <Pop label="tags and own fields" title="Tags and own fields">
    <div style={{ display: 'grid', gap: 10, inlineSize: 340 }}>
      <ManyTags onTags={(tags) => onEdit({ tags })} />
      {fields.length > 0 && <OwnValue fields={fields} onSet={(custom) => onEdit({ set: { custom } })} />}
    </div>
  </Pop>
)

/** Tags put on all ticked rows, or taken from them. */
export function ManyTags({ onTags }: { onTags: (tags: NonNullable<OwnEdit['tags']>) => void }) {
  const [text, setText] = useState('')
  const tags = commaList(text)
  const put = (to: NonNullable<OwnEdit['tags']>) => {
    if (tags.length === 0) return
    onTags(to)
    setText('')
  }
  return (
    <Form style={{ display: 'flex', gap: 8 }} onSend={() => put({ add: tags, drop: [] })}>
      <TextInput
        aria-label="Tags"
        placeholder="tags, with commas"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={tags.length === 0}>
        Add
      </Button>
      <Button disabled={tags.length === 0} onClick={() => put({ add: [], drop: tags })}>
        Take away
      </Button>
    </Form>
  )
}

function OwnValue({
  fields,
  onSet,
}: {
  fields: readonly CustomField[]
  onSet: (custom: Record<string, string[]>) => void
}) {
  const [fieldId, setFieldId] = useState('')
  const [values, setValues] = useState<string[]>([])
  const field = fields.find(({ id }) => String(id) === fieldId)
  const named = fields.map(({ id, name }) => ({ value: String(id), label: name }))
  return (
    <p>
      <Choice
        label="Own field"
        value={fieldId}
        options={[{ value: '', label: 'an own field' }, ...named]}
        onChoose={(id) => {
          setFieldId(id)
          setValues([])
        }}
      />
      {field && (
        <>
          {' '}
          becomes <Value field={field} values={values} onSet={setValues} />{' '}
          <Button onClick={() => onSet({ [fieldId]: values })}>{values.length === 0 ? 'Empty it' : 'Set it'}</Button>
        </>
      )}
    </p>
  )
}
