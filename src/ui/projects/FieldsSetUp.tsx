import { commaList } from '#core/lib/comma-list.ts'
import { useState } from 'react'
import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import {
  createCustomField,
  type CustomField,
  customKinds,
  customOwners,
  deleteCustomField,
  listCustomFields,
  updateCustomField,
} from '#core/projects/custom.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import css from './SetUp.module.css'

type Field = OutputOf<typeof listCustomFields>['rows'][number]

/** Fields of the project’s own: what requirements and cases say here beyond what they say everywhere. */
export function FieldsSetUp({ lead }: { lead: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(listCustomFields, { params: { key } })
  return (
    <section className={css['one']}>
      {lead && <NewField />}
      {data?.rows.length === 0 && (
        <p className="quiet">None yet. A field defined here stands on every sheet, and in imports and exports.</p>
      )}
      <ul>
        {data?.rows.map((field) => (
          <li key={field.id} className={css['field']}>
            {lead ? <EditedField of={field} /> : <ReadField of={field} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

const About = ({ of: { kind, owner, used } }: { of: Field }) => (
  <span className="quiet">
    {kind} of a {owner}, given {used} times
  </span>
)

const ReadField = ({ of }: { of: Field }) => (
  <>
    <span>
      {of.name} <About of={of} />
    </span>
    {of.choices.length > 0 && <span className={css['choices']}>{of.choices.join(', ')}</span>}
    {of.owner === 'case' && of.types.length > 0 && (
      <span className={css['choices']}>
        <span className="quiet">asked of</span> {of.types.join(', ')}
      </span>
    )}
  </>
)

function useFieldWrites(field: Field) {
  const { key } = useHere()
  const store = useUndoable(updateCustomField, { key, id: field.id })
  const removing = useWrite(deleteCustomField)
  const making = useWrite(createCustomField)
  const params = { key, id: field.id }
  const change = (body: BodyOf<typeof updateCustomField>) => {
    const before = { name: field.name, required: field.required, choices: field.choices, types: field.types }
    void store(body, `The field ${body.name ?? field.name} is changed.`, before)
  }
  const remove = async () => {
    if (!(await removing.attempt({ params }))) return
    const { owner, name, kind, required, choices, types } = field
    notify(`The field ${name} is taken away; its ${field.used} values are kept.`, {
      undo: () => void making.attempt({ params: { key }, body: { owner, name, kind, required, choices, types } }),
    })
  }
  return { change, remove: () => void remove() }
}

function EditedField({ of }: { of: Field }) {
  const { change, remove } = useFieldWrites(of)
  return (
    <>
      <span>
        <EditText label="Name of the field" value={of.name} onStore={(name) => change({ name })} /> <About of={of} />
      </span>
      <label>
        <input type="checkbox" checked={of.required} onChange={(event) => change({ required: event.target.checked })} />{' '}
        required
      </label>
      <Button look="word" onClick={remove}>
        take away<span className="hidden"> {of.name}</span>
      </Button>
      {of.choices.length > 0 && (
        <span className={css['choices']}>
          <EditText
            label={`Choices of ${of.name}`}
            value={of.choices.join(', ')}
            onStore={(text) => change({ choices: commaList(text) })}
          />
        </span>
      )}
      {of.owner === 'case' && (
        <span className={css['choices']}>
          <span className="quiet">asked of</span>{' '}
          <EditText
            label={`Types of case ${of.name} is asked of`}
            value={of.types.join(', ')}
            placeholder="every type of case"
            onStore={(text) => change({ types: commaList(text) })}
          />
        </span>
      )}
    </>
  )
}

function NewField() {
  const { key } = useHere()
  const { attempt } = useWrite(createCustomField)
  const [name, setName] = useState('')
  const [owner, setOwner] = useState<CustomField['owner']>('case')
  const [kind, setKind] = useState<CustomField['kind']>('text')
  const [choices, setChoices] = useState('')
  const asked = kind === 'choice' || kind === 'multi-choice'
  const make = async () => {
    const body = { name, owner, kind, choices: asked ? commaList(choices) : [] }
    if (!(await attempt({ params: { key }, body }))) return
    notify(`The field ${name.trim()} stands on every ${owner} now.`)
    setName('')
    setChoices('')
  }
  return (
    <Form className={css['newField']} onSend={() => void make()}>
      <TextInput
        aria-label="Name of a new field"
        placeholder="A new field"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <span>
        of a <Choice label="Belongs to" value={owner} options={customOwners} onChoose={setOwner} />, a{' '}
        <Choice label="Kind of field" value={kind} options={customKinds} onChoose={setKind} />
      </span>
      {asked && (
        <TextInput
          aria-label="Choices, with commas between"
          placeholder="choices, with commas between"
          value={choices}
          onChange={(event) => setChoices(event.target.value)}
        />
      )}
      <Button type="submit" disabled={name.trim() === '' || (asked && choices.trim() === '')}>
        Define
      </Button>
    </Form>
  )
}
