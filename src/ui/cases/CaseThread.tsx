import type { CaseSheet } from '#core/cases/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Thread } from '#ui/kit/Thread.tsx'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'

export function CaseThread({ of }: { of: CaseSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const to = (ref: string) => `/p/${key}/${ref}${scopeSearch(params)}`
  const open = of.defects.filter((defect) => defect.open)
  return (
    <Thread
      knots={[
        {
          name: 'requirements',
          own: false,
          text: (
            <>
              <b>{of.links.length}</b> {of.links.length === 1 ? 'requirement' : 'requirements'}
              {of.links.some(({ suspect }) => suspect) && ', suspect'}
            </>
          ),
          rows: of.links.map((link) => ({
            href: to(link.key),
            label: (
              <>
                <span className="key">{link.key}</span> {link.title}
              </>
            ),
          })),
        },
        {
          name: 'case',
          own: true,
          text: (
            <>
              <b className="key">{of.key}</b> {of.versionName ? `version ${of.versionName}` : 'no version yet'}
            </>
          ),
          rows: [],
        },
        {
          name: 'results',
          own: false,
          text:
            of.slots.length === 0
              ? 'no slot'
              : of.slots.map((slot) => (
                  <Mark
                    key={slot.environment}
                    verdict={slot.verdict}
                    stale={slot.reasons.length > 0}
                    label={`${slot.environment}: ${slot.verdict}`}
                  />
                )),
          rows: of.attempts.map((attempt) => ({
            href: `#attempt-${attempt.id}`,
            label: (
              <>
                <Mark verdict={attempt.verdict} /> {attempt.build}, {attempt.environment}
              </>
            ),
          })),
        },
        {
          name: 'defects',
          own: false,
          text: (
            <>
              <b>{open.length}</b> open {open.length === 1 ? 'defect' : 'defects'}
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
