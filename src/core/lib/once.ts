/** Makes something when it is first asked for, and once. */
export function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null
  return () => (made ??= { value: make() }).value
}

/** The same by id. */
export const remembered = <T>(make: (id: number) => T): ((id: number) => T) => rememberedIn(new Map(), make)

/** The same in a map one holds, to look at what was made, or to forget some of it. */
export function rememberedIn<T>(made: Map<number, T>, make: (id: number) => T): (id: number) => T {
  return (id) => {
    const known = made.get(id)
    if (known !== undefined) return known
    const value = make(id)
    made.set(id, value)
    return value
  }
}
