import { minutesText } from '#core/lib/figures.ts'
import { type FieldDefinition, filterWords } from '#core/lib/filter.ts'
import { pinned } from './members.ts'
import type { SourceSaid } from './source.ts'
import type { SourceShown } from './suite-contract.ts'

/** A source as a person reads it: `what covers RQ-3 Passenger age bands`. */
export function sourceWords(
  of: Pick<SourceShown, 'kind' | 'requirement' | 'suite' | 'words' | 'filter' | 'minutes'>,
  fields: readonly FieldDefinition[],
): string {
  switch (of.kind) {
    case 'branch':
      return `what covers ${of.requirement?.key ?? 'a requirement'} ${of.requirement?.title ?? ''}`.trim()
    case 'rule':
      return ruleWords(of, fields)
    case 'suite':
      return `all of ${of.suite?.key ?? 'a suite'} ${of.suite?.title ?? ''}`.trim()
    case 'best':
      return `the best within ${minutesText(of.minutes ?? 0)}${of.requirement ? ` for ${of.requirement.key} ${of.requirement.title}` : ''}`
  }
}

export const ruleWords = (of: Pick<SourceShown, 'words' | 'filter'>, fields: readonly FieldDefinition[]): string =>
  [of.words === '' ? '' : `“${of.words}”`, of.filter === null ? '' : filterWords(of.filter, fields)]
    .filter((part) => part !== '')
    .join(' and ')

/** What each source is called in few letters beside the cases it brings: `rule 2`; a number where there are several of a kind. */
export function sourceLabels(sources: readonly SourceShown[]): (id: number) => string {
  const label = (of: SourceShown): string => {
    if (of.kind === 'branch') return of.requirement?.key ?? 'branch'
    if (of.kind === 'suite') return of.suite?.key ?? 'suite'
    const alike = sources.filter(({ kind }) => kind === of.kind)
    const name = of.kind === 'rule' ? 'rule' : 'best'
    return alike.length > 1 ? `${name} ${alike.indexOf(of) + 1}` : name
  }
  const labels = new Map(sources.map((of) => [of.id, label(of)]))
  return (id) => (id === pinned ? 'pin' : (labels.get(id) ?? 'a source taken away'))
}

/** A source of the best in some minutes, frozen as it is now or living again. */
export const bestSaid = (of: SourceShown, frozen: boolean): SourceSaid => ({
  kind: 'best',
  minutes: of.minutes ?? 1,
  requirement: of.requirement?.id ?? null,
  frozen,
})
