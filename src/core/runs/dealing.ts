/** Deals items round a team so that each has as near the same minutes as whole items allow. */
export interface Dealt {
  readonly item: number
  readonly person: string
}

/**
 * Longest first to whoever has least so far (LPT rule, Graham 1969: at most 4/3 of the best balance).
 * `load` is what each person already has, in minutes; ties go to the earlier name in `people`.
 */
export function dealEvenly(
  items: readonly { readonly id: number; readonly minutes: number }[],
  people: readonly string[],
  load: Readonly<Record<string, number>> = {},
): Dealt[] {
  if (people.length === 0) return []
  const minutes = new Map(people.map((person) => [person, load[person] ?? 0]))
  const longestFirst = [...items].sort((a, b) => b.minutes - a.minutes || a.id - b.id)
  return longestFirst.map((item) => {
    const person = people.reduce((least, each) => ((minutes.get(each) ?? 0) < (minutes.get(least) ?? 0) ? each : least))
    minutes.set(person, (minutes.get(person) ?? 0) + item.minutes)
    return { item: item.id, person }
  })
}
