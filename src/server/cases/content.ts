import { numberIn, keyOrder } from '#core/lib/key.ts'
import type { CaseSheet, contentShape } from '#core/cases/contract.ts'
import { parametersIn, type StepText, type StepUse, type VersionContent, versionName } from '#core/cases/steps.ts'
import { flatSteps, parametersOf, selfUse } from '#core/cases/uses.ts'
import { counted } from '#core/lib/figures.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findCase } from '#db/cases/cases.ts'
import { versionById } from '#db/cases/versions.ts'
import { findRoutine, routineVersionById } from '#db/reuse/routines.ts'
import { tableById } from '#db/reuse/data-tables.ts'
import { needsWithin, usedIn } from '#db/cases/uses.ts'
import { type Context, found } from '#server/http/context.ts'
import type { z } from 'zod'
import { cutFrom } from './cut-version.ts'
import { cutRoutineFrom } from './cut-routine.ts'

type Sent = z.output<typeof contentShape>
type SentStep = Sent['steps'][number]
const mostExecuted = 1000

/** What a version says, as it is answered. */
export const contentAnswer = (of: VersionContent): CaseSheet['content'] => ({
  preconditions: of.preconditions,
  steps: of.steps.map(({ use, ...step }) => ({ ...step, ...(use && { use: { ...use, values: { ...use.values } } }) })),
  parameters: [...of.parameters],
  rows: of.rows.map((row) => ({ ...row })),
  ...(of.needs && { needs: [...of.needs] }),
  ...(of.environment !== undefined && { environment: of.environment }),
  ...(of.table && { table: { ...of.table } }),
})

/** Empty steps dropped, parameters as the text uses them (those with values kept); what is inserted pinned to its version. */
export function cleanedContent(
  context: Context,
  own: { readonly ref: string; readonly id: number },
  of: Sent,
): VersionContent {
  const steps = cleanedSteps(context, own.ref, of.steps)
  const { preconditions } = of
  const find = usedIn(context.tx)
  const open = steps.flatMap((step) => {
    const used = step.use && find(step.use)
    return used ? parametersOf(used, find).filter((name) => (step.use?.values[name] ?? '').trim() === '') : []
  })
  const used = [...new Set([...parametersIn({ preconditions, steps }), ...open])]
  const valued = of.parameters.filter((name) => !used.includes(name) && of.rows.some((row) => (row[name] ?? '') !== ''))
  return { preconditions, steps, parameters: [...used, ...valued], rows: of.rows, ...settingOf(context, own, of) }
}

/** The same for the steps alone, as a routine has them. */
export function cleanedSteps(context: Context, own: string, sent: readonly SentStep[]): StepText[] {
  const steps = sent
    .map((step, index): StepText =>
      step.use
        ? pinned(context, own, { ...step, use: step.use }, index)
        : {
            id: step.id,
            action: step.action,
            expected: step.expected,
            data: step.data,
            ...(step.evidence && { evidence: true }),
          },
    )
    .filter(({ action, expected, data, use }) => use !== undefined || `${action}${expected}${data}`.trim() !== '')
  const find = usedIn(context.tx)
  const inside = selfUse(own, steps, find)
  if (inside !== null)
    throw new Refusal(
      'refused',
      `Step ${inside + 1} inserts ${steps[inside]?.use?.ref ?? ''}, which contains ${own} itself; nothing was stored.`,
    )
  const executed = flatSteps(
    steps.map(({ id, ...step }) => ({ key: id ?? 0, ...step })),
    find,
  ).length
  if (executed > mostExecuted)
    throw new Refusal(
      'too-large',
      `With everything written out these are ${counted(executed, 'step')}; at most ${mostExecuted} can be executed. Nothing was stored.`,
    )
  return steps
}

/** A use names its version; the newest one when it asks for none, cut if there is none yet. */
function pinned(context: Context, own: string, step: SentStep & { use: StepUse }, index: number): StepText {
  const { use } = step
  const number = numberIn(use.kind, use.ref)
  const gone = (sentence: string) =>
    new Refusal('invalid', `Step ${index + 1}: ${sentence} Nothing was stored.`, {
      fields: [{ field: `content.steps.${index}.use`, message: sentence }],
    })
  if (use.ref === own) throw new Refusal('refused', `Step ${index + 1} inserts ${own} into itself; nothing was stored.`)
  const { values } = use
  const told = use.kind === 'routine' ? routineAt(context, number, use.version) : caseAt(context, number, use.version)
  if (!told)
    throw gone(`${use.ref} ${use.version === 0 ? 'is not in this project or has no step yet' : 'has no such version'}.`)
  return {
    id: step.id,
    action: told.title,
    expected: '',
    data: '',
    use: { kind: use.kind, ref: use.ref, version: told.version, name: told.name, values },
  }
}

function routineAt(
  context: Context,
  number: number,
  version: number,
): { version: number; name: string; title: string } | undefined {
  const stored = findRoutine(context.tx, context.project.id, number)
  if (!stored) return undefined
  // One that was deleted stays where it is in use; it is not inserted anew.
  if (version === 0 && stored.deletedAt !== null) return undefined
  const at = version === 0 ? cutRoutineFrom(context, stored, 'inserted').id : version
  const pinnedVersion = at === null ? undefined : routineVersionById(context.tx, at)
  return pinnedVersion?.routineId === stored.id && pinnedVersion.major !== null
    ? {
        version: pinnedVersion.id,
        name: versionName(pinnedVersion.major, pinnedVersion.minor ?? 0),
        title: stored.title,
      }
    : undefined
}

function caseAt(
  context: Context,
  number: number,
  version: number,
): { version: number; name: string; title: string } | undefined {
  const stored = findCase(context.tx, context.project.id, number)
  if (!stored || (version === 0 && (stored.deletedAt !== null || stored.steps === 0))) return undefined
  const at = version === 0 ? cutFrom(context, stored, 'its steps inserted').id : version
  const pinnedVersion = at === null ? undefined : versionById(context.tx, at)
  return pinnedVersion?.caseId === stored.id && pinnedVersion.major !== null && pinnedVersion.major >= 0
    ? {
        version: pinnedVersion.id,
        name: versionName(pinnedVersion.major, pinnedVersion.minor ?? 0),
        title: stored.title,
      }
    : undefined
}

function settingOf(
  context: Context,
  own: { readonly ref: string; readonly id: number },
  { needs = [], environment = '', table }: Sent,
): Pick<VersionContent, 'needs' | 'environment' | 'table'> {
  const { tx, project } = context
  for (const key of needs) {
    const other = found(findCase(tx, project.id, numberIn('case', key)), key)
    if (key === own.ref || needsWithin(tx, other.id).includes(own.id))
      throw new Refusal(
        'refused',
        `${key} must itself run after ${own.ref}, so it cannot run before it; nothing was stored.`,
      )
  }
  const stored = table && tableById(tx, project.id, table.id)
  if (table && (!stored || stored.deletedAt !== null))
    throw new Refusal('invalid', 'That data table is not in this project any more; nothing was stored.')
  const unique = [...new Set(needs)].sort(keyOrder)
  return {
    ...(unique.length > 0 && { needs: unique }),
    ...(environment !== '' && { environment }),
    ...(stored && table && { table: { id: stored.id, name: stored.name, mode: table.mode } }),
  }
}
