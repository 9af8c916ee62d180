export interface Mentionable {
  readonly id: string
  readonly name: string
}

/** People that a text names after an `@`: by their whole name, or by a first name nobody else here has. */
export function mentionsIn(text: string, people: readonly Mentionable[]): string[] {
  const lower = text.toLowerCase()
  const first = (name: string): string => name.toLowerCase().split(/\s+/)[0] ?? ''
  const named = people.filter(({ name }) => {
    const alone = people.filter((other) => first(other.name) === first(name)).length === 1
    return stands(lower, `@${name.toLowerCase()}`) || (alone && stands(lower, `@${first(name)}`))
  })
  return named.map(({ id }) => id)
}

/** As a word of its own: `@ansa` does not stand in `@ansas`, nor in an e-mail address. */
function stands(text: string, word: string): boolean {
  for (let at = text.indexOf(word); at >= 0; at = text.indexOf(word, at + 1)) {
    const [before, after] = [text[at - 1] ?? ' ', text[at + word.length] ?? ' ']
    if (!/[\p{L}\p{N}.]/u.test(before) && !/[\p{L}\p{N}]/u.test(after)) return true
  }
  return false
}
