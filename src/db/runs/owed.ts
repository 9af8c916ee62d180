import { type SQL, sql } from 'drizzle-orm'
import { type Askable, type Given, owed } from '#core/projects/policy.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { readContent, versionById } from '#db/cases/versions.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { policyById } from '#db/projects/policies.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { defectsOf, evidenceCount } from './of-attempt.ts'

/** A step that asks for evidence, or brings in steps that may. */
const mayAsk = (step: string): SQL =>
  sql.raw(`(${step}.evidence or ${step}.use_routine_version_id is not null or ${step}.use_case_version_id is not null)`)

/**
 * Whether the version of the attempt `a` has a step that asks for evidence, or brings steps in that may: looked into one level deep,
 * since most routines ask for none and reading all that is brought in takes long.
 */
const mayAskEvidence: SQL = sql`
  exists (
    select 1
    from version_step s
    where s.version_id = a.version_id
      and (
        s.evidence
        or (
          s.use_routine_version_id is not null
          and exists (select 1 from routine_step e where e.version_id = s.use_routine_version_id and ${mayAsk('e')})
        )
        or (
          s.use_case_version_id is not null
          and exists (select 1 from version_step e where e.version_id = s.use_case_version_id and ${mayAsk('e')})
        )
      )
  )`

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
      attempt: int,
      version: int,
      asks: int,
      case: text,
      verdict: oneOf(verdicts),
      policy: maybe(int),
      words: int,
      reason: maybe(text),
      evidence: int,
      defects: int,
    },
    sql`
      select i.id as item, a.id as attempt, a.version_id as version, ${mayAskEvidence} as asks, ${keySql('case', 'c.number')} as "case", a.verdict, a.policy_id as policy, a.reason,
        a.comment <> '' or exists(select 1 from attempt_step s where s.attempt_id = a.id and s.comment <> '') as words,
        ${evidenceCount} as evidence, (select count(*) ${defectsOf}) as defects
      from item i
      join attempt a on a.id = i.attempt_id
      left join policy p on p.id = a.policy_id
      join test_case c on c.id = i.case_id
      where i.run_id = ${runId}
        and i.deleted_at is null
        and a.final = 1
        and (coalesce(p.asked, '{}') <> '{}' or ${mayAskEvidence})
        and ${ids === null ? sql`1` : inIds(sql`i.id`, ids)}
      order by i.position`,
  )
  return rows.flatMap(({ item, attempt, version, asks, case: own, policy, words, ...given }) => {
    const bare = asks === 1 ? bareSteps(tx, attempt, version) : 0
    const still = owed(policyById(tx, policy), { ...given, words: words === 1, bare } satisfies Given)
    return still.length === 0 ? [] : [{ item, case: own, owed: still }]
  })
}

/** Steps of an attempt that ask for evidence, were judged in a data row, and have none there. */
function bareSteps(tx: Tx, attempt: number, version: number): number {
  const stored = versionById(tx, version)
  const asking = stored
    ? executedSteps(tx, readContent(tx, stored).steps).flatMap(({ id, evidence }) => (evidence ? [id] : []))
    : []
  if (asking.length === 0) return 0
  return (
    rowOf(
      tx,
      { n: int },
      sql`
        select count(*) as n
        from attempt_step s
        where s.attempt_id = ${attempt}
          and s.verdict not in ('Not run', 'Skipped')
          and ${inIds(sql`s.step_id`, asking)}
          and not exists (
            select 1
            from attachment f
            where f.owner_kind = 'attempt'
              and f.owner_id = s.attempt_id
              and f.step_id = s.step_id
              and coalesce(f."row", 1) = s."row"
              and f.deleted_at is null
          )`,
    )?.n ?? 0
  )
}
