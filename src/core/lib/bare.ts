/** A record without the names every object inherits, so that people may name things `constructor`. */
export const bare = <T>(of: Readonly<Record<string, T>> = {}): Record<string, T> =>
  Object.assign(Object.create(null) as Record<string, T>, of)
