import { commaList } from '#core/lib/comma-list.ts'
import { useState } from 'react'
import { appliesTo, type CustomField, type CustomValues } from '#core/projects/custom.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { peopleOptions } from './people.ts'
import { useHere } from './here.ts'
import css from './OwnFields.module.css'

interface Props {
  readonly fields: readonly CustomField[]
  readonly type: string
  readonly tags: readonly string[]
  readonly values: CustomValues
  readonly onTags: (tags: string[]) => void
  readonly onValues: (values: CustomValues) => void
}

/** Tags, and the fields a lead has defined for this kind of object, as part of the sentence of its facts. */
export function OwnFields({ fields, type, tags, values, onTags, onValues }: Props) {
  return (
    <p className={css['own']}>
      tags <Tags tags={tags} onSet={onTags} />
      {fields
        .filter((field) => appliesTo(field, type) || (values[String(field.id)]?.length ?? 0) > 0)
        .map((field) => (
          <span
            key={field.id}
            data-missing={(field.required && (values[String(field.id)]?.length ?? 0) === 0) || undefined}
          >
            ; {field.name}{' '}
            <Value
              field={field}
              values={values[String(field.id)] ?? []}
              onSet={(own) => onValues({ [String(field.id)]: own })}
            />
          </span>
        ))}
    </p>
  )
}

/** Tags one by one, each taken away where it stands; several are added with commas. */
export function Tags({ tags, onSet }: { tags: readonly string[]; onSet: (tags: string[]) => void }) {
  return (
    <>
      {tags.map((tag) => (
        <span key={tag} className={css['tag']}>
          {tag}
          <button
            type="button"
            aria-label={`Take the tag ${tag} away`}
            onClick={() => onSet(tags.filter((each) => each !== tag))}
          >
            ×
          </button>
        </span>
      ))}
      <EditText
        label="A new tag"
        value=""
        placeholder="add"
        onStore={(tag) => {
          if (tag !== '' && !tags.includes(tag)) onSet([...tags, ...commaList(tag)])
        }}
      />
    </>
  )
}

export function Value({
  field,
  values,
  onSet,
}: {
  field: CustomField
  values: readonly string[]
  onSet: (values: string[]) => void
}) {
  const { project } = useHere()
  const first = values[0] ?? ''
  const none = { value: '', label: 'none' }
  if (field.kind === 'person')
    return (
      <Choice
        label={field.name}
        value={first}
        options={peopleOptions(project)}
        onChoose={(value) => onSet(value === '' ? [] : [value])}
      />
    )
  if (field.kind === 'choice')
    return (
      <Choice
        label={field.name}
        value={first}
        options={[none, ...field.choices]}
        onChoose={(value) => onSet(value === '' ? [] : [value])}
      />
    )
  if (field.kind === 'multi-choice') return <Several field={field} values={values} onSet={onSet} />
  return (
    <>
      {field.kind === 'link' && first !== '' && (
        <a href={first} rel="noreferrer">
          open ↗
        </a>
      )}{' '}
      <EditText
        label={field.name}
        value={first}
        placeholder={field.required ? 'required' : 'none'}
        onStore={(value) => onSet(value === '' ? [] : [value])}
      />
    </>
  )
}

function Several({
  field,
  values,
  onSet,
}: {
  field: CustomField
  values: readonly string[]
  onSet: (values: string[]) => void
}) {
  const [open, setOpen] = useState(false)
  if (!open)
    return (
      <Button look="word" onClick={() => setOpen(true)}>
        {values.length === 0 ? 'none' : values.join(', ')}
      </Button>
    )
  return (
    <span className={css['several']} role="group" aria-label={field.name}>
      {field.choices.map((choice) => (
        <label key={choice}>
          <input
            type="checkbox"
            checked={values.includes(choice)}
            onChange={(event) =>
              onSet(event.target.checked ? [...values, choice] : values.filter((each) => each !== choice))
            }
          />{' '}
          {choice}
        </label>
      ))}
      <Button look="word" onClick={() => setOpen(false)}>
        done
      </Button>
    </span>
  )
}
