import { changedFields } from '#core/history/changes.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { notAllowed, readFactors } from '#core/plans/factors.ts'
import type {
  addOutage as addOutageContract,
  changeOutage as changeOutageContract,
  EnvironmentRow,
  listEnvironments as listContract,
  removeEnvironment as removeContract,
  removeOutage as removeOutageContract,
  setFactors as factorsContract,
  updateEnvironment as updateContract,
} from '#core/projects/environments-contract.ts'
import { factorsOf, placesOf } from '#db/plans/asked.ts'
import {
  addOutageTo,
  environmentById,
  environmentRows,
  type EnvironmentStored,
  environmentValues,
  outageById,
  outagesOf,
  type OutageStored,
  overlapping,
  saveEnvironment,
  saveOutage,
  setEnvironmentValues,
} from '#db/projects/environments.ts'
import { standsIn } from '#db/runs/installed.ts'
import { saveProject } from '#db/projects/projects.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function listEnvironments({ tx, project, now }: Context): Answer<typeof listContract> {
  const places = placesOf(tx, project.id)
  const factors = factorsOf(tx, project.id, places)
  const refused = notAllowed(factors, places)
  const values = environmentValues(tx, project.id)
  const outages = outagesOf(tx, project.id)
  return {
    rows: environmentRows(tx, project.id).map((row) => ({
      ...row,
      values: values.get(row.id) ?? {},
      notAllowed: refused.get(row.id) ?? null,
      outages: outages.get(row.id) ?? [],
      installed: installedNow(tx, row.id, now),
    })),
    factors: project.factors,
    factorRules: project.factorRules,
    values: Object.fromEntries(Object.entries(factors.values).map(([factor, own]) => [factor, [...own]])),
    problems: [...factors.problems],
  }
}

function installedNow(tx: Context['tx'], environment: number, now: number): EnvironmentRow['installed'] {
  const stands = standsIn(tx, environment, now)
  return stands ? { build: stands.name, buildId: stands.build, since: stands.since, by: stands.by } : null
}

/** Lines that cannot be read are refused with why; so are rules that would leave no environment to test in. */
export function setFactors(context: Context, { body }: Input<typeof factorsContract>): Answer<typeof factorsContract> {
  const { tx, project } = context
  const edit = definedOf(body)
  const detail = changedFields({ factors: project.factors, factorRules: project.factorRules }, edit)
  if (Object.keys(detail).length === 0) return { ok: true }
  const places = placesOf(tx, project.id)
  const factors = readFactors(
    { factors: edit.factors ?? project.factors, rules: edit.factorRules ?? project.factorRules },
    places,
  )
  const [problem] = factors.problems
  if (problem !== undefined) throw new Refusal('invalid', `${problem} Nothing was stored.`)
  if (places.length > 0 && notAllowed(factors, places).size === places.length)
    throw new Refusal(
      'invalid',
      'These rules leave no environment: each that there is would stand for a combination that is not allowed. Nothing was stored.',
    )
  saveProject(tx, project.id, edit)
  context.change({ kind: 'project', id: project.id, ref: project.key, action: 'changed', detail })
  return { ok: true }
}

/** An environment that is there, or was; the one that stands for any is changed by nobody. */
function own({ tx, project }: Context, id: number, isGone = false): EnvironmentStored {
  const row = environmentById(tx, project.id, id)
  return found(row && isGone ? { ...row, deletedAt: null } : row, 'That environment')
}

function refuseAny({ isAny }: EnvironmentStored): void {
  if (isAny) throw new Refusal('refused', 'This one stands for any environment; it stays as it is. Nothing was stored.')
}

export function updateEnvironment(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project } = context
  const before = own(context, params.id)
  const { values, owner, ...fields } = body
  const edit = definedOf({ ...fields, ownerId: owner })
  const isTaken = environmentRows(tx, project.id).some(({ id, name }) => id !== before.id && name === body.name)
  if (isTaken)
    throw new Refusal('refused', `There is already one called ${body.name}; nothing was stored.`, {
      fields: [{ field: 'name', message: 'is taken' }],
    })
  const held = { ...before, values: environmentValues(tx, project.id).get(before.id) ?? {} }
  const detail = changedFields(held, { ...edit, values })
  if (Object.keys(detail).length === 0) return { ok: true }
  refuseAny(before)
  if (Object.keys(edit).length > 0) saveEnvironment(tx, before.id, edit)
  if (values) setEnvironmentValues(tx, before.id, values)
  context.change({
    kind: 'environment',
    id: before.id,
    ref: edit.name ?? before.name,
    action: 'changed',
    detail,
  })
  return { ok: true }
}

export function removeEnvironment(
  context: Context,
  { params, query }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const undo = query.undo === 'yes'
  const stored = own(context, params.id, undo)
  refuseAny(stored)
  if (undo && environmentRows(context.tx, context.project.id).some(({ name }) => name === stored.name))
    throw new Refusal('refused', `There is one called ${stored.name} again; name that one anew first.`)
  saveEnvironment(context.tx, stored.id, { deletedAt: undo ? null : context.now })
  context.change({
    kind: 'environment',
    id: stored.id,
    ref: stored.name,
    action: undo ? 'restored' : 'taken away',
  })
  return { ok: true }
}

interface Interval {
  readonly environment: number
  readonly fromAt: number
  readonly untilAt: number | null
  readonly except: number | null
}

/** An outage begins before it ends, and two of one environment do not overlap. */
function checkInterval({ tx, now }: Context, of: Interval): void {
  if (of.untilAt !== null && of.untilAt <= of.fromAt)
    throw new Refusal('invalid', 'The outage would end before it begins; nothing was stored.', {
      fields: [{ field: 'untilAt', message: 'is before the beginning' }],
    })
  if (of.fromAt > now + 366 * 86_400_000)
    throw new Refusal('invalid', 'That is more than a year ahead; nothing was stored.', {
      fields: [{ field: 'fromAt', message: 'is more than a year ahead' }],
    })
  if (overlapping(tx, of) !== undefined)
    throw new Refusal('refused', 'There is an outage of this environment in that time already; change that one.')
}

export function addOutage(
  context: Context,
  { body }: Input<typeof addOutageContract>,
): Answer<typeof addOutageContract> {
  const { tx, project } = context
  const environment = own(context, body.environment)
  refuseAny(environment)
  checkInterval(context, { ...body, except: null })
  const id = addOutageTo(tx, {
    projectId: project.id,
    environmentId: environment.id,
    fromAt: body.fromAt,
    untilAt: body.untilAt,
    reason: body.reason,
    personId: context.person.id,
  })
  told(context, environment, 'outage said', [null, body.reason])
  return { id }
}

const told = (
  context: Context,
  { id, name }: EnvironmentStored,
  action: 'outage said' | 'outage changed' | 'outage ended' | 'outage taken back' | 'outage said again',
  reason: readonly [unknown, unknown],
): void => context.change({ kind: 'environment', id, ref: name, action, detail: { outage: reason } })

function ownOutage({ tx, project }: Context, id: number, isGone = false): OutageStored {
  const row = outageById(tx, project.id, id)
  return found(row && isGone ? { ...row, deletedAt: null } : row, 'That outage')
}

export function changeOutage(
  context: Context,
  { params, body }: Input<typeof changeOutageContract>,
): Answer<typeof changeOutageContract> {
  const before = ownOutage(context, params.id)
  const edit = definedOf(body)
  const environment = own(context, before.environmentId)
  const next = { ...before, ...edit }
  if (Object.keys(changedFields({ ...before }, edit)).length === 0) return { ok: true }
  checkInterval(context, { ...next, environment: before.environmentId, except: before.id })
  saveOutage(context.tx, before.id, edit)
  const ends = before.untilAt === null && next.untilAt !== null
  told(context, environment, ends ? 'outage ended' : 'outage changed', [before.reason, next.reason])
  return { ok: true }
}

export function removeOutage(
  context: Context,
  { params, query }: Input<typeof removeOutageContract>,
): Answer<typeof removeOutageContract> {
  const undo = query.undo === 'yes'
  const stored = ownOutage(context, params.id, undo)
  const environment = own(context, stored.environmentId)
  if (undo) checkInterval(context, { ...stored, environment: stored.environmentId, except: stored.id })
  saveOutage(context.tx, stored.id, { deletedAt: undo ? null : context.now })
  told(context, environment, undo ? 'outage said again' : 'outage taken back', [stored.reason, null])
  return { ok: true }
}
