import { groupBy } from '#core/lib/group.ts'

/** One line of a typed or pasted outline. `depth` counts from 0 and never jumps by more than one. */
export interface OutlineLine {
  readonly title: string
  readonly depth: number
}

/**
 * Reads an outline of lines: a Tab, two spaces or more indent; list marks in front are
 * dropped; empty lines are passed over.
 */
export function outlineLines(text: string): OutlineLine[] {
  const raw = text.split(/\r?\n/).flatMap((written) => {
    const title = written
      .trim()
      .replace(/^([-*•+]|\d{1,3}[.)])\s+/, '')
      .replace(/\s+/g, ' ')
    return title === '' ? [] : [{ title, indent: indentOf(written) }]
  })
  return settle(raw)
}

const indentOf = (written: string): number => {
  const lead = /^[\t ]*/.exec(written)?.[0] ?? ''
  return [...lead].reduce((width, char) => width + (char === '\t' ? 4 : 1), 0)
}

/** Turns columns of white space into levels: deeper than the line above is one level, whatever the width. */
function settle(raw: readonly { title: string; indent: number }[]): OutlineLine[] {
  const open: number[] = []
  return raw.map(({ title, indent }) => {
    while (open.length > 0 && (open.at(-1) ?? 0) >= indent) open.pop()
    open.push(indent)
    return { title, depth: open.length - 1 }
  })
}

export interface OutlinePlace {
  readonly id: number
  readonly parent: number | null
  readonly position: number
}

/** Depth first, siblings by position: the order in which an outline is read. */
export function outlineOrder<T extends OutlinePlace>(
  places: readonly T[],
): { readonly place: T; readonly depth: number }[] {
  const known = new Set(places.map(({ id }) => id))
  const below = groupBy(places, ({ parent }) => (parent !== null && known.has(parent) ? parent : null))
  const walk = (parent: number | null, depth: number): { place: T; depth: number }[] =>
    [...(below.get(parent) ?? [])]
      .sort((a, b) => a.position - b.position || a.id - b.id)
      .flatMap((place) => [{ place, depth }, ...walk(place.id, depth + 1)])
  return walk(null, 0)
}

/** Would `under` sit below `moved` itself? Then the move would cut the branch off the outline. */
export function wouldCycle(places: readonly OutlinePlace[], moved: number, under: number | null): boolean {
  const parents = new Map(places.map(({ id, parent }) => [id, parent]))
  for (let at = under, hops = 0; at !== null && hops <= parents.size; at = parents.get(at) ?? null, hops++)
    if (at === moved) return true
  return false
}
