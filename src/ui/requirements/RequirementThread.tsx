import type { RequirementSheet } from '#core/requirements/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Thread } from '#ui/kit/Thread.tsx'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'

export function RequirementThread({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const to = (ref: string) => `/p/${key}/${ref}${scopeSearch(params)}`
  const slots = of.linked.flatMap((linked) => linked.slots.map((slot) => ({ ...slot, case: linked })))
  const tally = (verdict: string) => slots.filter((slot) => slot.verdict === verdict).length
  const openDefects = of.defects.filter((defect) => defect.open)
  return (
    <Thread
      knots={[
        {
          name: 'requirement',
          own: true,
          text: (
            <>
              <b className="key">{of.key}</b> revision {of.revision}
            </>
          ),
          rows: [],
        },
        {
          name: 'cases',
          own: false,
          text: (
            <>
              <b>{of.linked.length}</b> {of.linked.length === 1 ? 'case' : 'cases'}
              {of.suspect > 0 && `, ${of.suspect} suspect`}
            </>
          ),
          rows: of.linked.map((linked) => ({
            href: to(linked.key),
            label: (
              <>
                <span className="key">{linked.key}</span> {linked.title}
              </>
            ),
          })),
        },
        {
          name: 'results',
          own: false,
          text: (
            <>
              {(['Failed', 'Blocked', 'Passed', 'Not run'] as const)
                .filter((verdict) => tally(verdict) > 0)
                .map((verdict) => (
                  <span key={verdict}>
                    <Mark verdict={verdict} size={12} /> <b>{tally(verdict)}</b>
                  </span>
                ))}
              {slots.length === 0 && 'no result'}
            </>
          ),
          rows: slots
            .filter(({ verdict }) => verdict !== 'Not run')
            .slice(0, 30)
            .map((slot) => ({
              href: `${to(slot.case.key)}#${slot.environment}`,
              label: (
                <>
                  <Mark verdict={slot.verdict} stale={slot.reasons.length > 0} /> {slot.case.key} {slot.environment}
                </>
              ),
            })),
        },
        {
          name: 'defects',
          own: false,
          text: (
            <>
              <b>{openDefects.length}</b> open {openDefects.length === 1 ? 'defect' : 'defects'}
            </>
          ),
          rows: of.defects.map((defect) => ({
            href: to(defect.key),
            label: (
              <>
                <span className="key">{defect.key}</span> {defect.title}
              </>
            ),
          })),
        },
      ]}
    />
  )
}
