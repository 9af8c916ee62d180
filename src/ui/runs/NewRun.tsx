import { useMemo, useState } from 'react'
import { dayAfter, dayNumber } from '#core/lib/days.ts'
import { todayIn } from '#ui/kit/moment.ts'
import { counted } from '#core/lib/figures.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import type { Project } from '#core/projects/contract.ts'
import type { RunReason } from '#core/runs/compose.ts'
import { createRun } from '#core/runs/contract.ts'
import { type DealingWay, dealingWays, dealingWords } from '#core/projects/dealing-ways.ts'
import { samePolicy } from '#core/projects/policy.ts'
import { z } from 'zod'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { keptPlace, useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Ticks } from '#ui/plans/Ticks.tsx'
import { buildsOf, likelyBuild } from './build-in.ts'
import { PolicyForm } from './PolicyForm.tsx'
import { DataRows } from './DataRows.tsx'
import { Foreseen } from './Foreseen.tsx'

/** What a run is made of, where it is no plan. */
export interface RunSeed {
  readonly title: string
  /** In a sentence. */
  readonly told: string
  readonly cases?: readonly number[]
  readonly suites?: readonly number[]
  readonly requirements?: readonly number[]
  readonly defects?: readonly number[]
}

interface Props {
  /** What it is a run over; without one the items are chosen already. */
  readonly plan: {
    readonly id: number
    readonly title: string
    readonly releaseId: number
    readonly environments: readonly number[]
    /** It says more than every case in each environment. */
    readonly asks?: boolean
  } | null
  readonly seed?: RunSeed
  /** What it is called and runs on, where that is known before. */
  readonly known?: { readonly title: string; readonly build: number; readonly releaseId: number }
  /** Exactly these items, where they are chosen already. */
  readonly slots?: readonly { readonly case: number; readonly environment: number; readonly reasons?: RunReason[] }[]
  /** What they were composed of, to be kept with the run. */
  readonly composed?: BodyOf<typeof createRun>['composed']
  /** Entry criteria of the plan that do not hold yet. */
  readonly early?: readonly string[]
  /** Once it is there, before one goes to it. */
  readonly onOpened?: () => Promise<unknown>
  readonly onClose: () => void
}

interface Asked {
  readonly title: string
  readonly aim: string
  readonly dataRows: string
  readonly build: string
  readonly environments: readonly number[]
  readonly people: readonly string[]
  readonly startOn: string
  readonly endOn: string
  readonly deal: DealingWay
  /** Exactly what the plan asks for. */
  readonly asked: boolean
}

/** A run takes a working week unless it is said otherwise. */
const usualDays = 4

/** What a run of this plan most likely is: on the newest build that is offered, with all who may execute. */
function likely(project: Project, { plan, known }: Pick<Props, 'plan' | 'known'>): Asked {
  const { key, builds, people, environments, dealing } = project
  const build = likelyBuild(buildsOf(builds, releaseOf({ plan, known })), ({ id }) => id === known?.build)
  const today = todayIn(project)
  const testers = people.filter(({ role, ended }) => role !== 'viewer' && !ended).map(({ id }) => id)
  const last = plan ? null : lastAnswers(key).read()
  const before = last?.people.filter((id) => testers.includes(id)) ?? []
  return {
    aim: '',
    dataRows: '',
    title: known?.title ?? `${plan?.title ?? 'Run'}, ${build?.name ?? ''}`,
    build: String(build?.id ?? ''),
    environments:
      plan?.environments ?? last?.environments.filter((id) => environments.some((each) => each.id === id)) ?? [],
    asked: plan?.asks ?? false,
    people: before.length > 0 ? before : testers,
    startOn: today,
    endOn: dayAfter(today, last?.days ?? usualDays),
    deal: last?.deal ?? dealing,
  }
}

const releaseOf = ({ plan, known }: Pick<Props, 'plan' | 'known'>): number => plan?.releaseId ?? known?.releaseId ?? 0

const lastShape = z.object({
  environments: z.array(z.number()),
  people: z.array(z.string()),
  deal: z.enum(dealingWays),
  days: z.number().int().min(0).max(365),
})
/** What was answered the last time here, in this project. */
const lastAnswers = (key: string) => keptPlace(`rovant.last-run.${key}`, lastShape)
const bodyOf = ({ cases = [], suites = [], requirements = [], defects = [] }: RunSeed) => ({
  cases: [...cases],
  suites: [...suites],
  requirements: [...requirements],
  defects: [...defects],
})

/** What is asked of a run, and opening it with that. */
function useOpening({ plan, seed, known, slots, composed, onOpened }: Omit<Props, 'early' | 'onClose'>) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createRun)
  const [asked, setAsked, keeping] = useKept(
    slots || !plan ? null : `run.${plan.id}`,
    useMemo(() => likely(project, { plan, known }), [project, plan?.id, known?.build]),
  )
  const [policy, setPolicy] = useState<Project['policy'] | null>(null)
  const { title, aim, dataRows, build, environments, people, deal, asked: exactly, ...days } = asked
  /** Which items it has, and under which rules they are executed. */
  const chosen = {
    build: Number(build),
    plan: plan?.id ?? null,
    environments: exactly ? [] : [...environments],
    policy,
    ...(slots && { items: [...slots] }),
    ...(seed && bodyOf(seed)),
  }
  const open = async () => {
    const said = { ...days, title, aim, dataRows, deal, people: [...people], ...(composed && { composed }) }
    const made = await attempt({ params: { key }, body: { ...chosen, ...said } })
    if (!made) return
    keeping.done()
    await onOpened?.()
    const length = dayNumber(days.endOn) - dayNumber(days.startOn)
    lastAnswers(key).keep({ environments: [...environments], people: [...people], deal, days: Math.max(0, length) })
    const waiting = made.leftOut > 0 ? ` ${counted(made.leftOut, 'case')} left out: not testable yet.` : ''
    notify(`${made.key} is open with ${counted(made.items, 'item')}.${waiting}`)
    location.assign(`/p/${key}/${made.key}?full=yes`)
  }
  const set = (to: Partial<Asked>) => setAsked({ ...asked, ...to })
  return { asked, set, keeping, policy, setPolicy, chosen, open, busy }
}

/** Opens a run over a plan: build, environments, testers and window are all it asks. */
export function NewRun({ early = [], onClose, ...of }: Props) {
  const { plan, seed, known, slots } = of
  const { project } = useHere()
  const { asked, set, keeping, policy, setPolicy, chosen, open, busy } = useOpening(of)
  return (
    <Dialog title="Open a run" onClose={onClose} kept={keeping}>
      <Form onSend={() => void open()}>
        {seed && <p className="quiet">{seed.told}</p>}
        <Field label="Title">
          {(id) => (
            <TextInput id={id} autoFocus value={asked.title} onChange={(event) => set({ title: event.target.value })} />
          )}
        </Field>
        <Field label="Aim" hint="What it is to find out; may stay open.">
          {(id) => (
            <TextInput
              id={id}
              maxLength={500}
              value={asked.aim}
              onChange={(event) => set({ aim: event.target.value })}
            />
          )}
        </Field>
        <BuildAndDays asked={asked} set={set} builds={buildsOf(project.builds, releaseOf({ plan, known }))} />
        <WhereAndWho asked={asked} set={set} slots={slots} asks={plan?.asks ?? false} />
        <p style={{ marginBlockEnd: 12 }}>
          <DataRows value={asked.dataRows} onChange={(dataRows) => set({ dataRows })} /> The items are{' '}
          <Choice
            label="The items are"
            look="box"
            value={asked.deal}
            options={dealingWays.map((way) => ({ value: way, label: dealingWords[way] }))}
            onChoose={(deal) => set({ deal })}
          />
        </p>
        {early.length > 0 && (
          <p role="note">
            <b>It may be too early.</b> Before a run is opened the plan asks: {early.join('; ')}.
          </p>
        )}
        <Foreseen of={{ ...chosen, people: [...asked.people], startOn: asked.startOn, endOn: asked.endOn }} />
        <Rules of={policy} onChange={setPolicy} />
        <Button look="main" type="submit" disabled={busy || asked.title.trim() === '' || asked.build === ''}>
          {busy ? 'Opening…' : 'Open the run'}
        </Button>
      </Form>
    </Dialog>
  )
}

/** Under which rules; those of the project, unless it is said otherwise. */
function Rules({ of, onChange }: { of: Project['policy'] | null; onChange: (to: Project['policy']) => void }) {
  const { project } = useHere()
  const own = of !== null && !samePolicy(of, project.policy)
  return (
    <Unfold summary={own ? 'Rules of its own' : 'Under the rules of the project'}>
      <PolicyForm of={of ?? project.policy} from={project.policy} onChange={onChange} />
    </Unfold>
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
