import { useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Form } from '#ui/kit/Form.tsx'
import css from './Desk.module.css'

/** Asks why a whole passes in which a step failed. */
export function Override({
  verdict,
  onClose,
  onGive,
}: {
  verdict: string
  onClose: () => void
  onGive: (reason: string) => void
}) {
  const [reason, setReason] = useState('')
  return (
    <Dialog title={`A step failed: why is the whole ${verdict}?`} onClose={onClose}>
      <Form
        onSend={() => {
          if (reason.trim() !== '') onGive(reason)
        }}
      >
        <textarea
          aria-label="Reason"
          autoFocus
          rows={3}
          className={css['reason']}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <p className="quiet">The reason stays with the attempt until the override is lifted.</p>
        <Button look="main" type="submit" disabled={reason.trim() === ''}>
          Override as {verdict}
        </Button>
      </Form>
    </Dialog>
  )
}
