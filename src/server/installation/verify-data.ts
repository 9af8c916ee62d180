import { createHash } from 'node:crypto'
import { createReadStream, existsSync } from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { evidenceFolder } from '#db/open.ts'
import { integrityProblems, searchProblems } from '#db/installation/integrity.ts'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { allStanding } from '#db/reports/standing.ts'
import { allHashes } from '#db/talk/queries.ts'
import type { Store } from './store.ts'

/** Every problem found: the database itself, its durability, the kept standing results, the search index, the evidence files. */
export async function verifyData({ db }: Store, data: string): Promise<string[]> {
  return [
    ...integrityProblems(db),
    ...standingProblems(db),
    ...searchProblems(db),
    ...(await evidenceProblems(db, data)),
  ]
}

function standingProblems(db: Store['db']): string[] {
  const wanted = new Map(
    standingFromAttempts(db, {}).map((each) => [`${each.buildId}:${each.caseId}:${each.environmentId}`, each]),
  )
  const kept = allStanding(db)
  const wrong = kept.filter((each) => {
    const own = wanted.get(`${each.buildId}:${each.caseId}:${each.environmentId}`)
    return (
      !own ||
      own.attemptId !== each.attemptId ||
      own.verdict !== each.verdict ||
      own.finishedAt !== each.finishedAt ||
      own.fingerprint !== each.fingerprint ||
      own.disputedBy !== each.disputedBy
    )
  })
  const missing = wanted.size - (kept.length - wrong.length)
  return wrong.length + missing === 0
    ? []
    : [`standing results: ${wrong.length} differ from their attempts, ${Math.max(0, missing)} are missing`]
}

async function evidenceProblems(db: Store['db'], data: string): Promise<string[]> {
  const problems: string[] = []
  for (const { hash } of allHashes(db)) {
    const file = join(evidenceFolder(data), hash)
    if (!existsSync(file)) problems.push(`evidence ${hash}: the file is missing`)
    else if ((await hashOf(file)) !== hash) problems.push(`evidence ${hash}: the file has other bytes than were stored`)
  }
  return problems
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}
