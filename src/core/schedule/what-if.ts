import type { Changes } from './what-if-contract.ts'

interface Names {
  readonly person: (id: string) => string
  readonly environment: (id: number) => string
  readonly day: (day: string) => string
}

/** What is different, a few words each: also the name of a way that was given none. */
export const changeWords = (of: Changes, names: Names): string[] => [
  ...of.join.map((id) => `${names.person(id)} joins`),
  ...(of.more > 0 ? [of.more === 1 ? 'one tester more' : `${of.more} testers more`] : []),
  ...(of.endOn === null ? [] : [`until ${names.day(of.endOn)}`]),
  ...of.without.map((id) => `without ${names.environment(id)}`),
  ...(of.reservePercent === null ? [] : [`${of.reservePercent} % kept for retests`]),
]
