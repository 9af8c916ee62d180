import type { Knowledge } from './facts-cache.ts'

/** Cases that prove no requirement of the scope. */
export function casesAlone(known: Knowledge): Knowledge['facts']['cases'][number][] {
  const inOutline = new Set(known.facts.requirements.map(({ id }) => id))
  const linked = new Set(
    known.facts.links.filter(({ requirement }) => inOutline.has(requirement)).map((link) => link.case),
  )
  return known.facts.cases.filter(({ id }) => !linked.has(id))
}

/** Ids in a list that a query joined with commas. */
export const numbers = (joined: string | null): number[] => (joined === null ? [] : joined.split(',').map(Number))
export const byNumber = (a: { number: number }, b: { number: number }): number => a.number - b.number
