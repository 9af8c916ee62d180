import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { orderItems, type RunSheet, type updateRun } from '#core/runs/contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useVerdicts } from './GiveVerdict.tsx'
import { NewRun } from './NewRun.tsx'
import { sayPlainly } from './sayable.ts'
import { slotsOfRun } from './slots-of-run.ts'

const isOpen = JSON.stringify({ field: 'verdict', op: 'is', values: ['Not run', 'In progress'] })
/** What becomes of items that are not executed when a run is closed. */
const ways = {
  leave: 'stay as they are',
  skip: 'are skipped, for the reason below',
  carry: 'go into another run, which is opened first',
} as const
type Way = keyof typeof ways

interface Props {
  readonly of: RunSheet
  readonly to: 'Closed' | 'Aborted'
  readonly onEdit: (body: BodyOf<typeof updateRun>) => Promise<unknown>
  readonly onClose: () => void
}

/** Ends a run: early for a reason, or closed with what becomes of what is left open. */
export function EndRun({ of, to, onEdit, onClose }: Props) {
  const { key } = useHere()
  const give = useVerdicts(of.key)
  const [reason, setReason] = useState('')
  const [way, setWay] = useState<Way>('leave')
  const [slots, setSlots] = useState<readonly { case: number; environment: number }[] | null>(null)
  const left = of.items - of.done
  const isEarly = to === 'Aborted'
  const wants = isEarly || way === 'skip'
  const end = async () => {
    if (wants && reason.trim() === '') return
    if (!isEarly && way === 'carry') return setSlots(await slotsOfRun(key, of.key, isOpen))
    if (!isEarly && way === 'skip') {
      const { ids } = await call(orderItems, { params: { key, ref: of.key }, query: { filter: isOpen } })
      if (ids.length > 0 && !(await give(ids, { ...sayPlainly('Skipped'), reason: reason.trim() }))) return
    }
    if ((await onEdit({ state: to, reason: reason.trim() })) !== false) onClose()
  }
  if (slots)
    return (
      <NewRun
        plan={null}
        known={{ title: `${of.title}, what was left`, build: of.buildId, releaseId: of.releaseId }}
        slots={slots}
        onOpened={() => onEdit({ state: 'Closed', reason: reason.trim() })}
        onClose={onClose}
      />
    )
  return (
    <Dialog title={isEarly ? `End ${of.key} early` : `Close ${of.key}`} onClose={onClose}>
      <Form onSend={() => end().catch((error: unknown) => notify(sentenceOf(error), { tone: 'problem' }))}>
        {!isEarly && left > 0 && <LeftOpen left={left} way={way} onWay={setWay} />}
        <Field label={wants ? 'For what reason?' : 'For what reason? (may stay empty)'}>
          {(id) => (
            <TextInput
              id={id}
              autoFocus
              value={reason}
              maxLength={500}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </Field>
        <Button look="main" type="submit" disabled={wants && reason.trim() === ''}>
          {isEarly ? 'End it early' : way === 'carry' && left > 0 ? 'Open the other run' : 'Close the run'}
        </Button>
      </Form>
    </Dialog>
  )
}

const LeftOpen = ({ left, way, onWay }: { left: number; way: Way; onWay: (way: Way) => void }) => (
  <fieldset style={{ border: 0, padding: 0, marginBlockEnd: 12 }}>
    <legend>{counted(left, 'item')} not executed:</legend>
    {(Object.keys(ways) as Way[]).map((each) => (
      <p key={each}>
        <label>
          <input type="radio" name="left" checked={way === each} onChange={() => onWay(each)} /> {ways[each]}
        </label>
      </p>
    ))}
  </fieldset>
)
