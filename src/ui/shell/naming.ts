// Naming people with `@` while one writes.

interface Person {
  readonly id: string
  readonly name: string
}

/** What stands after the `@` the caret is in; nothing when it is in none. */
export const begunName = (text: string, caret: number): string | null =>
  /(?:^|[\s(])@([\p{L} ]{0,30})$/u.exec(text.slice(0, caret))?.[1] ?? null

/** So many people are offered. */
const most = 6

/** Those whose names begin so, but not oneself, and not a name that is written out already. */
export function peopleMeant<P extends Person>(people: readonly P[], begun: string | null, me: string): P[] {
  if (begun === null) return []
  const fits = ({ id, name }: P) => id !== me && name !== begun && name.toLowerCase().startsWith(begun.toLowerCase())
  return people.filter(fits).slice(0, most)
}

/** The text with the name written out, and where one goes on. */
export function withName(text: string, caret: number, name: string): { readonly text: string; readonly caret: number } {
  const start = caret - (begunName(text, caret)?.length ?? 0)
  return { text: `${text.slice(0, start)}${name} ${text.slice(caret)}`, caret: start + name.length + 1 }
}
