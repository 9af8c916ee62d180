import { addDays, format } from 'date-fns'
import { useState } from 'react'
import { createRun } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/plans/Plans.module.css'

interface Props {
  readonly plan: {
    readonly id: number
    readonly title: string
    readonly releaseId: number
    readonly environments: readonly number[]
  }
  readonly onClose: () => void
}

/** Opens a run over a plan: build, environments, testers and window are all it asks. */
export function NewRun({ plan, onClose }: Props) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createRun)
  const builds = project.builds
    .filter(({ release, state }) => release === plan.releaseId && state !== 'Withdrawn')
    .reverse()
  const [build, setBuild] = useState(String(builds.find(({ state }) => state === 'Offered')?.id ?? builds[0]?.id ?? ''))
  const [title, setTitle] = useState(`${plan.title}, ${builds.find(({ id }) => String(id) === build)?.name ?? ''}`)
  const [environments, setEnvironments] = useState<readonly number[]>(plan.environments)
  const testers = project.people.filter(({ role }) => role !== 'viewer')
  const [people, setPeople] = useState<readonly string[]>(testers.map(({ id }) => id))
  const [dates, setDates] = useState({
    startOn: format(new Date(), 'yyyy-MM-dd'),
    endOn: format(addDays(new Date(), 4), 'yyyy-MM-dd'),
  })
  const [deal, setDeal] = useState(true)
  const toggle = <T,>(list: readonly T[], each: T) =>
    list.includes(each) ? list.filter((other) => other !== each) : [...list, each]
  const store = async () => {
    const made = await attempt({
      params: { key },
      body: {
        title,
        build: Number(build),
        plan: plan.id,
        environments: [...environments],
        people: [...people],
        ...dates,
        deal,
      },
    })
    if (!made) return
    notify(`${made.key} is open with ${made.items} items.`)
    location.assign(`/p/${key}/${made.key}?full=yes`)
  }
  return (
    <Dialog title="Open a run" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void store()
        }}
      >
        <Field label="Title">
          {(id) => <TextInput id={id} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <p>
          On build{' '}
          <Choice
            label="Build"
            look="box"
            value={build}
            options={builds.map(({ id, name, state }) => ({
              value: String(id),
              label: state === 'Offered' ? name : `${name} (${state.toLowerCase()})`,
            }))}
            onChoose={setBuild}
          />{' '}
          from{' '}
          <input
            type="date"
            aria-label="First day"
            value={dates.startOn}
            onChange={(event) => setDates({ ...dates, startOn: event.target.value })}
          />{' '}
          to{' '}
          <input
            type="date"
            aria-label="Last day"
            value={dates.endOn}
            onChange={(event) => setDates({ ...dates, endOn: event.target.value })}
          />
        </p>
        <fieldset className={css['ticks']}>
          <legend>Environments (each case becomes an item in each)</legend>
          {project.environments
            .filter(({ isAny }) => !isAny)
            .map(({ id, name }) => (
              <label key={id}>
                <input
                  type="checkbox"
                  checked={environments.includes(id)}
                  onChange={() => setEnvironments(toggle(environments, id))}
                />{' '}
                {name}
              </label>
            ))}
        </fieldset>
        <fieldset className={css['ticks']}>
          <legend>Testers</legend>
          {testers.map(({ id, name, skills }) => (
            <label key={id}>
              <input type="checkbox" checked={people.includes(id)} onChange={() => setPeople(toggle(people, id))} />{' '}
              {name} <span className="quiet">{skills.join(', ')}</span>
            </label>
          ))}
        </fieldset>
        <p style={{ marginBlockEnd: 12 }}>
          <label>
            <input type="checkbox" checked={deal} onChange={() => setDeal(!deal)} /> Deal the items evenly by minutes
          </label>
        </p>
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || build === ''}>
          {busy ? 'Opening…' : 'Open the run'}
        </Button>
      </form>
    </Dialog>
  )
}
