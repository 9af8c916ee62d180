import { useState } from 'react'
import type { PlanSheet } from '#core/plans/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import css from './Plan.module.css'
import type { PartProps } from './PlanSheet.tsx'

export const Head = ({ title, children }: { title: string; children?: React.ReactNode }) => (
  <header className={css['head']}>
    <h2>{title}</h2>
    <p className="quiet">{children}</p>
  </header>
)

export const FreeText = ({
  of,
  may,
  edit,
  part,
  placeholder,
}: PartProps & { part: keyof PlanSheet['parts']; placeholder: string }) => (
  <RichText
    label={`words of ${part}`}
    html={of.parts[part] ?? ''}
    placeholder={may ? placeholder : ''}
    place={`${of.key}.${part}`}
    onStore={may ? (html) => edit({ parts: { [part]: html } }) : undefined}
  />
)

/** A line that is typed and added. */
export function AddLine({
  label,
  action,
  onAdd,
}: {
  label: string
  action: string
  onAdd: (text: string) => Promise<boolean>
}) {
  const [text, setText] = useState('')
  const store = async () => {
    if (await onAdd(text.trim())) setText('')
  }
  return (
    <Form className={css['line']} onSend={() => (text.trim() === '' ? undefined : void store())}>
      <TextInput
        type="text"
        aria-label={label}
        placeholder={label}
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={text.trim() === ''}>
        {action}
      </Button>
    </Form>
  )
}
