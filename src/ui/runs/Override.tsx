import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Form } from '#ui/kit/Form.tsx'
import css from './Desk.module.css'

/** Asks why a whole passes in which a step failed. */
export function Override({
  verdict,
  place,
  onClose,
  onGive,
}: {
  verdict: string
  /** Tells the whole it is said of from others. */
  place: string
  onClose: () => void
  onGive: (reason: string) => void
}) {
  const [reason, setReason, keeping] = useKept(`override.${place}`, '')
  return (
    <Dialog title={`A step failed: why is the whole ${verdict}?`} onClose={onClose} kept={keeping}>
      <Form
        onSend={() => {
          if (reason.trim() === '') return
          keeping.done()
          onGive(reason)
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
