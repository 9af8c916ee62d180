import { sumOf } from '#core/lib/figures.ts'
import type { SolveLinear } from '#core/lib/linear.ts'
import type { HeldSide } from './held.ts'
import { choose } from './select.ts'
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
  const of = asChoice(items)
  const all = choose({ ...of, budget: Infinity })
  const held = placesOf(items, 'above')
  const byHand = sumOf(held, (at) => items[at]!.minutes)
  const covered = new Set(held.flatMap((at) => [...of.covers[at]!]))
  const left = Math.max(0, minutes - byHand)
  const open = placesOf(items, null)
  const chosen = choose({ ...withoutHeld(of, { open: new Set(open), covered }), budget: left }, solve)
  const own = sumOf([...covered], (thing) => of.worth[thing]!)
  const free = open.length === items.length ? null : choose({ ...of, budget: minutes }, solve).worth
  const above = new Set([...held, ...chosen.chosen])
  const order = byGain(all.chosen, items)
  const filled = fill(order, { items, above, left: left - chosen.minutes })
  const keysOf = (places: readonly number[]) => places.map((at) => items[at]!.key)
  return {
    above: keysOf(order.filter((at) => above.has(at))),
    below: keysOf(order.filter((at) => !above.has(at))),
    minutes: chosen.minutes + filled + byHand,
    worth: chosen.worth + own,
    bound: chosen.bound + own,
    whole: all.worth,
    cost: free === null ? null : Math.max(0, free - chosen.worth - own),
  }
}

const placesOf = (items: readonly LineItem[], side: HeldSide | null): number[] =>
  items.flatMap(({ held }, at) => (held === side ? [at] : []))

/** What is still to be chosen: of the open items, and worth what those put above by hand do not cover. */
const withoutHeld = (
  { covers, worth, minutes }: ReturnType<typeof asChoice>,
  { open, covered }: { readonly open: ReadonlySet<number>; readonly covered: ReadonlySet<number> },
): ReturnType<typeof asChoice> => ({
  minutes,
  worth: worth.map((each, thing) => (covered.has(thing) ? 0 : each)),
  covers: covers.map((own, at) => (open.has(at) ? own : new Int32Array())),
})

/** What adds nothing is given up for something else alone: as much of it as still fits stands above as well. Answers its minutes. */
function fill(
  order: readonly number[],
  of: { readonly items: readonly LineItem[]; readonly above: Set<number>; readonly left: number },
): number {
  let taken = 0
  for (const at of order) {
    const { held, minutes } = of.items[at]!
    if (held !== null || of.above.has(at) || taken + minutes > of.left) continue
    of.above.add(at)
    taken += minutes
  }
  return taken
}

/** What adds something in the order of what it adds for its minutes; then what adds nothing, by its own worth. */
function byGain(order: readonly number[], items: readonly LineItem[]): number[] {
  const known = new Set(order)
  const idle = items
    .map((item, at) => ({ at, minutes: item.minutes, worth: worthOf(item) }))
    .filter(({ at }) => !known.has(at))
    .sort((a, b) => b.worth - a.worth || a.minutes - b.minutes)
  return [...order, ...idle.map(({ at }) => at)]
}
