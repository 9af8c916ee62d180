import { createHash } from 'node:crypto'
import { createReadStream, existsSync } from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { evidenceFolder } from '#db/open.ts'
import { integrityProblems, rebuildSearch, searchProblems } from '#db/installation/integrity.ts'
import { strayRows } from '#db/installation/strays.ts'
import { loadAttempt, saveAttempt, saveChange } from '#db/runs/attempts.ts'
import { wrongItems } from '#db/runs/items.ts'
import type { Mark } from '#core/runs/attempt.ts'
import { type Replayed, replayAttempts } from '#db/runs/replay.ts'
import type { StandingStored } from '#db/runs/standing.ts'
import { refreshItem, refreshStanding } from '#server/runs/refresh-standing.ts'
import type { Tx } from '#db/open.ts'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { allStanding } from '#db/reports/standing.ts'
import { allHashes } from '#db/talk/queries.ts'
import type { Store } from './store.ts'

/** How what is kept twice is made anew; said with each problem it helps against. */
const mend = '`rovant verify --mend` makes them anew'

/**
 * Every problem found, with what to do: the database itself, its durability, attempts against their events, items and standing
 * results against the attempts, what reaches from one project into another, the search index, the evidence files.
 */
export async function verifyData({ db }: Store, data: string): Promise<string[]> {
  return [
    ...integrityProblems(db),
    ...attemptProblems(db),
    ...itemProblems(db),
    ...standingProblems(db),
    ...strayRows(db).map(
      ({ what, table, n, first }) =>
        `${table}: ${n} ${what}, first ${table} ${first ?? 0}; take what is named apart in the interface, and tell whoever keeps Rovant how it came about`,
    ),
    ...searchProblems(db).map((problem) => `${problem}; ${mend}`),
    ...(await evidenceProblems(db, data)),
  ]
}

/** Makes anew what is kept beside the truth: attempts from their events, items and standing results from the attempts, the search index. */
export function mendData({ db }: Store): void {
  db.transaction((tx) => {
    for (const told of [...replayAttempts(tx)]) if (told.differs) mendAttempt(tx, told)
    for (const { id } of wrongItems(tx)) refreshItem(tx, id)
    for (const place of wrongStanding(tx)) refreshStanding(tx, place)
    rebuildSearch(tx)
  })
}

function mendAttempt(tx: Tx, { stored, attempt, verdict, final, finishedAt }: Replayed): void {
  const places = new Map<string, { from: Mark | null; to: Mark | null }>()
  for (const mark of loadAttempt(tx, stored).marks) places.set(`${mark.row}:${mark.step}`, { from: mark, to: null })
  for (const mark of attempt.marks) {
    const place = `${mark.row}:${mark.step}`
    const from = places.get(place)?.from ?? null
    if (from?.verdict === mark.verdict && from.word === mark.word && from.final === mark.final) places.delete(place)
    else places.set(place, { from, to: mark })
  }
  saveChange(tx, stored.id, { marks: [...places.values()], whole: null }, finishedAt ?? stored.startedAt)
  saveAttempt(tx, stored.id, {
    verdict,
    final,
    finishedAt,
    wholeVerdict: attempt.whole?.verdict ?? null,
    overrideReason: attempt.whole?.override ?? null,
  })
}

function attemptProblems(db: Store['db']): string[] {
  const wrong: number[] = []
  for (const { stored, differs } of replayAttempts(db)) if (differs) wrong.push(stored.id)
  return wrong.length === 0
    ? []
    : [`attempts: ${wrong.length} are not what their events say, first attempt ${wrong[0] ?? 0}; ${mend}`]
}

function itemProblems(db: Store['db']): string[] {
  const wrong = wrongItems(db)
  const [first] = wrong
  return first
    ? [
        `items: ${wrong.length} are not what their attempts say, first item ${first.id} of ${first.run} (${first.verdict} instead of ${first.wanted ?? 'Not run'}); ${mend}`,
      ]
    : []
}

const placeOf = (each: { buildId: number; caseId: number; environmentId: number }): string =>
  `${each.buildId}:${each.caseId}:${each.environmentId}`

/** Places where what is kept is not what the attempts come to. */
function wrongStanding(tx: Tx): { buildId: number; caseId: number; environmentId: number }[] {
  const wanted = new Map(standingFromAttempts(tx, {}).map((each) => [placeOf(each), each]))
  const kept = new Map(allStanding(tx).map((each) => [placeOf(each), each]))
  const same = (own: (typeof wanted extends Map<string, infer V> ? V : never) | undefined, each: StandingStored) =>
    own?.attemptId === each.attemptId &&
    own.verdict === each.verdict &&
    own.finishedAt === each.finishedAt &&
    own.fingerprint === each.fingerprint &&
    own.disputedBy === each.disputedBy
  return [
    ...[...kept].filter(([place, each]) => !same(wanted.get(place), each)).map(([, each]) => each),
    ...[...wanted].filter(([place]) => !kept.has(place)).map(([, each]) => each),
  ]
}

function standingProblems(db: Store['db']): string[] {
  const wrong = wrongStanding(db)
  return wrong.length === 0 ? [] : [`standing results: ${wrong.length} differ from their attempts; ${mend}`]
}

async function evidenceProblems(db: Store['db'], data: string): Promise<string[]> {
  const problems: string[] = []
  for (const { hash } of allHashes(db)) {
    const file = join(evidenceFolder(data), hash)
    if (!existsSync(file)) problems.push(`evidence ${hash}: the file is missing; copy it from a backup into evidence/`)
    else if ((await hashOf(file)) !== hash)
      problems.push(`evidence ${hash}: the file has other bytes than were stored; copy it from a backup into evidence/`)
  }
  return problems
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}
