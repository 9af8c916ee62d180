import { type Random, seeded } from '#core/lib/random.ts'
import { daysFor, density, dust, isFree, isScarce, type Placing, type Team, type Work } from './levelling.ts'

/** Passes over all days, and what is looked at for one day beside what it holds. */
const mostPasses = 4
const mostBeside = 160
/** Then a few days at a time are emptied and filled again, as long as this many cells of tables last. */
const together = 3
const mostCells = 4e7
/** Days longer than this are not filled again: the table over their minutes would be too long. */
const longestDay = 3000

/**
 * The open end of a person's day: what follows the last item that takes a seat or has an order with something else. Its items may
 * stand in any order, so that what is set up changes once for each environment.
 */
interface End {
  readonly person: number
  readonly day: number
  readonly from: number
  readonly until: number
  /** What is set up before it. */
  readonly set: number
  work: readonly Work[]
}

/**
 * Fills the open ends of days anew with the most worth of what they hold and what is cut: a knapsack over the minutes of each
 * (dynamic programming, R. Bellman 1957), for the environments it has now and for each alone, until nothing is gained any more; then
 * a few of them at a time are emptied together and filled again, and kept where that gained (large neighbourhood search, P. Shaw
 * 1998). It is the same effort and the same numbers drawn each time, so that the same plan comes out.
 */
export function improve(team: Team, can: readonly boolean[], from: Placing): Placing {
  const placing = [...from]
  const isLoose = (work: Work): boolean => isFree(work, can) && !isScarce(team, work.environment)
  const ends = endsOf(team, placing, isLoose)
  let cut = team.work
    .filter((work) => can[work.at] && !placing[work.at] && work.worth > 0 && isLoose(work))
    .sort((a, b) => density(b) - density(a) || a.at - b.at)
  for (let pass = 0; pass < mostPasses; pass++) {
    let better = false
    for (const end of ends) {
      const filled = refill(team, end, cut)
      if (!filled) continue
      cut = exchanged(cut, end.work, filled)
      end.work = filled
      better = true
    }
    if (!better) break
  }
  cut = again(team, ends, cut)
  for (const { at } of cut) placing[at] = null
  for (const end of ends) layOut(team, placing, end)
  return inTheirStead(team, can, placing)
}

/**
 * What is cut takes the place of what is worth less, in the very minutes of that: so it may be done in any day, with the same seat.
 * Nothing that has an order with something else is moved.
 */
function inTheirStead(team: Team, can: readonly boolean[], from: Placing): Placing {
  const placing = [...from]
  const byWorth = (a: Work, b: Work) => b.worth - a.worth || a.at - b.at
  const cut = new Map<number, Work[]>()
  for (const work of team.work.filter((each) => can[each.at] && !placing[each.at] && isFree(each, can)).sort(byWorth))
    cut.set(work.environment, [...(cut.get(work.environment) ?? []), work])
  const placed = team.work.filter((work) => placing[work.at] && isFree(work, can)).sort(byWorth)
  for (const work of placed.reverse()) {
    const place = placing[work.at]!
    const beside = cut.get(work.environment) ?? []
    const index = beside.findIndex((each) => {
      if (each.worth <= work.worth + dust) return true
      const [first, last] = daysFor(each)
      return (
        each.minutes <= work.minutes + dust &&
        place.day >= first &&
        place.day <= last &&
        each.people.includes(place.person)
      )
    })
    const better = beside[index]
    if (!better || better.worth <= work.worth + dust) continue
    placing[better.at] = place
    placing[work.at] = null
    beside.splice(index, 1)
  }
  return placing
}

/** What is cut once an end holds something else, still by worth for a minute. */
function exchanged(cut: readonly Work[], before: readonly Work[], now: readonly Work[]): Work[] {
  const held = new Set(now)
  const left = cut.filter((work) => !held.has(work))
  for (const work of before) {
    if (held.has(work)) continue
    const at = left.findIndex((each) => density(each) < density(work))
    left.splice(at < 0 ? left.length : at, 0, work)
  }
  return left
}

/** Empties a few ends together and fills them anew, as long as the effort lasts. */
function again(team: Team, ends: readonly End[], from: Work[]): Work[] {
  const random = seeded(1)
  let cut = from
  if (ends.length < together || cut.length === 0) return cut
  const cells = (end: End) => (end.until - end.from + 1) * (end.work.length + mostBeside)
  for (let spent = 0; spent < mostCells;) {
    const few = someOf(ends, random)
    const before = few.map(({ work }) => work)
    let open = cut
    for (const end of few) {
      open = exchanged(open, end.work, [])
      end.work = []
    }
    for (const end of few) {
      const filled = refill(team, end, open) ?? []
      open = exchanged(open, [], filled)
      end.work = filled
      spent += cells(end)
    }
    if (sumOf(few.flatMap(({ work }) => work)) > sumOf(before.flat()) + dust) cut = open
    else few.forEach((end, at) => (end.work = before[at]!))
  }
  return cut
}

const sumOf = (work: readonly Work[]): number => work.reduce((sum, { worth }) => sum + worth, 0)

function someOf(ends: readonly End[], random: Random): End[] {
  const few = new Set<End>()
  while (few.size < together) few.add(ends[Math.floor(random() * ends.length)]!)
  return [...few]
}

function endsOf(team: Team, placing: Placing, isLoose: (work: Work) => boolean): End[] {
  const days = team.minutes.map((of) => of.map((): Work[] => []))
  for (const work of team.work) {
    const place = placing[work.at]
    if (place) days[place.person]![place.day]!.push(work)
  }
  return days.flatMap((of, person) =>
    of.flatMap((own, day) => {
      const until = team.minutes[person]![day]!
      if (until <= team.from[person]![day]! || until > longestDay) return []
      own.sort((a, b) => placing[a.at]!.start - placing[b.at]!.start)
      const held = own.slice(0, own.findLastIndex((work) => !isLoose(work)) + 1)
      const last = held.at(-1)
      return [
        {
          person,
          day,
          until,
          from: last ? placing[last.at]!.start + last.minutes : team.from[person]![day]!,
          set: held.findLast(({ environment }) => environment >= 0)?.environment ?? team.set[person]![day]!,
          work: own.slice(held.length),
        },
      ]
    }),
  )
}

/** What an end would hold of more worth than now; `null` where it holds the most that is seen. */
function refill(team: Team, end: End, cut: readonly Work[]): Work[] | null {
  const beside: Work[] = []
  for (const work of cut) {
    if (beside.length === mostBeside) break
    const [first, last] = daysFor(work)
    if (end.day >= first && end.day <= last && work.people.includes(end.person)) beside.push(work)
  }
  if (beside.length === 0) return null
  const all = [...end.work, ...beside]
  const now = environmentsOf(end.work)
  const ways = [now, ...environmentsOf(all).flatMap((one) => (now.length === 1 && now[0] === one ? [] : [[one]]))]
  let most = sumOf(end.work) + dust
  let best: Work[] | null = null
  for (const environments of ways) {
    const changes =
      environments.filter((each) => each !== end.set).length - (end.set < 0 && environments.length > 0 ? 1 : 0)
    const room = Math.floor(end.until - end.from - changes * team.switch + dust)
    if (room < 0) continue
    const found = knapsack(
      all.filter(({ environment }) => environment < 0 || environments.includes(environment)),
      room,
    )
    if (found.worth <= most) continue
    most = found.worth
    best = found.work
  }
  return best
}

const environmentsOf = (work: readonly Work[]): number[] => [
  ...new Set(work.flatMap(({ environment }) => (environment < 0 ? [] : environment))),
]

/** The most worth within so many whole minutes; parts of minutes count as whole ones. */
function knapsack(work: readonly Work[], room: number): { readonly work: Work[]; readonly worth: number } {
  const most = new Float64Array(room + 1)
  const taken = work.map(({ minutes, worth }) => {
    const long = Math.ceil(minutes - dust)
    const with_ = new Uint8Array(room + 1)
    for (let time = room; time >= long; time--) {
      const sum = most[time - long]! + worth
      if (sum <= most[time]!) continue
      most[time] = sum
      with_[time] = 1
    }
    return with_
  })
  const own: Work[] = []
  let time = room
  for (let index = work.length - 1; index >= 0; index--) {
    if (taken[index]![time] === 0) continue
    own.push(work[index]!)
    time -= Math.ceil(work[index]!.minutes - dust)
  }
  return { work: own, worth: most[room]! }
}

/** One environment after the other: what is set up already first. */
function layOut(team: Team, placing: Placing, { person, day, from, set: first, work }: End): void {
  const rank = ({ environment }: Work) => (environment < 0 || environment === first ? -1 : environment)
  let [time, set] = [from, first]
  for (const own of [...work].sort((a, b) => rank(a) - rank(b) || b.worth - a.worth || a.at - b.at)) {
    if (own.environment >= 0) {
      if (set >= 0 && set !== own.environment) time += team.switch
      set = own.environment
    }
    placing[own.at] = { person, day, start: time }
    time += own.minutes
  }
}
