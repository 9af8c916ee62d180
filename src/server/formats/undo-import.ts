import { numbersIn } from '#db/json.ts'
import { keyOf } from '#core/lib/key.ts'
import { z } from 'zod'
import type { undoImport as contract } from '#core/formats/contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { mayDo } from '#core/lib/rights.ts'
import { caseById, saveCase } from '#db/cases/cases.ts'
import { workingCopy } from '#db/cases/versions.ts'
import {
  type ActStored,
  endAct,
  findAct,
  noteAct,
  type OwnerKind,
  swapWorking,
  workedWith,
} from '#db/formats/imports.ts'
import { hideRows } from '#db/finding/search.ts'
import { customFields, setTags, setValues } from '#db/projects/fields.ts'
import { requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import type { Context } from '#server/http/context.ts'
import { atOnce, type Going, goingFor, inSets } from '#server/http/going.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Store } from './import-read.ts'
import { beforesIn, type StoredBefore, storedChanges } from './settle-act.ts'

const caseSet = z
  .object({
    title: z.string(),
    objective: z.string(),
    importance: z.enum(['Critical', 'High', 'Medium', 'Low']),
    type: z.string(),
    component: z.string(),
    folderId: z.number().nullable(),
    estimate: z.number().nullable(),
    ownerId: z.string().nullable(),
    automation: z.enum(['Manual', 'Candidate', 'Automated']),
  })
  .partial()
const requirementSet = z
  .object({
    title: z.string(),
    text: z.string(),
    kind: z.string(),
    component: z.string(),
    state: z.enum(['Draft', 'Agreed', 'Done', 'Dropped']),
    parentId: z.number().nullable(),
    likelihood: z.number().nullable(),
    impact: z.number().nullable(),
    priority: z.number().nullable(),
    ownerId: z.string().nullable(),
    outsideRef: z.string(),
  })
  .partial()

/**
 * Takes a whole import back: what it made is deleted (and can be brought back), what it changed says again what it said before. What
 * somebody changed since is left and named. Deleting is for leads: others take back their own imports alone, and of them what nobody
 * else has worked with. A large one goes in slices; stopped, the rest of it can be taken back later.
 */
export async function undoImport(
  context: OpenContext,
  { params }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const going = goingFor(context, context.project.id)
  try {
    return await undoAct(context.store, params.id, going)
  } finally {
    going.end()
  }
}

export async function undoAct(
  store: Store,
  id: number,
  going: Pick<Going, 'report' | 'stopped'>,
): Promise<Answer<typeof contract>> {
  const rest = store((context) => restOf(context, id))
  const all = rest.made.length + rest.changed.length
  if (all <= atOnce)
    return store((context) => {
      const kept = takeBack(context, rest, rest)
      finish(context, rest)
      return { deleted: rest.made.length, kept: [...rest.kept, ...kept] }
    })
  const kept = [...rest.kept]
  const left = { made: [...rest.made], changed: [...rest.changed] }
  const open = () => left.made.length + left.changed.length
  const inSetsOf = <T>(items: readonly T[], work: (context: Context, some: readonly T[]) => void) =>
    inSets(items, (some) => {
      if (going.stopped()) return false
      store((context) => work(context, some))
      going.report(all - open(), all)
      return true
    })
  try {
    await inSetsOf(rest.made, (context, made) => {
      takeBack(context, rest, { made, changed: [] })
      left.made.splice(0, made.length)
    })
    await inSetsOf(rest.changed, (context, changed) => {
      kept.push(...takeBack(context, rest, { made: [], changed }))
      left.changed.splice(0, changed.length)
    })
  } finally {
    if (open() > 0) store(({ tx }) => noteAct(tx, rest.act.id, left))
  }
  const deleted = rest.made.length - left.made.length
  if (open() > 0)
    return { deleted, kept, stopped: `Stopped after ${all - open()} of ${all}; the rest can be taken back later.` }
  store((context) => finish(context, rest))
  return { deleted, kept }
}

interface Rest {
  readonly act: ActStored
  readonly kind: OwnerKind
  readonly made: readonly number[]
  readonly changed: readonly unknown[]
  /** What is not taken back, since others have worked with it. */
  readonly kept: readonly string[]
}

/** What of an act is to be taken back by whoever asks. */
function restOf({ tx, project, role, person }: Context, id: number): Rest {
  const act = findAct(tx, project.id, id)
  if (!act) throw new Refusal('not-found', 'There is no such import in this project.')
  if (act.undoneAt !== null) throw new Refusal('refused', 'This import was taken back already.')
  const kind = act.what === 'case' ? 'case' : 'requirement'
  const deletes = mayDo(role, 'delete')
  if (!deletes && act.personId !== person.id)
    throw new Refusal('not-allowed', 'This import is somebody else’s; they or a lead can take it back.')
  const all = numbersIn(act.made)
  const used = deletes ? new Map<number, number>() : workedWith(tx, kind, all, act)
  return {
    act,
    kind,
    made: all.filter((each) => !used.has(each)),
    changed: storedChanges(act),
    kept: [...used.values()].map((number) => keyOf(kind, number)),
  }
}

/** Takes some of an act back; answers the keys of what was left because somebody changed it since. */
function takeBack(
  context: Context,
  { act, kind }: Rest,
  { made, changed }: { readonly made: readonly number[]; readonly changed: readonly unknown[] },
): string[] {
  hideRows(context.tx, kind === 'case' ? 'test_case' : 'requirement', made, context.now)
  const kept: string[] = []
  const swapped: number[] = []
  for (const before of beforesIn(changed)) {
    const ref = kind === 'case' ? undoCase(context, before, swapped) : undoRequirement(context, before)
    if (ref !== null) kept.push(ref)
  }
  swapWorking(context.tx, act.id, swapped)
  return kept
}

function finish(context: Context, { act, kind, made }: Rest): void {
  endAct(context.tx, act.id, context.now)
  context.change({
    kind,
    id: made[0] ?? 0,
    ref: 'import',
    action: 'taken back',
    detail: { import: [act.source, null] },
  })
}

/** The key of what was left because somebody changed it since, else `null`. */
function undoCase(context: Context, before: StoredBefore, swapped: number[]): string | null {
  const stored = caseById(context.tx, before.id)
  if (!stored || stored.deletedAt !== null) return null
  const typedOver = before.content !== undefined && workingCopy(context.tx, before.id).fingerprint !== before.content
  if (stored.version !== before.version || typedOver) return keyOf('case', stored.number)
  saveCase(context.tx, stored.id, {
    ...definedOf(caseSet.parse(before.set)),
    version: stored.version + 1,
    updatedAt: context.now,
  })
  if (before.content !== undefined) swapped.push(stored.id)
  undoCommon(context, 'case', before)
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: 'changed',
    detail: { 'by an import': [null, 'taken back'] },
  })
  return null
}

function undoRequirement(context: Context, before: StoredBefore): string | null {
  const stored = requirementById(context.tx, context.project.id, before.id)
  if (!stored || stored.deletedAt !== null) return null
  if (stored.version !== before.version) return keyOf('requirement', stored.number)
  saveRequirement(context.tx, stored, definedOf(requirementSet.parse(before.set)), context.by)
  if (before.targets) setTargets(context.tx, stored.id, before.targets)
  undoCommon(context, 'requirement', before)
  context.change({
    kind: 'requirement',
    id: stored.id,
    ref: keyOf('requirement', stored.number),
    action: 'changed',
    detail: { 'by an import': [null, 'taken back'] },
  })
  return null
}

function undoCommon(context: Context, kind: 'case' | 'requirement', before: StoredBefore): void {
  const fields = customFields(context.tx, context.project.id, kind)
  for (const [id, values] of Object.entries(before.values ?? {})) {
    const field = fields.find((each) => each.id === Number(id))
    if (field) setValues(context.tx, field, before.id, values)
  }
  if (before.tags) setTags(context.tx, context.project.id, kind, before.id, before.tags)
}
