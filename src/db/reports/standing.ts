import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import type { StandingStored } from '#db/runs/standing.ts'

export const allStanding = (tx: Tx): StandingStored[] =>
  rowsOf(
    tx,
    {
      buildId: int,
      caseId: int,
      environmentId: int,
      attemptId: int,
      verdict: text,
      finishedAt: int,
      fingerprint: text,
      disputedBy: maybe(int),
      doubted: int,
    },
    sql`
      select build_id as buildId, case_id as caseId, environment_id as environmentId, attempt_id as attemptId,
        verdict, finished_at as finishedAt, fingerprint, disputed_by as disputedBy, doubted
      from standing_result`,
  )
