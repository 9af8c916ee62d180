import { leastCover } from '#core/lib/set-cover.ts'
import type { Verdict } from '#core/lib/verdict.ts'
import type { AnsweredSlot } from './scope-coverage.ts'

/** A slot whose result rests on attempts that are not believed. */
export interface Fallen {
  readonly case: number
  /** Where it stands. */
  readonly environment: number
  /** Any of which answers it; one alone as a rule. */
  readonly among: readonly number[]
  readonly from: Verdict
  readonly to: Verdict
  /** The attempt that counts instead. */
  readonly instead: number | null
  /** What counts instead is as good: nothing is to be executed for it. */
  readonly settled: boolean
}

type Slots = ReadonlyMap<number, readonly AnsweredSlot[]>

/**
 * The slots that are answered otherwise once some attempts are not there, in the order of their cases. `any` stands for whatever
 * environment there is: where it was answered, it is answered again.
 */
export function fallenSlots(before: Slots, after: Slots, any: number): Fallen[] {
  return [...before].flatMap(([id, slots]) =>
    slots.flatMap((slot, at) => {
      const now = after.get(id)?.[at]
      if (!now || now.standing?.attemptId === slot.standing?.attemptId) return []
      const where = slot.environment === any ? (slot.standing?.environmentId ?? any) : slot.environment
      return [
        {
          case: id,
          environment: slot.environment,
          among: slot.among ?? [where],
          from: slot.verdict,
          to: now.verdict,
          instead: now.standing?.attemptId ?? null,
          settled: now.verdict === slot.verdict && now.reasons.every((reason) => slot.reasons.includes(reason)),
        },
      ]
    }),
  )
}

/** A case in an environment. */
interface Item {
  readonly case: number
  readonly environment: number
}

/** The fewest items that answer every fallen slot that is not settled: of each case the fewest environments. */
export function repairOf(fallen: readonly Fallen[]): Item[] {
  const open = fallen.filter(({ settled }) => !settled)
  const cases = [...new Set(open.map((slot) => slot.case))]
  return cases.flatMap((id) => {
    const own = open.filter((slot) => slot.case === id)
    const places = [...new Set(own.flatMap(({ among }) => among))]
    const holds = places.map(
      (place) => new Set(own.flatMap(({ among }, at) => (among.includes(place) ? [String(at)] : []))),
    )
    return leastCover(holds).flatMap((at) => {
      const environment = places[at]
      return environment === undefined ? [] : [{ case: id, environment }]
    })
  })
}
