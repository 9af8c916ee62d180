import { keyOf, numberIn } from '#core/lib/key.ts'
import type { repinUses as contract } from '#core/reuse/contract.ts'
import { type StepText, type StepUse, versionName } from '#core/cases/steps.ts'
import { groupBy } from '#core/lib/group.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type CaseStored, findCase } from '#db/cases/cases.ts'
import { readContent, workingCopy } from '#db/cases/versions.ts'
import {
  findRoutine,
  readRoutineSteps,
  type RoutineStored,
  routineVersionById,
  routineWorking,
  writeRoutineSteps,
} from '#db/reuse/routines.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cutRoutineFrom } from '#server/cases/cut-routine.ts'
import { routineStamp } from './keep-routines.ts'
import { rewriteCase } from '#server/cases/rewrite-case.ts'

/** Cases and routines that insert a routine go over to another of its versions, each with a new minor version that says why. */
export function repinUses(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project } = context
  const stored = found(findRoutine(tx, project.id, params.ref), keyOf('routine', params.ref))
  const to = routineVersionById(tx, body.to)
  if (!to || to.routineId !== stored.id || to.major === null)
    throw new Refusal('invalid', `${keyOf('routine', params.ref)} has no such version; nothing was changed.`)
  const name = versionName(to.major, to.minor ?? 0)
  const moved = body.in.flatMap((key) => {
    const change = (use: StepUse): StepUse =>
      use.kind === 'routine' && use.ref === keyOf('routine', params.ref) ? { ...use, version: to.id, name } : use
    const why = `uses ${keyOf('routine', params.ref)} ${name}`
    const from =
      numberIn('case', key) > 0
        ? repinCase(context, found(findCase(tx, project.id, numberIn('case', key)), key), { change, why })
        : repinRoutine(context, found(findRoutine(tx, project.id, numberIn('routine', key)), key), { change, why })
    return from === null ? [] : [{ key, from }]
  })
  return {
    changed: moved.length,
    undo: [...groupBy(moved, ({ from }) => from)].map(([at, all]) => ({ to: at, in: all.map(({ key }) => key) })),
  }
}

interface Repin {
  readonly change: (use: StepUse) => StepUse
  readonly why: string
}

/** The version that was used before, or `null` where nothing changes. */
function changedUse(steps: readonly StepText[], change: Repin['change']): number | null {
  const step = steps.find(({ use }) => use && change(use).version !== use.version)
  return step?.use?.version ?? null
}
const withUses = <T extends StepText>(steps: readonly T[], change: Repin['change']): T[] =>
  steps.map((step) => (step.use ? { ...step, use: change(step.use) } : step))

function repinCase(context: Context, own: CaseStored, { change, why }: Repin): number | null {
  const content = readContent(context.tx, workingCopy(context.tx, own.id))
  const from = changedUse(content.steps, change)
  if (from === null) return null
  rewriteCase(context, own, { ...content, steps: withUses(content.steps, change) }, why)
  return from
}

function repinRoutine(context: Context, own: RoutineStored, { change, why }: Repin): number | null {
  const { tx } = context
  const working = routineWorking(tx, own.id)
  const steps = readRoutineSteps(tx, working.id)
  const from = changedUse(steps, change)
  if (from === null) return null
  cutRoutineFrom(context, own, '')
  const next = withUses(steps, change)
  writeRoutineSteps(tx, working, next, routineStamp(next))
  cutRoutineFrom(context, own, why)
  return from
}
