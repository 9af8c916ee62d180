import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { type FinalVerdict, finalVerdicts } from '#core/lib/verdict.ts'
import { giveVerdicts, takeVerdictsBack } from '#core/runs/many-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'
import { howMany, withWhy } from '#ui/shell/many.ts'

/** One verdict for many items of a run, told with the way back; answers whether it went through. */
export function useVerdicts(ref: string) {
  const { key } = useHere()
  const giving = useWrite(giveVerdicts)
  const taking = useWrite(takeVerdictsBack)
  const going = useGoing()
  const params = { key, ref }
  return async (ids: readonly number[], verdict: FinalVerdict, reason: string): Promise<boolean> => {
    const done = await going(`Giving ${counted(ids.length, 'verdict')} …`, (job) =>
      giving.attempt({ params, body: { ids: [...ids], verdict, reason }, job }),
    )
    if (!done) return false
    notify(withWhy(`${howMany(done.changed, ids.length, 'item')} ${verdict}.`, done.stopped), {
      undo: () => void taking.attempt({ params, body: { ids: done.undo } }),
    })
    return done.stopped === undefined
  }
}

/** Asks for the verdict and its reason. */
export function GiveVerdict({ of, ids, onGiven }: { of: string; ids: readonly number[]; onGiven: () => void }) {
  const give = useVerdicts(of)
  const [verdict, setVerdict] = useState<FinalVerdict>('Skipped')
  const [reason, setReason] = useState('')
  return (
    <Form
      onSend={async () => {
        if (reason.trim() !== '' && (await give(ids, verdict, reason.trim()))) onGiven()
      }}
    >
      <p style={{ marginBlockEnd: 8 }}>
        {counted(ids.length, 'item')} become{ids.length === 1 ? 's' : ''}{' '}
        <Choice label="Verdict" look="box" value={verdict} options={finalVerdicts} onChoose={setVerdict} />
      </p>
      <Field label="For what reason?" hint="It stands with each attempt, which took no time.">
        {(id) => (
          <TextInput id={id} value={reason} maxLength={1000} onChange={(event) => setReason(event.target.value)} />
        )}
      </Field>
      <Button look="main" type="submit" disabled={reason.trim() === ''}>
        Give it
      </Button>
    </Form>
  )
}
