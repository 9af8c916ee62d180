import { useState } from 'react'
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
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './SetUp.module.css'

const listOf = (text: string): string[] =>
  text
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '')

/** Fields of the project’s own: what requirements and cases say here beyond what they say everywhere. */
export function FieldsSetUp({ lead }: { lead: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(listCustomFields, { params: { key } })
  const updating = useWrite(updateCustomField)
  const removing = useWrite(deleteCustomField)
  const making = useWrite(createCustomField)
  const change = (
    field: CustomField,
    body: { name?: string; required?: boolean; choices?: string[]; types?: string[] },
  ) => void updating.attempt({ params: { key, id: field.id }, body })
  const remove = async (field: CustomField & { used: number }) => {
    const done = await removing.attempt({ params: { key, id: field.id } })
    if (done)
      notify(`The field ${field.name} is taken away; its ${field.used} values are kept.`, {
        undo: () =>
          void making.attempt({
            params: { key },
            body: {
              owner: field.owner,
              name: field.name,
              kind: field.kind,
              required: field.required,
              choices: field.choices,
              types: field.types,
            },
          }),
      })
  }
  return (
    <section>
      <h2>Own fields</h2>
      {lead && <NewField />}
      {data?.rows.length === 0 && (
        <p className="quiet">None yet. A field defined here stands on every sheet, and in imports and exports.</p>
      )}
      <ul>
        {data?.rows.map((field) => (
          <li key={field.id} className={css['field']}>
            <span>
              {lead ? (
                <EditText label="Name of the field" value={field.name} onStore={(name) => change(field, { name })} />
              ) : (
                field.name
              )}{' '}
              <span className="quiet">
                {field.kind} of a {field.owner}, given {field.used} times
              </span>
            </span>
            {lead && (
              <label>
                <input
                  type="checkbox"
                  checked={field.required}
                  onChange={(event) => change(field, { required: event.target.checked })}
                />{' '}
                required
              </label>
            )}
            {lead && (
              <Button look="word" onClick={() => void remove(field)}>
                take away<span className="hidden"> {field.name}</span>
              </Button>
            )}
            {field.choices.length > 0 && (
              <span className={css['choices']}>
                {lead ? (
                  <EditText
                    label={`Choices of ${field.name}`}
                    value={field.choices.join(', ')}
                    onStore={(text) => change(field, { choices: listOf(text) })}
                  />
                ) : (
                  field.choices.join(', ')
                )}
              </span>
            )}
            {field.owner === 'case' && (lead || field.types.length > 0) && (
              <span className={css['choices']}>
                <span className="quiet">asked of</span>{' '}
                {lead ? (
                  <EditText
                    label={`Types of case ${field.name} is asked of`}
                    value={field.types.join(', ')}
                    placeholder="every type of case"
                    onStore={(text) => change(field, { types: listOf(text) })}
                  />
                ) : (
                  field.types.join(', ')
                )}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

function NewField() {
  const { key } = useHere()
  const making = useWrite(createCustomField)
  const [name, setName] = useState('')
  const [owner, setOwner] = useState<CustomField['owner']>('case')
  const [kind, setKind] = useState<CustomField['kind']>('text')
  const [choices, setChoices] = useState('')
  const asked = kind === 'choice' || kind === 'multi-choice'
  const make = async () => {
    const done = await making.attempt({
      params: { key },
      body: { name, owner, kind, choices: asked ? listOf(choices) : [] },
    })
    if (!done) return
    notify(`The field ${name.trim()} stands on every ${owner} now.`)
    setName('')
    setChoices('')
  }
  return (
    <form
      className={css['newField']}
      onSubmit={(event) => {
        event.preventDefault()
        void make()
      }}
    >
      <TextInput
        aria-label="Name of a new field"
        placeholder="A new field"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <span>
        of a{' '}
        <Choice
          label="Belongs to"
          value={owner}
          options={customOwners}
          onChoose={(to) => setOwner(to === 'requirement' ? 'requirement' : 'case')}
        />
        , a{' '}
        <Choice
          label="Kind of field"
          value={kind}
          options={customKinds}
          onChoose={(to) => setKind(customKinds.find((each) => each === to) ?? 'text')}
        />
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
    </form>
  )
}
