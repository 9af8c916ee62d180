import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import type { RunSheet, updateRun } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'
import { DataRows } from './DataRows.tsx'
import css from './RunSheet.module.css'

type Edit = (body: BodyOf<typeof updateRun>) => Promise<unknown>

/** What the run is to find out; its name, aim and days can be changed as long as one likes. */
export function RunFacts({ of, onEdit }: { of: RunSheet; onEdit: Edit }) {
  const { project } = useHere()
  const [open, setOpen] = useState(false)
  if (project.role !== 'lead') return of.aim === '' ? null : <p>{of.aim}</p>
  return (
    <div className={css['teamHead']}>
      <span className={of.aim === '' ? 'quiet' : undefined}>
        {of.aim || 'No aim is written.'}
        {of.dataRows !== '' && <span className="quiet"> Only data rows {of.dataRows} of each case.</span>}
      </span>
      <Pop label="change" title="Name, aim and days" open={open} onOpen={setOpen}>
        <Facts of={of} onEdit={onEdit} onDone={() => setOpen(false)} />
      </Pop>
    </div>
  )
}

function Facts({ of, onEdit, onDone }: { of: RunSheet; onEdit: Edit; onDone: () => void }) {
  const [to, setTo] = useState({
    title: of.title,
    aim: of.aim,
    startOn: of.startOn,
    endOn: of.endOn,
    dataRows: of.dataRows,
  })
  const store = async () => {
    if (await onEdit({ ...to, title: to.title.trim() })) onDone()
  }
  return (
    <Form onSend={() => void store()}>
      <Field label="Title">
        {(id) => (
          <TextInput
            id={id}
            maxLength={200}
            value={to.title}
            onChange={(event) => setTo({ ...to, title: event.target.value })}
          />
        )}
      </Field>
      <Field label="Aim" hint="What it is to find out.">
        {(id) => (
          <TextInput
            id={id}
            maxLength={500}
            value={to.aim}
            onChange={(event) => setTo({ ...to, aim: event.target.value })}
          />
        )}
      </Field>
      <p style={{ marginBlockEnd: 10 }}>
        from{' '}
        <input
          type="date"
          aria-label="First day"
          value={to.startOn}
          onChange={(event) => setTo({ ...to, startOn: event.target.value })}
        />{' '}
        to{' '}
        <input
          type="date"
          aria-label="Last day"
          value={to.endOn}
          onChange={(event) => setTo({ ...to, endOn: event.target.value })}
        />
      </p>
      <p style={{ marginBlockEnd: 10 }}>
        <DataRows value={to.dataRows} onChange={(dataRows) => setTo({ ...to, dataRows })} />
      </p>
      <Button look="main" type="submit" disabled={to.title.trim() === '' || to.startOn === '' || to.endOn === ''}>
        Store
      </Button>
    </Form>
  )
}
