import type { CoverageAnswer } from '#core/reports/contract.ts'

/** What is the matter with a requirement's results, in two words: the reason most of its slots share. */
export function freshnessWords(node: Pick<CoverageAnswer['nodes'][number], 'figures' | 'state'> | undefined): string {
  if (!node) return ''
  const { figures, state } = node
  if (state === 'uncovered') return figures.drafted > 0 ? 'only drafted' : 'no case'
  if ((figures.verdicts['Not run'] ?? 0) === figures.slots) return 'not run'
  const [first] = Object.entries(figures.reasons).sort((a, b) => b[1] - a[1])
  return first ? `${first[0]} (${first[1]})` : 'current'
}
