import type { RequirementSheet } from '#core/requirements/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { Counted, type Knot, namedRow, ownKnot, Thread } from '#ui/kit/Thread.tsx'
import { useTo } from '#ui/shell/here.ts'

export function RequirementThread({ of }: { of: RequirementSheet }) {
  const to = useTo()
  return (
    <Thread
      knots={[
        ownKnot('requirement', of.key, `revision ${of.revision}`),
        {
          name: 'cases',
          text: (
            <>
              <Counted n={of.linked.length} one="case" />
              {of.suspect > 0 && `, ${of.suspect} suspect`}
            </>
          ),
          rows: of.linked.map(({ key, title }) => namedRow(to(key), key, title)),
        },
        resultsOf(of, to),
        {
          name: 'defects',
          text: <Counted n={of.defects.filter(({ open }) => open).length} one="open defect" />,
          rows: of.defects.map(({ key, title }) => namedRow(to(key), key, title)),
        },
      ]}
    />
  )
}

/** What was found in its cases, the worst first. */
function resultsOf({ linked }: RequirementSheet, to: (ref: string) => string): Knot {
  const slots = linked.flatMap(({ key, slots: own }) => own.map((slot) => ({ ...slot, case: key })))
  const tally = (verdict: string) => slots.filter((slot) => slot.verdict === verdict).length
  const met = (['Failed', 'Blocked', 'Passed', 'Not run'] as const).filter((verdict) => tally(verdict) > 0)
  return {
    name: 'results',
    text:
      slots.length === 0
        ? 'no result'
        : met.map((verdict) => (
            <span key={verdict}>
              <Mark verdict={verdict} size={12} /> <b>{tally(verdict)}</b>
            </span>
          )),
    rows: slots
      .filter(({ verdict }) => verdict !== 'Not run')
      .slice(0, 30)
      .map((slot) => ({
        href: `${to(slot.case)}#${slot.environment}`,
        label: (
          <>
            <SaidMark verdict={slot.verdict} word={slot.word} stale={slot.reasons.length > 0} /> {slot.case}{' '}
            {slot.environment}
          </>
        ),
      })),
  }
}
