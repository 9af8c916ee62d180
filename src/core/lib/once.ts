/** Makes something when it is first asked for, and once. */
export function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null
  return () => (made ??= { value: make() }).value
}

/** The same by id. */
export function remembered<T>(make: (id: number) => T): (id: number) => T {
  const made = new Map<number, T>()
  return (id) => {
    const known = made.get(id)
    if (known !== undefined) return known
    const value = make(id)
    made.set(id, value)
    return value
  }
}
