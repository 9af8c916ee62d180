import type { OrderAnswer } from '#core/lib/shapes.ts'

/** A line of a list: a row, or the head of a group. */
export type Line =
  | { readonly kind: 'row'; readonly id: number }
  | { readonly kind: 'group'; readonly value: string | null; readonly count: number }

export function linesOf(answer: OrderAnswer): Line[] {
  if (!answer.groups) return answer.ids.map((id) => ({ kind: 'row', id }))
  let at = 0
  return answer.groups.flatMap(({ value, count }) => {
    const ids = answer.ids.slice(at, at + count)
    at += count
    return [{ kind: 'group', value, count } satisfies Line, ...ids.map((id): Line => ({ kind: 'row', id }))]
  })
}
