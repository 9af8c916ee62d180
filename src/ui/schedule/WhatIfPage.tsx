import type { ReactNode } from 'react'
import { dayAfter, weekdayOf } from '#core/lib/days.ts'
import type { Project } from '#core/projects/contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { changeWords } from '#core/schedule/what-if.ts'
import {
  applyWhatIf,
  type Changes,
  createWhatIf,
  dropWhatIf,
  listWhatIfs,
  mostWays,
  noChanges,
  putRunWay,
  updateWhatIf,
  type WhatIf,
  type WhatIfList,
} from '#core/schedule/what-if-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { inTurn } from '#ui/shell/undoable.ts'
import css from './WhatIf.module.css'
import { lineAt } from './LineHead.tsx'
import { placeOptions } from './WayChanges.tsx'
import { WayTable } from './WayTable.tsx'

export const WhatIfPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <WhatIfs />
  </Shell>
)

/** Other ways a run could go beside the way it goes: what each is different in, and what it comes to. */
function WhatIfs() {
  const { key, project } = useHere()
  const ref = useParams('run').get('run') ?? ''
  const { data, error } = useAnswer(listWhatIfs, { params: { key, ref } }, { keep: true, enabled: ref !== '' })
  if (ref === '') return <Waiting>Open the cut line of a run and choose “What if” there.</Waiting>
  if (error && !data) return <Waiting alert>{sentenceOf(error)}</Waiting>
  if (!data) return <Waiting>Reading…</Waiting>
  return <Ways of={data} may={project.role === 'lead' && !hasEnded(data.run.state)} />
}

const Waiting = ({ alert = false, children }: { alert?: boolean; children: ReactNode }) => (
  <div className={css['page']}>
    <h1>What if</h1>
    <p role={alert ? 'alert' : undefined}>{children}</p>
  </div>
)

function Ways({ of, may }: { of: WhatIfList; may: boolean }) {
  const { key } = useHere()
  const acts = useWays(of)
  const { run, rows } = of
  return (
    <div className={css['page']}>
      <h1>
        What if: {run.title}{' '}
        <a className="key quiet" href={lineAt(key, { kind: 'run', ref: run.key })}>
          {run.key}, cut line
        </a>
      </h1>
      {may && <Starters of={of} keep={acts.keep} />}
      {hasEnded(run.state) ? (
        <p>
          {run.key} is {run.state.toLowerCase()}: nothing is planned in it any more, and no other way of it can be put
          in force.
        </p>
      ) : (
        rows.length === 0 && (
          <p className="quiet">
            {may
              ? 'Nothing is touched by asking: each way stands beside the present by its name until it is put in force or dropped.'
              : 'No other way of this run is kept.'}
          </p>
        )
      )}
      {/* Of what has ended there is nothing to weigh but what was asked then. */}
      {(!hasEnded(run.state) || rows.length > 0) && <WayTable of={of} may={may} acts={acts} />}
    </div>
  )
}

/** The same so many working days later. */
function workingDaysAfter(day: string, count: number, workingDays: string): string {
  const works = workingDays.split(',')
  let [at, left] = [day, count]
  for (let step = 0; left > 0 && step < 60; step++) {
    at = dayAfter(at, 1)
    if (works.includes(String(weekdayOf(at)))) left--
  }
  return at
}

/** Ways that are asked for most, in one act each. */
function Starters({ of, keep }: { of: WhatIfList; keep: (changes: Partial<Changes>) => void }) {
  const { project } = useHere()
  const { run, rows } = of
  if (rows.length >= mostWays)
    return <p className={css['ask']}>{mostWays} ways stand side by side; drop one to ask for another.</p>
  return (
    <p className={css['ask']}>
      What if there were{' '}
      <Button look="word" onClick={() => keep({ more: 1 })}>
        one more tester
      </Button>
      ,{' '}
      <Button look="word" onClick={() => keep({ endOn: workingDaysAfter(run.endOn, 2, project.workingDays) })}>
        two working days more
      </Button>
      , nothing in{' '}
      <Choice
        label="Without an environment"
        value=""
        options={[{ value: '', label: 'an environment' }, ...placeOptions(of, [])]}
        onChoose={(id) => id !== '' && keep({ without: [Number(id)] })}
      />
      ,{' '}
      {run.reserve > 0 && (
        <>
          <Button look="word" onClick={() => keep({ reservePercent: run.reserve / 2 })}>
            half the reserve
          </Button>
          ,{' '}
        </>
      )}
      or{' '}
      <Button look="word" onClick={() => keep({})}>
        something else
      </Button>
      ?
    </p>
  )
}

/** The words of a change for people. */
export const namesIn = (project: Project) => ({
  person: (id: string) => shortName(project.people.find((each) => each.id === id)?.name ?? id),
  environment: (id: number) =>
    project.environments.find((each) => each.id === id)?.name ?? 'an environment that is gone',
  day: dayText,
})

/** What a way is called as long as nobody gives it a name. */
function calledBy(changes: Changes, project: Project): string {
  const words = changeWords(changes, namesIn(project)).join(', ').slice(0, 70) || 'something else'
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`
}

function useWays({ run, rows }: WhatIfList) {
  const { key, project } = useHere()
  const creating = useWrite(createWhatIf)
  const updating = useWrite(updateWhatIf)
  const dropping = useWrite(dropWhatIf)
  const applying = useWrite(applyWhatIf)
  const putting = useWrite(putRunWay)
  const params = { key, ref: run.key }
  /** What was called after its changes follows them; a name somebody gave stays. */
  const nameFor = (changes: Changes): string => {
    const name = calledBy(changes, project)
    const taken = new Set(rows.map((row) => row.name))
    return taken.has(name) ? `${name} (${rows.length + 1})` : name
  }
  const restore = (id: number) => dropping.attempt({ params: { key, id }, query: { undo: 'yes' } })
  return {
    keep: (some: Partial<Changes>) => {
      const changes = { ...noChanges, ...some }
      void creating.attempt({ params, body: { name: nameFor(changes), changes } })
    },
    rename: ({ id }: WhatIf, name: string) => void updating.attempt({ params: { key, id }, body: { name } }),
    change: ({ id, name, changes }: WhatIf, some: Partial<Changes>) => {
      const follows =
        name === 'Something else' || name === changeWords(changes, namesIn(project)).join(', ').slice(0, 70)
      const body = { changes: some, ...(follows && { name: nameFor({ ...changes, ...some }) }) }
      void updating.attempt({ params: { key, id }, body })
    },
    drop: async ({ id, name }: WhatIf) => {
      if (await dropping.attempt({ params: { key, id } }))
        notify(`“${name}” is dropped; the run is as it was.`, { undo: () => void restore(id) })
    },
    apply: async ({ id, name }: WhatIf) => {
      const done = await applying.attempt({ params: { key, id }, body: { version: run.version } })
      if (!done) return
      notify(`“${name}” is in force for ${run.key}; level again to put its items on days.`, {
        undo: () => void inTurn([() => putting.attempt({ params, body: done.before }), () => restore(id)]),
      })
    },
  }
}
export type WayActs = ReturnType<typeof useWays>
