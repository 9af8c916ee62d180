import { keyOf } from '#core/lib/key.ts'
import type { Quarantine } from '#core/runs/quarantine.ts'
import type { endQuarantine as endContract, quarantineCases as beginContract } from '#core/runs/quarantine-contract.ts'
import { caseById } from '#db/cases/cases.ts'
import { environmentById } from '#db/projects/environments.ts'
import { addQuarantine, endQuarantineOf } from '#db/runs/quarantine.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function quarantineCases(context: Context, { body }: Input<typeof beginContract>): Answer<typeof beginContract> {
  const { tx, person, now } = context
  const came = body.of.filter((each) => addQuarantine(tx, each, { personId: person.id, at: now }))
  for (const each of came) note(context, each, 'quarantined', each.reason)
  return { changed: came.length, undo: came.map((each) => ({ case: each.case, environment: each.environment })) }
}

/** Whoever is in quarantine everywhere is let out everywhere, also when one environment is named. */
export function endQuarantine(context: Context, { body }: Input<typeof endContract>): Answer<typeof endContract> {
  const ended = body.of.flatMap((each) => [
    ...endQuarantineOf(context.tx, each, context.now),
    ...(each.environment === null ? [] : endQuarantineOf(context.tx, { ...each, environment: null }, context.now)),
  ])
  for (const each of ended) note(context, each, 'out of quarantine', each.reason)
  return { changed: ended.length, undo: ended }
}

function note(context: Context, of: Quarantine, action: 'quarantined' | 'out of quarantine', reason: string): void {
  const { tx, project } = context
  const own = found(caseById(tx, of.case), 'One of the cases')
  const where = of.environment === null ? null : environmentById(tx, project.id, of.environment)
  context.change({
    kind: 'case',
    id: own.id,
    ref: keyOf('case', own.number),
    action,
    detail: { quarantine: [null, `${where?.name ?? 'everywhere'}: ${reason}`] },
  })
}
