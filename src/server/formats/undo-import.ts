import { numbersIn } from '#db/json.ts'
import { keyOf } from '#core/lib/key.ts'
import { z } from 'zod'
import type { undoImport as contract } from '#core/formats/contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { mayDo } from '#core/lib/rights.ts'
import { caseById, saveCase } from '#db/cases/cases.ts'
import { workingCopy } from '#db/cases/versions.ts'
import { endAct, findAct, swapWorking, workedWith } from '#db/formats/imports.ts'
import { hideRows } from '#db/finding/search.ts'
import { customFields, setTags, setValues } from '#db/projects/fields.ts'
import { requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

const target = z.object({ release: z.number(), iteration: z.number().nullable() })
const beforeShape = z.array(
  z.object({
    id: z.number(),
    version: z.number(),
    set: z.record(z.string(), z.unknown()),
    tags: z.array(z.string()).optional(),
    values: z.record(z.string(), z.array(z.string())).optional(),
    targets: z.array(target).optional(),
    content: z.string().optional(),
  }),
)
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
 * else has worked with.
 */
export function undoImport(context: Context, { params }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, now } = context
  const act = findAct(tx, project.id, params.id)
  if (!act) throw new Refusal('not-found', 'There is no such import in this project.')
  if (act.undoneAt !== null) throw new Refusal('refused', 'This import was taken back already.')
  const kind = act.what === 'case' ? 'case' : 'requirement'
  const deletes = mayDo(context.role, 'delete')
  if (!deletes && act.personId !== context.person.id)
    throw new Refusal('not-allowed', 'This import is somebody else’s; they or a lead can take it back.')
  const all = numbersIn(act.made)
  const used = deletes ? new Map<number, number>() : workedWith(tx, kind, all, act)
  const made = all.filter((id) => !used.has(id))
  hideRows(tx, act.what === 'case' ? 'test_case' : 'requirement', made, now)
  const kept = [...used.values()].map((number) => keyOf(kind, number))
  const swapped: number[] = []
  for (const before of beforeShape.parse(JSON.parse(act.changed))) {
    const ref = act.what === 'case' ? undoCase(context, before, swapped) : undoRequirement(context, before)
    if (ref !== null) kept.push(ref)
  }
  swapWorking(tx, act.id, swapped)
  endAct(tx, act.id, now)
  context.change({
    kind,
    id: made[0] ?? 0,
    ref: 'import',
    action: 'taken back',
    detail: { import: [act.source, null] },
  })
  return { deleted: made.length, kept }
}

type Before = z.infer<typeof beforeShape>[number]

/** The key of what was left because somebody changed it since, else `null`. */
function undoCase(context: Context, before: Before, swapped: number[]): string | null {
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

function undoRequirement(context: Context, before: Before): string | null {
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

function undoCommon(context: Context, kind: 'case' | 'requirement', before: Before): void {
  const fields = customFields(context.tx, context.project.id, kind)
  for (const [id, values] of Object.entries(before.values ?? {})) {
    const field = fields.find((each) => each.id === Number(id))
    if (field) setValues(context.tx, field, before.id, values)
  }
  if (before.tags) setTags(context.tx, context.project.id, kind, before.id, before.tags)
}
