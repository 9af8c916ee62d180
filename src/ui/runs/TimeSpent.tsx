import { useState } from 'react'
import { timeAttempt } from '#core/runs/note-contract.ts'
import { timingWords } from '#core/runs/timing.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { useDesk } from './useDesk.ts'

const clockText = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`

/** How long the attempt took so far; a click on it types another time. */
export function TimeSpent({ own, seconds }: { own: ReturnType<typeof useDesk>; seconds: number }) {
  const [open, setOpen] = useState(false)
  const timing = own.attempt?.timing ?? 'clock'
  const clock = (
    <span role="timer" aria-label="Time spent">
      {clockText(seconds)}
      {timing !== 'clock' && ` (${timingWords[timing]})`}
    </span>
  )
  if (!own.attempt) return clock
  return (
    <Pop label={clock} title="How long it took" open={open} onOpen={setOpen}>
      <TypedTime own={own} seconds={seconds} onDone={() => setOpen(false)} />
    </Pop>
  )
}

function TypedTime({ own, seconds, onDone }: { own: ReturnType<typeof useDesk>; seconds: number; onDone: () => void }) {
  const { key } = useHere()
  const { attempt } = useWrite(timeAttempt)
  const [minutes, setMinutes] = useState(String(Math.round(seconds / 60)))
  const send = async () => {
    const id = own.attempt?.id
    if (id === undefined) return
    const said = await attempt({ params: { key, id }, body: { minutes: Number(minutes) } })
    if (!said) return
    own.patch((before) => ({ ...before, ...said }))
    onDone()
  }
  const wrong = minutes.trim() === '' || !Number.isInteger(Number(minutes)) || Number(minutes) < 0
  return (
    <Form onSend={() => void send()}>
      <p style={{ marginBlockEnd: 8 }}>
        It took{' '}
        <input
          type="number"
          aria-label="Minutes it took"
          min={0}
          max={1440}
          style={{ inlineSize: 64 }}
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
        />{' '}
        minutes. The clock stops then, and it is marked as typed by hand.
      </p>
      <Button look="main" type="submit" disabled={wrong}>
        Keep it
      </Button>
    </Form>
  )
}
