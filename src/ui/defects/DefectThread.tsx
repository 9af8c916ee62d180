import type { DefectSheet } from '#core/defects/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Counted, type Knot, namedRow, ownKnot, Thread } from '#ui/kit/Thread.tsx'
import { useHere, useTo } from '#ui/shell/here.ts'

type Link = DefectSheet['links'][number]

/** Of several links to the same object, the first; those that have none are left out. */
export function linksBy(links: readonly Link[], name: (link: Link) => string | number | null): Link[] {
  const seen = new Set<string | number>()
  return links.filter((link) => {
    const own = name(link)
    if (own === null || seen.has(own)) return false
    seen.add(own)
    return true
  })
}

/** Where a result is read: at the desk, or in its case when it was of no run. */
export function useResultAddress(): (link: Link) => string {
  const { key } = useHere()
  const to = useTo()
  return (link) => (link.item === null ? to(link.case ?? '') : `/p/${key}/desk/${link.item}?mine=no`)
}

export function DefectThread({ of }: { of: DefectSheet }) {
  const to = useTo()
  const resultAt = useResultAddress()
  const requirements = linksBy(of.links, (link) => link.requirement)
  const cases = linksBy(of.links, (link) => link.case)
  const knots: Knot[] = [
    {
      name: 'requirements',
      text: <Counted n={requirements.length} one="requirement" />,
      rows: requirements.map((link) => namedRow(to(link.requirement ?? ''), link.requirement, link.requirementTitle)),
    },
    {
      name: 'cases',
      text: <Counted n={cases.length} one="case" />,
      rows: cases.map((link) => namedRow(to(link.case ?? ''), link.case, link.caseTitle)),
    },
    resultsOf(
      linksBy(of.links, (link) => link.attempt),
      resultAt,
    ),
    ownKnot('defect', of.key, of.state),
  ]
  return <Thread knots={knots} />
}

const resultsOf = (results: readonly Link[], resultAt: (link: Link) => string): Knot => ({
  name: 'results',
  text:
    results.length === 0
      ? 'no result'
      : results
          .slice(0, 6)
          .map(({ id, attemptVerdict }) => <Mark key={id} verdict={attemptVerdict ?? 'Not run'} size={12} />),
  rows: results.map((link) => ({
    href: resultAt(link),
    label: (
      <>
        <Mark verdict={link.attemptVerdict ?? 'Not run'} /> {link.attemptBuild}, {link.environment}
      </>
    ),
  })),
})
