import { addDays, format } from 'date-fns'
import { useMemo } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { Project } from '#core/projects/contract.ts'
import { createRun } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Ticks } from '#ui/plans/Ticks.tsx'
import { Unapproved } from './Unapproved.tsx'

interface Props {
  readonly plan: {
    readonly id: number
    readonly title: string
    readonly releaseId: number
    readonly environments: readonly number[]
    /** Cases of the plan that may not be executed yet. */
    readonly unapproved: readonly string[]
  }
  /** Exactly these items, where they are chosen already. */
  readonly slots?: readonly { readonly case: number; readonly environment: number }[]
  /** Entry criteria of the plan that do not hold yet. */
  readonly early?: readonly string[]
  readonly onClose: () => void
}

interface Asked {
  readonly title: string
  readonly build: string
  readonly environments: readonly number[]
  readonly people: readonly string[]
  readonly startOn: string
  readonly endOn: string
  readonly deal: boolean
}

/** A run takes a working week unless it is said otherwise. */
const usualDays = 4
const dayOf = (date: Date): string => format(date, 'yyyy-MM-dd')

/** What a run of this plan most likely is: on the newest build that is offered, with all who may execute. */
function likely({ builds, people }: Project, plan: Props['plan']): Asked {
  const own = buildsOf(builds, plan.releaseId)
  const build = own.find(({ state }) => state === 'Offered') ?? own[0]
  const now = new Date()
  return {
    title: `${plan.title}, ${build?.name ?? ''}`,
    build: String(build?.id ?? ''),
    environments: plan.environments,
    people: people.filter(({ role }) => role !== 'viewer').map(({ id }) => id),
    startOn: dayOf(now),
    endOn: dayOf(addDays(now, usualDays)),
    deal: true,
  }
}

/** Builds of a release that can be tested, the newest first. */
const buildsOf = (builds: Project['builds'], of: number): Project['builds'] =>
  builds.filter(({ release, state }) => release === of && state !== 'Withdrawn').reverse()

/** Opens a run over a plan: build, environments, testers and window are all it asks. */
export function NewRun({ plan, slots, early = [], onClose }: Props) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createRun)
  const [asked, setAsked, keeping] = useKept(
    slots ? null : `run.${plan.id}`,
    useMemo(() => likely(project, plan), [project, plan.id]),
  )
  const set = (to: Partial<Asked>) => setAsked({ ...asked, ...to })
  const { title, build, environments, people, deal } = asked
  const store = async () => {
    const body = {
      ...asked,
      plan: plan.id,
      build: Number(build),
      environments: [...environments],
      people: [...people],
      ...(slots && { items: [...slots] }),
    }
    const made = await attempt({ params: { key }, body })
    if (!made) return
    keeping.done()
    notify(`${made.key} is open with ${made.items} items.`)
    location.assign(`/p/${key}/${made.key}?full=yes`)
  }
  return (
    <Dialog title="Open a run" onClose={onClose} kept={keeping}>
      <Form onSend={() => void store()}>
        <Field label="Title">
          {(id) => (
            <TextInput id={id} autoFocus value={title} onChange={(event) => set({ title: event.target.value })} />
          )}
        </Field>
        <BuildAndDays asked={asked} set={set} builds={buildsOf(project.builds, plan.releaseId)} />
        <WhereAndWho asked={asked} set={set} slots={slots} />
        <p style={{ marginBlockEnd: 12 }}>
          <label>
            <input type="checkbox" checked={deal} onChange={() => set({ deal: !deal })} /> Deal the items evenly by
            minutes
          </label>
        </p>
        {early.length > 0 && (
          <p role="note">
            <b>It may be too early.</b> Before a run is opened the plan asks: {early.join('; ')}.
          </p>
        )}
        <Unapproved of={plan.unapproved} />
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || build === ''}>
          {busy ? 'Opening…' : 'Open the run'}
        </Button>
      </Form>
    </Dialog>
  )
}

/** In which environments, unless the items are chosen already, and by whom. */
function WhereAndWho({
  asked: { environments, people },
  set,
  slots,
}: {
  asked: Asked
  set: (to: Partial<Asked>) => void
  slots: Props['slots']
}) {
  const { project } = useHere()
  return (
    <>
      {slots ? (
        <p>{counted(slots.length, 'item')}, each in its own environment.</p>
      ) : (
        <Ticks
          legend="Environments (each case becomes an item in each)"
          all={project.environments.filter(({ isAny }) => !isAny)}
          ticked={environments}
          onTick={(ids) => set({ environments: ids })}
        />
      )}
      <Ticks
        legend="Testers"
        all={project.people
          .filter(({ role, ended }) => role !== 'viewer' && !ended)
          .map(({ id, name, skills }) => ({ id, name, note: skills.join(', ') }))}
        ticked={people}
        onTick={(ids) => set({ people: ids })}
      />
    </>
  )
}

const BuildAndDays = ({
  asked,
  set,
  builds,
}: {
  asked: Asked
  set: (to: Partial<Asked>) => void
  builds: Project['builds']
}) => (
  <p>
    On build{' '}
    <Choice
      label="Build"
      look="box"
      value={asked.build}
      options={builds.map(({ id, name, state }) => ({
        value: String(id),
        label: state === 'Offered' ? name : `${name} (${state.toLowerCase()})`,
      }))}
      onChoose={(build) => set({ build })}
    />{' '}
    from{' '}
    <input
      type="date"
      aria-label="First day"
      value={asked.startOn}
      onChange={(event) => set({ startOn: event.target.value })}
    />{' '}
    to{' '}
    <input
      type="date"
      aria-label="Last day"
      value={asked.endOn}
      onChange={(event) => set({ endOn: event.target.value })}
    />
  </p>
)
