import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { holdItems, waitFor } from '#core/runs/waits-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { withWhy } from '#ui/shell/many.ts'

/** Asks what the items wait for, or lets them go on. */
export function WaitFor({ of, ids, onDone }: { of: string; ids: readonly number[]; onDone: () => void }) {
  const { key } = useHere()
  const waiting = useWrite(waitFor)
  const holding = useWrite(holdItems)
  const [said, setSaid] = useState('')
  const params = { key, ref: of }
  const say = async (what: string | null) => {
    const done = await waiting.attempt({ params, body: { ids: [...ids], for: what } })
    if (!done) return
    const told = what === null ? 'no longer wait for what was said' : `wait for ${what.toUpperCase()}`
    notify(
      withWhy(done.changed === 0 ? 'They do so already.' : `${counted(done.changed, 'item')} ${told}.`, done.stopped),
      done.undo.length === 0 ? {} : { undo: () => void holding.attempt({ params, body: { of: done.undo } }) },
    )
    onDone()
  }
  return (
    <Form
      onSend={async () => {
        if (said.trim() !== '') await say(said.trim())
      }}
    >
      <Field
        label="What for?"
        hint="A defect, until it is repaired or closed; or a case of this run, until it passes. Whoever has the item is told then."
      >
        {(id) => (
          <TextInput
            id={id}
            value={said}
            placeholder="DF-12 or TC-40"
            maxLength={20}
            onChange={(event) => setSaid(event.target.value)}
          />
        )}
      </Field>
      <p style={{ display: 'flex', gap: 12 }}>
        <Button look="main" type="submit" disabled={said.trim() === ''}>
          Wait for it
        </Button>
        <Button look="word" onClick={() => void say(null)}>
          wait for nothing
        </Button>
      </p>
    </Form>
  )
}
