import type { CaseSheet } from '#core/cases/contract.ts'
import { numberIn } from '#core/lib/key.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { Counted, type Knot, namedRow, ownKnot, Thread } from '#ui/kit/Thread.tsx'
import { attemptsAddress } from '#ui/shell/attempts.ts'
import { useHere, useTo } from '#ui/shell/here.ts'

export function CaseThread({ of }: { of: CaseSheet }) {
  const to = useTo()
  const { key } = useHere()
  return (
    <Thread
      knots={[
        {
          name: 'requirements',
          text: (
            <>
              <Counted n={of.links.length} one="requirement" />
              {of.links.some(({ suspect }) => suspect) && ', suspect'}
            </>
          ),
          rows: of.links.map(({ key, title }) => namedRow(to(key), key, title)),
        },
        ownKnot('case', of.key, of.versionName ? `version ${of.versionName}` : 'no version yet'),
        resultsOf(of, key),
        {
          name: 'defects',
          text: <Counted n={of.defects.filter(({ open }) => open).length} one="open defect" />,
          rows: of.defects.map(({ key, title }) => namedRow(to(key), key, title)),
        },
      ]}
    />
  )
}

const resultsOf = ({ key: ref, slots, attempts }: CaseSheet, key: string): Knot => ({
  name: 'results',
  text:
    slots.length === 0
      ? 'no slot'
      : slots.map(({ environment, verdict, word, reasons }) => (
          <SaidMark
            key={environment}
            verdict={verdict}
            word={word}
            stale={reasons.length > 0}
            label={`${environment}: ${word ?? verdict}`}
          />
        )),
  rows: attempts.map(({ id, verdict, build, environment }) => ({
    href: `${attemptsAddress(key, 'case', numberIn('case', ref))}&attempt=${id}`,
    label: (
      <>
        <Mark verdict={verdict} /> {build}, {environment}
      </>
    ),
  })),
})
