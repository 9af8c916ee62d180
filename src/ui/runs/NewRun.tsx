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
  /** What it is a run over; without one the items are chosen already. */
  readonly plan: {
    readonly id: number
    readonly title: string
    readonly releaseId: number
    readonly environments: readonly number[]
    /** Cases of the plan that may not be executed yet. */
    readonly unapproved: readonly string[]
    /** It says more than every case in each environment. */
    readonly asks?: boolean
  } | null
  /** What it is called and runs on, where that is known before. */
  readonly known?: { readonly title: string; readonly build: number; readonly releaseId: number }
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
  /** Exactly what the plan asks for. */
  readonly asked: boolean
}

/** A run takes a working week unless it is said otherwise. */
const usualDays = 4
const dayOf = (date: Date): string => format(date, 'yyyy-MM-dd')

/** What a run of this plan most likely is: on the newest build that is offered, with all who may execute. */
function likely({ builds, people }: Project, { plan, known }: Pick<Props, 'plan' | 'known'>): Asked {
  const own = buildsOf(builds, releaseOf({ plan, known }))
  const build = own.find(({ id }) => id === known?.build) ?? own.find(({ state }) => state === 'Offered') ?? own[0]
  const now = new Date()
  return {
    title: known?.title ?? `${plan?.title ?? 'Run'}, ${build?.name ?? ''}`,
    build: String(build?.id ?? ''),
    environments: plan?.environments ?? [],
    asked: plan?.asks ?? false,
    people: people.filter(({ role }) => role !== 'viewer').map(({ id }) => id),
    startOn: dayOf(now),
    endOn: dayOf(addDays(now, usualDays)),
    deal: true,
  }
}

const releaseOf = ({ plan, known }: Pick<Props, 'plan' | 'known'>): number => plan?.releaseId ?? known?.releaseId ?? 0

/** Builds of a release that can be tested, the newest first. */
const buildsOf = (builds: Project['builds'], of: number): Project['builds'] =>
  builds.filter(({ release, state }) => release === of && state !== 'Withdrawn').reverse()

/** Opens a run over a plan: build, environments, testers and window are all it asks. */
export function NewRun({ plan, known, slots, early = [], onClose }: Props) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createRun)
  const [asked, setAsked, keeping] = useKept(
    slots || !plan ? null : `run.${plan.id}`,
    useMemo(() => likely(project, { plan, known }), [project, plan?.id, known?.build]),
  )
  const set = (to: Partial<Asked>) => setAsked({ ...asked, ...to })
  const { title, build, environments, people, deal, asked: exactly, ...days } = asked
  const store = async () => {
    const body = {
      ...days,
      title,
      deal,
      plan: plan?.id ?? null,
      build: Number(build),
      environments: exactly ? [] : [...environments],
      people: [...people],
      ...(slots && { items: [...slots] }),
    }
    const made = await attempt({ params: { key }, body })
    if (!made) return
    keeping.done()
    const waiting = made.leftOut > 0 ? ` ${counted(made.leftOut, 'case')} left out: not testable yet.` : ''
    notify(`${made.key} is open with ${counted(made.items, 'item')}.${waiting}`)
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
        <BuildAndDays asked={asked} set={set} builds={buildsOf(project.builds, releaseOf({ plan, known }))} />
        <WhereAndWho asked={asked} set={set} slots={slots} asks={plan?.asks ?? false} />
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
        <Unapproved of={plan?.unapproved ?? []} />
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || build === ''}>
          {busy ? 'Opening…' : 'Open the run'}
        </Button>
      </Form>
    </Dialog>
  )
}

/** In which environments, unless the items are chosen already, and by whom. */
function WhereAndWho({
  asked: { environments, people, asked },
  set,
  slots,
  asks,
}: {
  asked: Asked
  set: (to: Partial<Asked>) => void
  slots: Props['slots']
  asks: boolean
}) {
  const { project } = useHere()
  return (
    <>
      {asks && !slots && (
        <p>
          <label>
            <input type="checkbox" checked={asked} onChange={() => set({ asked: !asked })} /> Exactly what the plan asks
            for, each case in the environments that are said of it
          </label>
        </p>
      )}
      {slots && <p>{counted(slots.length, 'item')}, each in its own environment.</p>}
      {!slots && !asked && (
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
