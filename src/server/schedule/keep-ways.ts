import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { sumOf } from '#core/lib/figures.ts'
import type {
  applyWhatIf as applyContract,
  createWhatIf as createContract,
  dropWhatIf as dropContract,
  listWhatIfs as listContract,
  putRunWay as putContract,
  updateWhatIf as updateContract,
  Way,
} from '#core/schedule/what-if-contract.ts'
import { mostWays } from '#core/schedule/what-if-contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { staffOf } from '#db/people/members.ts'
import { nameOf } from '#db/people/people.ts'
import { type RunStored, runById, saveRun, setTeam } from '#db/runs/runs.ts'
import { peopleOf } from '#db/schedule/team.ts'
import { addWhatIf, hideWhatIf, saveWhatIf, whatIfById, whatIfsOf, type WhatIfStored } from '#db/schedule/what-if.ts'
import { openWork, workByEnvironment } from '#db/schedule/worth.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { putSides } from './keep-line.ts'
import { refuseLastDay, reserveOf, runGoingOn, runNamed } from './team-days.ts'

export function listWhatIfs(
  { tx, project }: Context,
  { params }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const run = runNamed(tx, project, params.ref)
  const { title, state, startOn, endOn, version } = run
  const key = keyOf('run', run.number)
  const team = peopleOf(tx, [run.id])
  return {
    run: {
      key,
      title,
      state,
      startOn,
      endOn,
      version,
      reserve: reserveOf(project, run),
      team,
      environments: workByEnvironment(tx, run.id),
    },
    rows: whatIfsOf(tx, run.id).map(({ runId: _, ...row }) => row),
  }
}

export function createWhatIf(
  context: Context,
  { params, body }: Input<typeof createContract>,
): Answer<typeof createContract> {
  const { tx, person, now } = context
  const run = runGoingOn(tx, context.project, params.ref)
  refuseWay(context, run, body.changes)
  refuseMany(tx, run)
  const id = addWhatIf(tx, { runId: run.id, ...body, personId: person.id, createdAt: now })
  note(context, run, 'what if kept', body.name)
  return { id }
}

/** What a last day cannot be is refused. */
function refuseWay({ project, now }: Context, run: RunStored, { endOn }: Pick<WhatIfStored['changes'], 'endOn'>): void {
  if (endOn !== null) refuseLastDay(project, run, { endOn, now })
}

function refuseMany(tx: Context['tx'], run: RunStored, many = mostWays): void {
  if (whatIfsOf(tx, run.id).length >= many)
    throw new Refusal(
      'refused',
      `${keyOf('run', run.number)} has ${mostWays} what-ifs already, as many as stand side by side; drop one first.`,
    )
}

type Noted = 'what if kept' | 'what if changed' | 'what if dropped'
const note = (context: Context, run: RunStored, action: Noted, name: string): void =>
  context.change({ kind: 'run', id: run.id, ref: keyOf('run', run.number), action, detail: { name: [null, name] } })

function wayNamed({ tx }: Context, id: number): { way: WhatIfStored; run: RunStored } {
  const way = found(whatIfById(tx, id), 'the what-if')
  return { way, run: found(runById(tx, way.runId), 'its run') }
}

export function updateWhatIf(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { way, run } = wayNamed(context, params.id)
  const changes = { ...way.changes, ...definedOf(body.changes ?? {}) }
  refuseWay(context, run, changes)
  saveWhatIf(context.tx, way.id, { name: body.name ?? way.name, changes })
  note(context, run, 'what if changed', body.name ?? way.name)
  return { ok: true }
}

export function dropWhatIf(
  context: Context,
  { params, query }: Input<typeof dropContract>,
): Answer<typeof dropContract> {
  const { tx, now } = context
  if (query.undo) {
    hideWhatIf(tx, params.id, null)
    const { way, run } = wayNamed(context, params.id)
    refuseMany(tx, run, mostWays + 1)
    note(context, run, 'what if kept', way.name)
    return { ok: true }
  }
  const { way, run } = wayNamed(context, params.id)
  hideWhatIf(tx, way.id, now)
  note(context, run, 'what if dropped', way.name)
  return { ok: true }
}

const isNothing = ({ join, endOn, without, reservePercent }: WhatIfStored['changes']): boolean =>
  join.length + without.length === 0 && endOn === null && reservePercent === null

export function applyWhatIf(
  context: Context,
  { params, body }: Input<typeof applyContract>,
): Answer<typeof applyContract> {
  const { tx, project, now } = context
  const { way, run } = wayNamed(context, params.id)
  runGoingOn(tx, project, run.number)
  if (run.version !== body.version)
    throw new Refusal(
      'conflict',
      `${keyOf('run', run.number)} was changed since its figures were worked out; nothing was stored. Look at them again.`,
    )
  const { changes } = way
  if (changes.more > 0)
    throw new Refusal(
      'refused',
      `“${way.name}” has ${changes.more === 1 ? 'a tester' : `${changes.more} testers`} nobody has named; choose who joins instead, then put it in force.`,
    )
  if (isNothing(changes))
    throw new Refusal(
      'refused',
      `“${way.name}” changes nothing yet; say what would be different, then put it in force.`,
    )
  const here = new Set(staffOf(tx, project.id).flatMap(({ id, ended }) => (ended ? [] : [id])))
  const gone = changes.join.find((id) => !here.has(id))
  if (gone !== undefined)
    throw new Refusal(
      'refused',
      `${nameOf(tx, gone) ?? 'Somebody'} of “${way.name}” is not of the project any more; take them out, then put it in force.`,
    )
  const without = new Set(changes.without)
  const out = openWork(tx, run.id).flatMap(({ id, environment }) => (without.has(environment) ? [id] : []))
  const before = putWay(context, run, {
    ...(changes.join.length > 0 && { people: [...new Set([...peopleOf(tx, [run.id]), ...changes.join])] }),
    ...(changes.endOn !== null && { endOn: changes.endOn }),
    ...(changes.reservePercent !== null && { reservePercent: changes.reservePercent }),
    sides: out.length > 0 ? [{ ids: out, side: 'below' }] : [],
  })
  hideWhatIf(tx, way.id, now)
  return { before }
}

export const putRunWay = (
  context: Context,
  { params, body }: Input<typeof putContract>,
): Answer<typeof putContract> => ({
  before: putWay(context, runGoingOn(context.tx, context.project, params.ref), body),
})

/** Puts what is said of a run in force; answers the same of what was before. */
function putWay(context: Context, run: RunStored, { people, sides, ...fields }: Way): Way {
  const { tx, project, now } = context
  if (fields.endOn !== undefined && fields.endOn !== run.endOn)
    refuseLastDay(project, run, { endOn: fields.endOn, now })
  const items = sumOf(sides, ({ ids }) => ids.length)
  const before: Way = {
    ...(people && { people: peopleOf(tx, [run.id]) }),
    ...(fields.endOn !== undefined && { endOn: run.endOn }),
    ...(fields.reservePercent !== undefined && { reservePercent: run.reservePercent }),
    sides: putSides(tx, run.id, sides),
  }
  if (people) setTeam(tx, run.id, people)
  saveRun(tx, run.id, { ...definedOf(fields), version: run.version + 1, updatedAt: now })
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'way changed',
    detail: {
      ...(fields.endOn !== undefined && { endOn: [run.endOn, fields.endOn] as const }),
      ...(fields.reservePercent !== undefined && {
        reservePercent: [run.reservePercent, fields.reservePercent] as const,
      }),
      ...(people && { people: [before.people?.length ?? 0, people.length] as const }),
      ...(items > 0 && { items: [null, items] as const }),
    },
  })
  return before
}
