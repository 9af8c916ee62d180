import { useState } from 'react'
import type { CustomField } from '#core/projects/custom.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import type { ManyEdit } from './many.ts'
import { Value } from './OwnFields.tsx'

type OwnEdit = ManyEdit<{ custom: Record<string, string[]> }>

/** Tags and own fields of all ticked rows. */
export function ManyFields({ fields, onEdit }: { fields: readonly CustomField[]; onEdit: (edit: OwnEdit) => void }) {
  const [tag, setTag] = useState('')
  const [fieldId, setFieldId] = useState('')
  const [values, setValues] = useState<string[]>([])
  const field = fields.find(({ id }) => String(id) === fieldId)
  const tags = tag
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '')
  return (
    <Pop label="tags and own fields" title="Tags and own fields">
      <div style={{ display: 'grid', gap: 10, inlineSize: 340 }}>
        <form
          style={{ display: 'flex', gap: 8 }}
          onSubmit={(event) => {
            event.preventDefault()
            if (tags.length > 0) {
              onEdit({ tags: { add: tags, drop: [] } })
              setTag('')
            }
          }}
        >
          <TextInput
            aria-label="Tags"
            placeholder="tags, with commas"
            value={tag}
            onChange={(event) => setTag(event.target.value)}
          />
          <Button type="submit" disabled={tags.length === 0}>
            Add
          </Button>
          <Button
            disabled={tags.length === 0}
            onClick={() => {
              onEdit({ tags: { add: [], drop: tags } })
              setTag('')
            }}
          >
            Take away
          </Button>
        </form>
        {fields.length > 0 && (
          <p>
            <Choice
              label="Own field"
              value={fieldId}
              options={[
                { value: '', label: 'an own field' },
                ...fields.map(({ id, name }) => ({ value: String(id), label: name })),
              ]}
              onChoose={(id) => {
                setFieldId(id)
                setValues([])
              }}
            />
            {field && (
              <>
                {' '}
                becomes <Value field={field} values={values} onSet={setValues} />{' '}
                <Button onClick={() => onEdit({ set: { custom: { [fieldId]: values } } })}>
                  {values.length === 0 ? 'Empty it' : 'Set it'}
                </Button>
              </>
            )}
          </p>
        )}
      </div>
    </Pop>
  )
}
