import { z } from 'zod'
import type { Notice } from '#core/techniques/models.ts'
import { exactly, name, recordOf } from '#core/techniques/models.ts'
import { circleIn } from './levelling.ts'

const most = { items: 100_000, covers: 10_000, things: 200_000, people: 500, days: 400, skills: 200 }
const minutes = z.number().finite().min(0, 'minutes are 0 or more').max(1e9)

export const selectModel = exactly({
  budget: minutes,
  items: z.array(exactly({ key: name, minutes, covers: z.array(name).max(most.covers).default([]) })).max(most.items),
  worth: recordOf(name, z.number().finite().min(0, 'worth is 0 or more'), most.things).prefault({}),
}).superRefine(({ items }, context) => {
  twice(items, 'key', (at, message) => context.addIssue({ code: 'custom', path: ['items', at, 'key'], message }))
})

function twice<K extends string>(
  all: readonly Readonly<Record<K, string>>[],
  by: K,
  told: (at: number, message: string) => void,
): void {
  const seen = new Set<string>()
  all.forEach((each, at) => {
    if (seen.has(each[by])) told(at, `“${each[by]}” stands twice`)
    seen.add(each[by])
  })
}
export type SelectModel = z.infer<typeof selectModel>

/** What is covered and has no worth given: it counts as 0. */
export const unknownThings = ({ items, worth }: SelectModel): Notice[] =>
  items.flatMap(({ covers }, at) =>
    covers.flatMap((thing, of) =>
      Object.hasOwn(worth, thing)
        ? []
        : [{ at: `items[${at}].covers[${of}]`, message: `“${thing}” has no worth given; it is worth 0` }],
    ),
  )

const day = z.iso.date('a day is written as 2026-11-23')
/** Left out, or `null`. */
const orNone = <T extends z.ZodType>(of: T) => of.nullish().transform((given) => given ?? undefined)
const skills = z.array(name).max(most.skills).default([])
const worth = z.number().finite().min(0, 'worth is 0 or more').max(1e12)

export const levelModel = exactly({
  days: z.array(day).max(most.days),
  people: z.array(exactly({ name, minutes: z.array(minutes).max(most.days), skills })).max(most.people),
  items: z
    .array(
      exactly({
        key: name,
        minutes,
        worth,
        skills,
        environment: orNone(name),
        after: z.array(name).max(most.covers).default([]),
        due: orNone(day),
        pin: orNone(exactly({ name, day: orNone(day) })),
      }),
    )
    .max(most.items),
  seats: recordOf(name, z.number().int('seats are whole').min(0, 'seats are 0 or more'), most.things).prefault({}),
  switch: minutes.default(0),
}).superRefine(({ days, people, items }, context) => {
  const wrong = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message })
  twice(items, 'key', (at, message) => wrong(['items', at, 'key'], message))
  twice(people, 'name', (at, message) => wrong(['people', at, 'name'], message))
  days.forEach((each, at) => {
    if (at > 0 && days[at - 1]! >= each) wrong(['days', at], `${each} does not come after ${days[at - 1]!}`)
  })
  people.forEach((person, at) => {
    if (person.minutes.length !== days.length)
      wrong(['people', at, 'minutes'], `there are ${days.length} days and minutes of ${person.minutes.length}`)
  })
  const names = new Set(people.map((person) => person.name))
  const keys = new Set(items.map(({ key }) => key))
  items.forEach(({ after, pin }, at) => {
    after.forEach((key, of) => {
      if (!keys.has(key)) wrong(['items', at, 'after', of], `there is no item “${key}”`)
    })
    if (pin && !names.has(pin.name)) wrong(['items', at, 'pin', 'name'], `there is nobody called “${pin.name}”`)
  })
  const circle = circleIn(items)
  if (circle)
    wrong(
      ['items', items.findIndex(({ key }) => key === circle[0]), 'after'],
      `goes round in a circle: ${[...circle, circle[0]].join(' after ')}`,
    )
})
