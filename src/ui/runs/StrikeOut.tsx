import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'

/** Asks why something was recorded by mistake. */
export function StrikeOut({ count, onStrike }: { count: number; onStrike: (reason: string) => Promise<void> }) {
  const [reason, setReason] = useState('')
  return (
    <Form
      onSend={async () => {
        if (reason.trim() !== '') await onStrike(reason.trim())
      }}
    >
      <Field label="For what reason?" hint="It is kept with its reason, can be brought back, and counts nowhere.">
        {(id) => (
          <TextInput id={id} maxLength={500} value={reason} onChange={(event) => setReason(event.target.value)} />
        )}
      </Field>
      <Button look="main" type="submit" disabled={reason.trim() === ''}>
        Strike {counted(count, 'attempt')} out
      </Button>
    </Form>
  )
}
