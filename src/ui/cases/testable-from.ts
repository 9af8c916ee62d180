import type { CaseSet, CaseSheet } from '#core/cases/contract.ts'
import { targetIn } from '#ui/shell/target.ts'

/** From when a case can be tested, as the choice of a release and iteration; the empty one leaves it to the requirements. */
export const fromValue = ({
  fromReleaseId,
  fromIterationId,
}: Pick<CaseSheet, 'fromReleaseId' | 'fromIterationId'>): string =>
  fromReleaseId === null ? '' : `${fromReleaseId}/${fromIterationId ?? ''}`

export function fromIn(value: string): Pick<CaseSet, 'fromReleaseId' | 'fromIterationId'> {
  const target = targetIn(value)
  return { fromReleaseId: target?.release ?? null, fromIterationId: target?.iteration ?? null }
}
