import type { SolveLinear } from '#core/lib/linear.ts'
import type { HeldSide } from './held.ts'
import { select } from './select.ts'
import { asChoice, type Weighed, worthOf } from './worth.ts'

export interface LineItem extends Weighed {
  /** On which side somebody put it. */
  readonly held: HeldSide | null
}
export interface Line {
  /** Keys of the items in the order they are shown in: above the line, then below it, each by what it adds for its minutes. */
  readonly above: readonly string[]
  readonly below: readonly string[]
  readonly minutes: number
  /** What is above is worth, what it could be worth at most within the minutes, and what all of it together is worth. */
  readonly worth: number
  readonly bound: number
  readonly whole: number
  /** What the choices made by hand cost in worth; `null` where there are none. */
  readonly cost: number | null
}

/**
 * What stands above the line where the time ends: what somebody put there, and of the rest the choice of most worth in the minutes
 * that are left; where the hands took more than there is, nothing more.
 */
export function drawLine(items: readonly LineItem[], minutes: number, solve: SolveLinear | null): Line {
  const { items: choosable, worth } = asChoice(items)
  const side = new Map(items.map(({ key, held }) => [key, held]))
  const all = select({ budget: Infinity, items: choosable, worth }, null)
  const held = choosable.filter(({ key }) => side.get(key) === 'above')
  const covered = new Set(held.flatMap(({ covers }) => covers))
  const rest = Object.fromEntries(Object.entries(worth).filter(([thing]) => !covered.has(thing)))
  const left = Math.max(0, minutes - held.reduce((sum, each) => sum + each.minutes, 0))
  const open = choosable.filter(({ key }) => side.get(key) === null)
  const chosen = select({ budget: left, items: open, worth: rest }, solve)
  const own = held.length === 0 ? 0 : [...covered].reduce((sum, thing) => sum + (worth[thing] ?? 0), 0)
  const free =
    open.length === choosable.length ? null : select({ budget: minutes, items: choosable, worth }, solve).worth
  const above = new Set([...held.map(({ key }) => key), ...chosen.chosen])
  const order = byGain(all.chosen, items)
  const filled = fill(order, { open, above, left: left - chosen.minutes })
  return {
    above: order.filter((key) => above.has(key)),
    below: order.filter((key) => !above.has(key)),
    minutes: chosen.minutes + filled + held.reduce((sum, each) => sum + each.minutes, 0),
    worth: chosen.worth + own,
    bound: chosen.bound + own,
    whole: all.worth,
    cost: free === null ? null : Math.max(0, free - chosen.worth - own),
  }
}

/** What adds nothing is given up for something else alone: as much of it as still fits stands above as well. Answers its minutes. */
function fill(
  order: readonly string[],
  of: {
    readonly open: readonly { key: string; minutes: number }[]
    readonly above: Set<string>
    readonly left: number
  },
): number {
  const minutes = new Map(of.open.map((each) => [each.key, each.minutes]))
  let taken = 0
  for (const key of order) {
    const own = minutes.get(key)
    if (own === undefined || of.above.has(key) || taken + own > of.left) continue
    of.above.add(key)
    taken += own
  }
  return taken
}

/** What adds something in the order of what it adds for its minutes; then what adds nothing, by its own worth. */
function byGain(order: readonly string[], items: readonly LineItem[]): string[] {
  const known = new Set(order)
  const idle = items
    .filter(({ key }) => !known.has(key))
    .sort((a, b) => worthOf(b) - worthOf(a) || a.minutes - b.minutes)
  return [...order, ...idle.map(({ key }) => key)]
}
