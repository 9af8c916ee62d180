import { sql } from 'drizzle-orm'
import { type DefectState, defectStates, isOpen, severities, type Severity } from '#core/defects/state.ts'
import { keySql } from './key-sql.ts'
import type { Tx } from './open.ts'
import { oneOf, rowsOf, text } from './rows.ts'

const owners = { case: sql`l.case_id`, requirement: sql`l.requirement_id` }

/** Defects that are linked to a case or a requirement now, newest first. */
export const defectsLinkedTo = (
  tx: Tx,
  owner: keyof typeof owners,
  id: number,
): { key: string; title: string; state: DefectState; severity: Severity; open: boolean }[] =>
  rowsOf(
    tx,
    { key: text, title: text, state: oneOf(defectStates), severity: oneOf(severities) },
    sql`
      select distinct ${keySql('defect', 'd.number')} as key, d.title, d.state, d.severity
      from defect_link l
      join defect d on d.id = l.defect_id
      where ${owners[owner]} = ${id} and l.until_at is null and d.deleted_at is null
      order by d.number desc
      limit 100`,
  ).map((row) => ({ ...row, open: isOpen(row.state) }))
