/** Deals items round a team so that each has as near the same minutes as whole items allow. */
export interface Dealt {
  readonly item: number
  readonly person: string
}
export interface ToDeal {
  readonly id: number
  readonly minutes: number
}

type Load = Readonly<Record<string, number>>

/**
 * Longest first to whoever has least so far (LPT rule, Graham 1969: at most 4/3 of the best balance).
 * `load` is what each person already has, in minutes; ties go to the earlier name in `people`.
 */
export const dealEvenly = (items: readonly ToDeal[], people: readonly string[], load: Load = {}): Dealt[] =>
  dealKnowing(items, people, { load, knows: () => 0 })

/** What somebody has to do with what an item tests. */
export interface Acquaintance {
  /** Their skills that the case or its component is tagged with. */
  readonly skills: number
  /** Attempts they finished, and defects they found, at its requirements. */
  readonly attempts: number
  readonly defects: number
}

/** A skill is worth more than a few attempts, a defect more than one; what one has done very often says no more than often. */
export const knowledge = ({ skills, attempts, defects }: Acquaintance): number =>
  5 * skills + 2 * Math.min(defects, 5) + Math.min(attempts, 5)

/** Whoever knows most has at most so much more than an even share, as a part of it. */
const most = 1.2

/**
 * The same, but each goes to whoever of the team knows it best and has room: nobody who knows it is given more than 1.2 times an
 * even share, and what nobody with room knows goes to whoever has least.
 * @param knows how well somebody knows an item; 0: not at all
 */
export function dealKnowing(
  items: readonly ToDeal[],
  people: readonly string[],
  { load = {}, knows }: { readonly load?: Load; readonly knows: (item: number, person: string) => number },
): Dealt[] {
  if (people.length === 0) return []
  const minutes = new Map(people.map((person) => [person, load[person] ?? 0]))
  const has = (person: string): number => minutes.get(person) ?? 0
  const sum = [...minutes.values(), ...items.map((item) => item.minutes)].reduce((all, each) => all + each, 0)
  const room = (most * sum) / people.length
  const longestFirst = [...items].sort((a, b) => b.minutes - a.minutes || a.id - b.id)
  return longestFirst.map((item) => {
    const knowing = people.filter((person) => knows(item.id, person) > 0 && has(person) + item.minutes <= room)
    const best = Math.max(0, ...knowing.map((person) => knows(item.id, person)))
    const among = knowing.length === 0 ? people : knowing.filter((person) => knows(item.id, person) === best)
    const person = among.reduce((least, each) => (has(each) < has(least) ? each : least), among[0] ?? '')
    minutes.set(person, has(person) + item.minutes)
    return { item: item.id, person }
  })
}
