import type { Readiness } from '#core/plans/criteria-contract.ts'
import type { Db } from '#db/open.ts'
import { readinessOf } from '#server/plans/evaluate-criteria.ts'
import { namedScope, type ScopeNamed } from '#server/reports/coverage-in.ts'
import { inlineJobs } from './all-jobs.ts'

/** Readiness as the command line asks for it. */
export async function readinessIn(db: Db, of: ScopeNamed): Promise<Readiness> {
  const { project, query } = namedScope(db, of)
  return readinessOf({ db, jobs: inlineJobs(db), now: Date.now }, project, query)
}
