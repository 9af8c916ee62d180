import { minutesText } from '#core/lib/figures.ts'
import { withoutCircles } from './levelling.ts'
import { freeOn, type Given } from './load.ts'

/** A person with what they can give on each of some days. */
interface Hands extends Given {
  readonly id: string
  readonly name: string
  readonly skills: readonly string[]
}
interface Work {
  readonly id: number
  readonly minutes: number
  readonly skills: readonly string[]
  /** Ids of what has to be executed before it. */
  readonly after: readonly number[]
  readonly due: string | null
  readonly begun: boolean
  readonly key: string
}
interface Placed {
  readonly item: number
  readonly person: string
  readonly day: string
  readonly pinned: boolean
}
export interface Planning {
  readonly today: string
  readonly days: readonly string[]
  readonly hands: readonly Hands[]
  readonly work: readonly Work[]
  readonly places: readonly Placed[]
}
/** Why something cannot be planned as it stands; `item` is `null` for what is of no item. */
export interface Problem {
  readonly item: number | null
  readonly words: string
}

const known = (skill: string): string => skill.trim().toLowerCase()

/** What cannot be planned as it stands, each at its item, in the order of the items; the rest is planned all the same. */
export function problemsOf(of: Planning): Problem[] {
  const { days, hands, work } = of
  const none = hands.length > 0 && days.length > 0 && !hands.some((hand) => days.some((_, at) => freeOn(hand, at) > 0))
  const places = new Map(of.places.map((place) => [place.item, place]))
  const circles = new Map(
    withoutCircles(work.map(({ id, after }) => ({ key: String(id), after: after.map(String) }))).circles.flatMap(
      (circle) => circle.map((key, at) => [key, circle[(at + 1) % circle.length] ?? key] as const),
    ),
  )
  const names = new Map(work.map(({ id, key }) => [String(id), key]))
  return [
    ...(none ? [{ item: null, words: 'Nobody of the team has any hours on these days; nothing can be planned.' }] : []),
    ...work.flatMap((item) => {
      const next = circles.get(String(item.id))
      const words = [
        ...(next === undefined ? [] : [`comes after ${names.get(next) ?? 'itself'}, which comes after it in the end`]),
        ...(none || days.length === 0 ? [] : handsFor(item, of)),
        ...(item.due !== null && item.due < of.today ? [`was due on ${item.due}, which is over`] : []),
        ...(placedWrong(item, places.get(item.id), of) ?? []),
      ]
      return words.length > 0 ? [{ item: item.id, words: words.join('; ') }] : []
    }),
  ]
}

/** Whether anybody can execute it on any of the days, alone on it. */
function handsFor({ skills, minutes }: Work, { hands, days }: Planning): string[] {
  if (hands.length === 0) return []
  const able = hands.filter((hand) => skills.every((skill) => hand.skills.some((own) => known(own) === known(skill))))
  const [only, ...others] = hands
  if (able.length === 0)
    return [
      `asks for ${skills.join(' and ')}, which ${others.length === 0 ? `${only?.name ?? 'nobody'} does not have` : 'nobody of the team has'}`,
    ]
  const longest = Math.max(0, ...able.flatMap((hand) => days.map((_, at) => freeOn(hand, at))))
  if (minutes <= longest) return []
  return [`takes ${minutesText(minutes)}, longer than any day of who can execute it (${minutesText(longest)} at most)`]
}

/** What is pinned to a day without hours, or was begun by somebody who is not there any more. */
function placedWrong({ begun }: Work, place: Placed | undefined, { today, days, hands }: Planning): string[] | null {
  if (!place || place.day < today) return null
  const hand = hands.find(({ id }) => id === place.person)
  const at = days.indexOf(place.day)
  if (!hand) return ['is on the day of somebody who is not of the team any more']
  if (at < 0) return [`is on ${place.day}, which is none of the days that are left`]
  if ((hand.minutes[at] ?? 0) > 0) return null
  if (begun) return [`was begun by ${hand.name}, who has no hours on ${place.day}`]
  return [`is ${place.pinned ? 'pinned' : 'planned'} to ${place.day}, on which ${hand.name} has no hours`]
}
