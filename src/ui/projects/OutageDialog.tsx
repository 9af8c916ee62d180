import { useState } from 'react'
import { addOutage, type EnvironmentRow, removeOutage } from '#core/projects/environments-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { clockField, instantInField } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Says that an environment is not to be used: since when, until when if that is known, and why. */
export function OutageDialog({ of, onClose }: { of: EnvironmentRow; onClose: () => void }) {
  const { key } = useHere()
  const saying = useWrite(addOutage)
  const taking = useWrite(removeOutage)
  const [from, setFrom] = useState(() => clockField(Date.now()))
  const [until, setUntil] = useState('')
  const [reason, setReason, keeping] = useKept(`outage.${of.id}`, '')
  const store = async () => {
    const fromAt = instantInField(from)
    if (fromAt === null || reason.trim() === '') return
    const made = await saying.attempt({
      params: { key },
      body: { environment: of.id, fromAt, untilAt: instantInField(until), reason: reason.trim() },
    })
    if (!made) return
    notify(`${of.name} is out of use; items not begun there are held.`, {
      undo: () => void taking.attempt({ params: { key, id: made.id }, query: {} }),
    })
    keeping.done()
    onClose()
  }
  return (
    <Dialog title={`${of.name} is out of use`} onClose={onClose} kept={keeping}>
      <Form onSend={() => void store()}>
        <Field label="Why">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={reason}
              maxLength={200}
              placeholder="such as: the mast is down"
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </Field>
        <Interval from={from} until={until} onFrom={setFrom} onUntil={setUntil} />
        <p className="quiet">
          Items not begun there are held until it ends. Attempts made meanwhile are marked; nothing of them is lost.
        </p>
        <Button look="main" type="submit" disabled={reason.trim() === '' || from === '' || saying.busy}>
          Out of use
        </Button>
      </Form>
    </Dialog>
  )
}

const Interval = ({
  from,
  until,
  onFrom,
  onUntil,
}: {
  from: string
  until: string
  onFrom: (text: string) => void
  onUntil: (text: string) => void
}) => (
  <p>
    since{' '}
    <input
      type="datetime-local"
      aria-label="Since"
      required
      value={from}
      onChange={(event) => onFrom(event.target.value)}
    />{' '}
    until{' '}
    <input
      type="datetime-local"
      aria-label="Until, if that is known"
      value={until}
      onChange={(event) => onUntil(event.target.value)}
    />{' '}
    <span className="quiet">(empty: it goes on)</span>
  </p>
)
