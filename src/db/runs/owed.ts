import { sql } from 'drizzle-orm'
import { type Askable, type Given, owed } from '#core/projects/policy.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { policyById } from '#db/projects/policies.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { defectsOf, evidenceCount } from './of-attempt.ts'

/** An item whose verdict asks for something that was not given yet. */
export interface Owing {
  readonly item: number
  readonly case: string
  readonly owed: Askable[]
}

/** The items of a run, or of some of them, that still owe something under the policies their attempts began with. */
export function owingItems(tx: Tx, runId: number, ids: readonly number[] | null): Owing[] {
  const rows = rowsOf(
    tx,
    {
      item: int,
      case: text,
      verdict: oneOf(verdicts),
      policy: int,
      words: int,
      reason: maybe(text),
      evidence: int,
      defects: int,
    },
    sql`
      select i.id as item, ${keySql('case', 'c.number')} as "case", a.verdict, a.policy_id as policy, a.reason,
        a.comment <> '' or exists(select 1 from attempt_step s where s.attempt_id = a.id and s.comment <> '') as words,
        ${evidenceCount} as evidence, (select count(*) ${defectsOf}) as defects
      from item i
      join attempt a on a.id = i.attempt_id
      join policy p on p.id = a.policy_id
      join test_case c on c.id = i.case_id
      where i.run_id = ${runId}
        and i.deleted_at is null
        and a.final = 1
        and p.asked <> '{}'
        and ${ids === null ? sql`1` : inIds(sql`i.id`, ids)}
      order by i.position`,
  )
  return rows.flatMap(({ item, case: own, policy, words, ...given }) => {
    const still = owed(policyById(tx, policy), { ...given, words: words === 1 } satisfies Given)
    return still.length === 0 ? [] : [{ item, case: own, owed: still }]
  })
}
