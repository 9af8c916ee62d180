/** A case in an environment that is executed and shown but does not count; in every environment when none is named. */
export interface Quarantine {
  readonly case: number
  readonly environment: number | null
}

/** Answers whether a case is in quarantine in an environment. */
export function quarantineOf(all: readonly Quarantine[]): (of: { case: number; environment: number }) => boolean {
  const everywhere = new Set<number>()
  const places = new Set<string>()
  for (const each of all)
    if (each.environment === null) everywhere.add(each.case)
    else places.add(`${each.case}:${each.environment}`)
  return (of) => everywhere.has(of.case) || places.has(`${of.case}:${of.environment}`)
}
