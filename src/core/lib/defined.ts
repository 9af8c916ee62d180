/** The same record without the fields that are undefined, so that an edit names only what it sets. */
export function definedOf<T extends object>(of: T): { [K in keyof T]: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(of).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]: Exclude<T[K], undefined>
  }
}
