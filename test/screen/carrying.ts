/** What a browser hands from where a thing is dragged to where it is let go. */
export function carrying() {
  const held = new Map<string, string>()
  return {
    setData: (type: string, text: string) => void held.set(type, text),
    getData: (type: string) => held.get(type) ?? '',
    get types() {
      return [...held.keys()]
    },
  }
}
