import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import { endQuarantine, quarantineCases } from '#core/runs/quarantine-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { itemsChosen } from './slots-of-run.ts'

const placeOf = ({ caseId, environmentId }: ItemRow) => ({ case: caseId, environment: environmentId })

/** Asks why the cases of items do not count in their environments, or lets them count again. */
export function Quarantine({ of, ids, onDone }: { of: string; ids: readonly number[]; onDone: () => void }) {
  const { key } = useHere()
  const keeping = useWrite(quarantineCases)
  const ending = useWrite(endQuarantine)
  const [reason, setReason] = useState('')
  const params = { key }
  const chosen = async (): Promise<readonly ItemRow[]> =>
    itemsChosen(key, of, ids).catch((error: unknown) => {
      notify(sentenceOf(error), { tone: 'problem' })
      return []
    })
  const keep = async () => {
    const rows = await chosen()
    if (rows.length === 0) return
    const done = await keeping.attempt({
      params,
      body: { of: rows.map((row) => ({ ...placeOf(row), reason: reason.trim() })) },
    })
    if (!done) return
    notify(
      done.changed === 0
        ? 'They are in quarantine already.'
        : `${counted(done.changed, 'case')} in quarantine: executed and shown, and not counted.`,
      done.changed === 0 ? {} : { undo: () => void ending.attempt({ params, body: { of: done.undo } }) },
    )
    onDone()
  }
  const end = async () => {
    const rows = await chosen()
    if (rows.length === 0) return
    const done = await ending.attempt({ params, body: { of: rows.map(placeOf) } })
    if (!done) return
    notify(
      done.changed === 0 ? 'None of them is in quarantine.' : `${counted(done.changed, 'case')} counted again.`,
      done.changed === 0 ? {} : { undo: () => void keeping.attempt({ params, body: { of: done.undo } }) },
    )
    onDone()
  }
  return (
    <Form
      onSend={async () => {
        if (reason.trim() !== '') await keep()
      }}
    >
      <Field label="Why?" hint="It stands with each of them until they are let out; in every run, and in every figure.">
        {(id) => (
          <TextInput id={id} value={reason} maxLength={500} onChange={(event) => setReason(event.target.value)} />
        )}
      </Field>
      <p style={{ display: 'flex', gap: 12 }}>
        <Button look="main" type="submit" disabled={reason.trim() === ''}>
          Quarantine {counted(ids.length, 'item')}
        </Button>
        <Button look="word" onClick={() => void end()}>
          let them out
        </Button>
      </p>
    </Form>
  )
}
