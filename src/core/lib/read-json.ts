/** What a text holds as JSON; `undefined` where it is none, for a shape to refuse. */
export function readJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}
