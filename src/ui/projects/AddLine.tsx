import { useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import css from './SetUp.module.css'

/** Says what was done, if it was. */
export function tell(done: unknown, text: string): boolean {
  if (done !== null) notify(text)
  return done !== null
}

/** One field by which something gets a name and is made; what was refused stays in the field. */
export function AddLine({
  label,
  example = label,
  action,
  onAdd,
}: {
  label: string
  example?: string
  action: string
  onAdd: (name: string) => Promise<boolean>
}) {
  const [name, setName] = useState('')
  const add = async () => {
    if (name.trim() !== '' && (await onAdd(name.trim()))) setName('')
  }
  return (
    <Form className={css['add']} onSend={() => void add()}>
      <TextInput
        aria-label={label}
        placeholder={example}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={name.trim() === ''}>
        {action}
      </Button>
    </Form>
  )
}
