import { numberOf } from '#db/installation/samples.ts'
import type { Tx } from '#db/open.ts'
import { findRequirement } from '#db/requirements/requirements.ts'

/** The id of the requirement with this title; 0 where the demo has none. */
export function requirementNamed(tx: Tx, projectId: number, title: string): number {
  const number = numberOf(tx, { kind: 'requirement', projectId, title })
  return (number === null ? undefined : findRequirement(tx, projectId, number)?.id) ?? 0
}
