import { Refusal } from '#core/lib/refusal.ts'
import type {
  correctInstalled as correctContract,
  InstalledMoves,
  listInstalled as listContract,
  sayInstalled as sayContract,
  takeBackInstalled as takeBackContract,
} from '#core/projects/installed-contract.ts'
import { type Installed, installedAt, type Move, movesBy, timeTouched } from '#core/projects/installed.ts'
import type { ActionOf } from '#core/history/acts.ts'
import { definedOf } from '#core/lib/defined.ts'
import type { Tx } from '#db/open.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { environmentById, type EnvironmentStored } from '#db/projects/environments.ts'
import {
  addInstalled,
  inClosedRuns,
  installedById,
  installedIn,
  installedRows,
  type InstalledStored,
  moveAttempt,
  moveRows,
  placedIn,
  saveInstalled,
} from '#db/runs/installed.ts'
import { findAttempt } from '#db/runs/attempts.ts'
import { type Context, found } from '#server/http/context.ts'
import { withFollowing } from '#server/http/in-turn.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { refreshStanding } from './refresh-standing.ts'

export function listInstalled(
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const rows = installedRows(tx, project.id, query)
  return { rows, next: rows.length === query.limit ? (rows.at(-1)?.fromAt ?? null) : null }
}

type Named = string | number

/** An environment in which something can stand. */
function environmentOf({ tx, project }: Context, named: Named): EnvironmentStored {
  const id =
    typeof named === 'number'
      ? named
      : projectDetail(tx, project, 'viewer').environments.find(({ name }) => name === named)?.id
  if (id === undefined) throw notThere('environment', named)
  const own = found(environmentById(tx, project.id, id), 'That environment')
  if (own.isAny) throw new Refusal('refused', 'This one stands for any environment; nothing is installed there.')
  return own
}

function buildOf({ tx, project }: Context, named: Named | null): number | null {
  if (named === null || typeof named === 'number') return named
  const id = projectDetail(tx, project, 'viewer').builds.find(({ name }) => name === named)?.id
  if (id === undefined) throw notThere('build', named)
  return id
}

const notThere = (field: 'environment' | 'build', named: Named): Refusal =>
  new Refusal('invalid', `There is no ${field} ${named} in this project; nothing was stored.`, {
    fields: [{ field, message: 'is not there' }],
  })

/** Clocks of machines differ by so much. */
const slack = 60_000
const oldest = 10 * 366 * 86_400_000

/** An instant somebody names is not to come, and not from another age. */
function instantOf({ now }: Context, fromAt: number): number {
  const wrong = fromAt > now + slack ? 'is still to come' : fromAt < now - oldest ? 'is more than ten years ago' : null
  if (wrong !== null)
    throw new Refusal('invalid', `That instant ${wrong}; nothing was stored.`, {
      fields: [{ field: 'fromAt', message: wrong }],
    })
  return Math.min(fromAt, now)
}

interface Act {
  readonly environment: EnvironmentStored
  /** The entry as it stood and as it will; `null`: none. */
  readonly before: Installed | null
  readonly after: Installed | null
  readonly action: ActionOf<'environment'>
  readonly only: 'told' | undefined
}

/**
 * What stands in an environment is said anew, and the attempts of that time go with it, each with a line of history. A few go in one
 * transaction with it; more in slices. What one that was ended half way left is moved when the entry is stored again.
 */
async function settle<T>(
  context: OpenContext,
  act: Act,
  write: (inside: Context) => T,
): Promise<{ made: T | null; moves: InstalledMoves }> {
  const rest = installedIn(context.tx, act.environment.id).filter(({ id }) => id !== (act.before ?? act.after)?.id)
  refuseTwin(rest, act)
  const time = timeTouched(rest, [act.before, act.after])
  const attempts = placedIn(context.tx, act.environment.id, time)
  const moves = movesBy(act.after ? [...rest, act.after] : rest, attempts)
  const told = toldOf(context.tx, moves)
  if (act.only === 'told') return { made: null, moves: told }
  const builds = buildNames(context)
  const runs = new Map(attempts.map(({ id, run }) => [id, run]))
  const { made, stopped } = await withFollowing(
    context,
    (inside) => {
      const answer = write(inside)
      tellOf(inside, act, builds)
      return answer
    },
    { all: moves, step: (inside, move) => moveOne(inside, move, { builds, run: runs.get(move.id) ?? null }) },
  )
  return { made, moves: { ...told, stopped } }
}

type BuildNames = ReadonlyMap<number, string>
const buildNames = ({ tx, project }: Context): BuildNames =>
  new Map(projectDetail(tx, project, 'viewer').builds.map(({ id, name }) => [id, name]))

/** Two things are not said of one instant. */
function refuseTwin(rest: readonly Installed[], { after, environment }: Act): void {
  if (after && rest.some(({ fromAt }) => fromAt === after.fromAt))
    throw new Refusal('refused', `Something is said of ${environment.name} since that very instant; correct that one.`)
}

function tellOf(inside: Context, { environment, before, after, action }: Act, builds: BuildNames): void {
  const named = (entry: Installed | null) => entry && (builds.get(entry.build ?? 0) ?? 'none known')
  inside.change({
    kind: 'environment',
    id: environment.id,
    ref: environment.name,
    action,
    detail: { installed: [named(before), named(after)], since: [before?.fromAt ?? null, after?.fromAt ?? null] },
  })
}

/** An attempt goes to another build, with what stands at both. */
function moveOne(inside: Context, move: Move, of: { readonly builds: BuildNames; readonly run: string | null }): void {
  const { tx, project } = inside
  const own = findAttempt(tx, project.id, move.id)
  // Somebody moved it meanwhile.
  if (own?.buildId !== move.from) return
  moveAttempt(tx, move)
  if (own.final) for (const buildId of [move.from, move.to]) refreshStanding(tx, { ...own, buildId })
  inside.change({
    kind: 'attempt',
    id: own.id,
    ref: of.run ?? String(own.itemId ?? own.id),
    action: 'build corrected',
    detail: { build: [of.builds.get(move.from), of.builds.get(move.to)] },
  })
}

const mostTold = 50
const toldOf = (tx: Tx, moves: readonly Move[]): InstalledMoves => ({
  total: moves.length,
  inClosed: inClosedRuns(
    tx,
    moves.map(({ id }) => id),
  ),
  rows: moveRows(tx, moves.slice(0, mostTold)),
  stopped: null,
})

const nothing: InstalledMoves = { total: 0, inClosed: 0, rows: [], stopped: null }

/** Says what stands there; the same said again changes nothing, so that a pipeline may say it as often as it likes. */
export async function sayInstalled(
  context: OpenContext,
  { body }: Input<typeof sayContract>,
): Promise<Answer<typeof sayContract>> {
  const environment = environmentOf(context, body.environment)
  const build = buildOf(context, body.build)
  const fromAt = instantOf(context, body.fromAt ?? context.now)
  const stands = installedAt(installedIn(context.tx, environment.id), fromAt)
  if (stands?.build === build && stands !== null) return { id: stands.id, moves: nothing }
  const { made, moves } = await settle(
    context,
    { environment, before: null, after: { id: 0, fromAt, build }, action: 'installed', only: body.only },
    (inside) =>
      addInstalled(inside.tx, {
        projectId: inside.project.id,
        environmentId: environment.id,
        buildId: build,
        fromAt,
        note: body.note,
        personId: inside.by.personId,
        saidAt: inside.now,
      }),
  )
  return { id: made, moves }
}

function entryOf({ tx, project }: Context, id: number, isGone: boolean): InstalledStored {
  const row = installedById(tx, project.id, id)
  return found(row && isGone ? { ...row, deletedAt: null } : row, 'That entry')
}
const asInstalled = ({ id, fromAt, buildId }: InstalledStored): Installed => ({
  id,
  fromAt: fromAt ?? 0,
  build: buildId,
})

export async function correctInstalled(
  context: OpenContext,
  { params, body: { only, ...body } }: Input<typeof correctContract>,
): Promise<Answer<typeof correctContract>> {
  const stored = entryOf(context, params.id, false)
  const before = asInstalled(stored)
  const fromAt = body.fromAt === undefined ? before.fromAt : instantOf(context, body.fromAt)
  const after = { ...before, fromAt, build: body.build === undefined ? before.build : body.build }
  const environment = environmentOf(context, stored.environmentId)
  const edit = definedOf({ buildId: after.build, fromAt, note: body.note })
  const { moves } = await settle(
    context,
    { environment, before, after, action: 'installation corrected', only },
    (inside) => saveInstalled(inside.tx, stored.id, edit),
  )
  return { moves }
}

export async function takeBackInstalled(
  context: OpenContext,
  { params, query }: Input<typeof takeBackContract>,
): Promise<Answer<typeof takeBackContract>> {
  const undo = query.undo === 'yes'
  const stored = entryOf(context, params.id, undo)
  const own = asInstalled(stored)
  const environment = environmentOf(context, stored.environmentId)
  const { moves } = await settle(
    context,
    undo
      ? { environment, before: null, after: own, action: 'installation said again', only: query.only }
      : { environment, before: own, after: null, action: 'installation taken back', only: query.only },
    (inside) => saveInstalled(inside.tx, stored.id, { deletedAt: undo ? null : inside.now }),
  )
  return { moves }
}
