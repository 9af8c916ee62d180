import { counted, shareText } from '#core/lib/figures.ts'
import { readCoverage } from '#core/reports/contract.ts'
import type { RequirementSheet } from '#core/requirements/contract.ts'
import { readDesigned } from '#core/techniques/contract.ts'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'

export function Figures({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(
    readCoverage,
    { params: { key }, query: { ...scopeIn(params), ids: String(of.id) } },
    { keep: true },
  )
  const node = data?.nodes.find(({ id }) => id === of.id)
  if (!node) return null
  const { passing, executed, slots, cases, drafted } = node.figures
  const reasons = Object.entries(node.figures.reasons)
  return (
    <div className={css['figures']}>
      <div className={css['figure']}>
        <p>Designed</p>
        <p>
          <b>{cases}</b> {cases === 1 ? 'case' : 'cases'}
          {drafted > 0 && `, ${drafted} only drafted`}
        </p>
        <p className="quiet">{slots} slots asked for</p>
      </div>
      <div className={css['figure']}>
        <p>Executed</p>
        <p>
          <b>{shareText(executed.plain.recorded)}</b>
        </p>
        <p className="quiet">{shareText(executed.plain.current)} current</p>
      </div>
      <div className={css['figure']}>
        <p>Passing</p>
        <p>
          <b>{shareText(passing.plain.recorded)}</b> as recorded
        </p>
        <p className="quiet">
          {shareText(passing.plain.current)} current, {shareText(passing.plain.confident)} by confidence
        </p>
      </div>
      {reasons.length > 0 && (
        <p className="quiet">
          Stale because of {reasons.map(([reason, n]) => `${reason} (${counted(n, 'slot')})`).join(', ')}.
        </p>
      )}
    </div>
  )
}

/** What is designed by technique, and the way to the drafting table. */
export function Designed({ of }: { of: RequirementSheet }) {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(readDesigned, { params: { key }, query: { ref: of.key } }, { keep: true })
  const row = data?.rows.find(({ id }) => id === of.id)
  const to = `/p/${key}/${of.key}/draft`
  return (
    <p className={css['acts']}>
      <span>Designed by technique:</span>
      {row?.parts.map((part) => (
        <a key={part.model} href={`${to}?model=${part.model}`}>
          {part.name}{' '}
          {part.targets === null ? 'cannot be computed yet' : `${part.answered} of ${part.targets} ${part.unit}`}
        </a>
      ))}
      {row && row.checklist.all > 0 && (
        <a href={to}>
          checklist {row.checklist.done} of {row.checklist.all}
        </a>
      )}
      {(!row || row.parts.length === 0) && (
        <a href={`${to}${scopeSearch(params)}`}>derive cases at the drafting table</a>
      )}
    </p>
  )
}
