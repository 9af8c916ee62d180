import { type AnsweredSlot, type SlotAsked, slotAnswerer, type StandingFact } from '#core/reports/scope-coverage.ts'
import type { Knowledge } from './facts-cache.ts'

const nothingStands: readonly StandingFact[] = []

/** A case with what answers its slots. */
export interface Answered {
  readonly id: number
  readonly slots: readonly AnsweredSlot[]
}
interface Before extends Answered {
  readonly by: readonly (readonly StandingFact[])[]
}

/**
 * Answers the slots of some cases, again and again as more becomes known: a case whose results are the very same lists as before is the
 * very same entry. What stands in other scopes may be handed over beside; `over` says by which scope it is all answered.
 */
export function answering(
  facts: Knowledge['facts'],
  asked: readonly SlotAsked[],
  over: (scope: Knowledge['scope']) => Knowledge['scope'] = (scope) => scope,
): (known: Pick<Knowledge, 'scope' | 'standing'>, beside?: readonly Knowledge[]) => readonly Answered[] {
  const known = new Map(facts.cases.map((each) => [each.id, each]))
  const cases = [...new Set(asked.map((slot) => slot.case))].flatMap((id) => known.get(id) ?? [])
  let last: { readonly scope: Knowledge['scope']; readonly answer: ReturnType<typeof slotAnswerer> } | null = null
  let before: Before[] = []
  return ({ scope, standing }, beside = []) => {
    if (last?.scope !== scope) {
      last = { scope, answer: slotAnswerer({ ...facts, slots: asked }, over(scope)) }
      before = []
    }
    const { answer } = last
    const told = [standing, ...beside.map((each) => each.standing)]
    before = cases.map((own, at) => {
      const entry = before[at]
      if (entry?.by.length === told.length && isSame(entry, told)) return entry
      const by = told.map((each) => each.get(own.id) ?? nothingStands)
      return { id: own.id, by, slots: answer(own, by.length === 1 ? (by[0] ?? nothingStands) : by.flat()) }
    })
    return before
  }
}

function isSame({ id, by }: Before, told: readonly Knowledge['standing'][]): boolean {
  for (let at = 0; at < told.length; at++) if ((told[at]?.get(id) ?? nothingStands) !== by[at]) return false
  return true
}
