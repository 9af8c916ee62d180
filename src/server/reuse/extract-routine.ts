import { keyOf, numberIn } from '#core/lib/key.ts'
import type { extractRoutine as contract } from '#core/reuse/contract.ts'
import { stepSense } from '#core/reuse/repeats.ts'
import { parametersIn, type StepText, versionName } from '#core/cases/steps.ts'
import { parametersOf } from '#core/cases/uses.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type CaseStored, findCase } from '#db/cases/cases.ts'
import { readContent, workingCopy } from '#db/cases/versions.ts'
import { routineVersionById } from '#db/reuse/routines.ts'
import { usedIn } from '#db/cases/uses.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cutRoutineFrom } from '#server/cases/cut-routine.ts'
import { makeRoutine } from './keep-routines.ts'
import { rewriteCase } from '#server/cases/rewrite-case.ts'

/** Steps become a routine, and it takes their place here and in every other case named; each case keeps what it said as a version. */
export function extractRoutine(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx } = context
  const from = caseOf(context, body.from.case)
  const chosen = readContent(tx, workingCopy(tx, from.id)).steps.slice(body.from.at, body.from.at + body.length)
  if (chosen.length < body.length)
    throw new Refusal(
      'invalid',
      `${body.from.case} has no ${body.length} steps from step ${body.from.at + 1} on; nothing was changed.`,
    )
  const sense = chosen.map(stepSense)
  const routine = makeRoutine(
    context,
    body.title,
    chosen.map((step) => ({ ...step, id: null })),
  )
  const cut = cutRoutineFrom(context, routine, `from ${body.from.case}`)
  const version = cut.id === null ? undefined : routineVersionById(tx, cut.id)
  if (!version) throw new Error(`routine ${routine.id} was not cut`)
  const key = keyOf('routine', routine.number)
  const find = usedIn(tx)
  const used = find({ kind: 'routine', version: version.id })
  // A parameter of the steps is handed on under its own name, so that every data row still means what it did.
  const values = Object.fromEntries(
    (used ? parametersOf(used, find) : parametersIn({ preconditions: '', steps: chosen })).map((name) => [
      name,
      `{${name}}`,
    ]),
  )
  const use: StepText = {
    id: null,
    action: body.title,
    expected: '',
    data: '',
    use: {
      kind: 'routine',
      version: version.id,
      ref: key,
      name: versionName(version.major ?? 0, version.minor ?? 0),
      values,
    },
  }
  for (const place of [body.from, ...body.also])
    putInPlace(context, caseOf(context, place.case), { at: place.at, sense, use, why: `steps moved into ${key}` })
  return { key, cases: 1 + body.also.length }
}

const caseOf = ({ tx, project }: Context, key: string): CaseStored =>
  found(findCase(tx, project.id, numberIn('case', key)), key)

function putInPlace(
  context: Context,
  own: CaseStored,
  of: { at: number; sense: readonly string[]; use: StepText; why: string },
): void {
  const content = readContent(context.tx, workingCopy(context.tx, own.id))
  const there = content.steps.slice(of.at, of.at + of.sense.length).map(stepSense)
  if (there.length < of.sense.length || there.some((each, index) => each !== of.sense[index]))
    throw new Refusal(
      'conflict',
      `${keyOf('case', own.number)} does not say these steps at step ${of.at + 1} any more; nothing was changed. Look for repeats again.`,
    )
  const next = {
    ...content,
    steps: [...content.steps.slice(0, of.at), of.use, ...content.steps.slice(of.at + of.sense.length)],
  }
  rewriteCase(context, own, next, of.why)
  context.change({ kind: 'case', id: own.id, ref: keyOf('case', own.number), action: 'written' })
}
