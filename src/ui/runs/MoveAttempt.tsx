import { useState } from 'react'
import type { AttemptRow } from '#core/runs/attempts-contract.ts'
import { moveAttempt, moveAttemptBack, swapAttemptRows } from '#core/runs/move-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Moves an attempt to another item, and back. */
function useMoving(of: AttemptRow) {
  const { key } = useHere()
  const moving = useWrite(moveAttempt)
  const back = useWrite(moveAttemptBack)
  return async (to: { run: string; case: string; environment: number }, from: number) => {
    const params = { key, id: of.id }
    const done = await moving.attempt({ params, body: to })
    if (!done) return
    const again = { run: of.run ?? to.run, case: of.case, environment: from }
    notify(
      done.another
        ? `Its verdict stands at ${to.case} now; what was recorded is struck out and says so.`
        : `It stands at ${to.case} in ${to.run} now.`,
      {
        undo: () =>
          void (done.another
            ? back.attempt({ params, body: { made: done.attempt } })
            : moving.attempt({ params, body: again })),
      },
    )
    go({ params: { attempt: String(done.attempt) } })
  }
}

/** Asks for the item an attempt belongs to. */
export function MoveAttempt({ of }: { of: AttemptRow }) {
  const { project } = useHere()
  const move = useMoving(of)
  const from = project.environments.find(({ name }) => name === of.environment)?.id ?? 0
  const [to, setTo] = useState({ run: of.run ?? '', case: of.case, environment: String(from) })
  const typed = (name: 'run' | 'case') => (event: { target: { value: string } }) =>
    setTo({ ...to, [name]: event.target.value.trim().toUpperCase() })
  return (
    <Form onSend={() => void move({ ...to, environment: Number(to.environment) }, from)}>
      <Field label="Run">
        {(id) => <TextInput id={id} value={to.run} placeholder="RN-4" onChange={typed('run')} />}
      </Field>
      <Field label="Case" hint="To another case goes only the verdict of the whole, with its steps as a note.">
        {(id) => <TextInput id={id} value={to.case} placeholder="TC-12" onChange={typed('case')} />}
      </Field>
      <p style={{ marginBlockEnd: 10 }}>
        in{' '}
        <Choice
          label="Environment"
          look="box"
          value={to.environment}
          options={project.environments.map(({ id, name }) => ({ value: String(id), label: name }))}
          onChoose={(environment) => setTo({ ...to, environment })}
        />
      </p>
      <Button look="main" type="submit" disabled={to.run === '' || to.case === ''}>
        Move it
      </Button>
    </Form>
  )
}

/** What was said of a data row belongs to another: the two change places. */
export function RowBelongs({ attempt, row, rows }: { attempt: number; row: number; rows: number }) {
  const { key, project } = useHere()
  const swapping = useWrite(swapAttemptRows)
  if (project.role !== 'lead') return null
  const params = { key, id: attempt }
  const others = Array.from({ length: rows }, (_, at) => at + 1).filter((each) => each !== row)
  const swap = async (other: number) => {
    const body = { one: row, other }
    if (!(await swapping.attempt({ params, body }))) return
    notify(`What was said of rows ${row} and ${other} has changed places.`, {
      undo: () => void swapping.attempt({ params, body }),
    })
  }
  return (
    <SetTo
      label={`Row ${row} belongs to`}
      words="belongs to another row"
      options={others.map((each) => ({ value: String(each), label: `row ${each}` }))}
      onSet={(other) => void swap(Number(other))}
    />
  )
}
