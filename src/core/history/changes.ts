/** Field → [from, to]: what a history entry keeps, enough to show a change and to take it back. */
export type Changes = Record<string, readonly [unknown, unknown]>

/** What an edit really changed; an edit that says what is already so leaves nothing. */
export function changedFields(
  before: Readonly<Record<string, unknown>>,
  edit: Readonly<Record<string, unknown>>,
): Changes {
  const differs = ([field, to]: [string, unknown]) =>
    to !== undefined && JSON.stringify(before[field] ?? null) !== JSON.stringify(to ?? null)
  return Object.fromEntries(
    Object.entries(edit)
      .filter(differs)
      .map(([field, to]) => [field, [before[field] ?? null, to] as const]),
  )
}

/** Initials for a person's mark: first and last name. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter((word) => word !== '')
  return `${words[0]?.[0] ?? '?'}${words.length > 1 ? (words.at(-1)?.[0] ?? '') : ''}`.toUpperCase()
}
