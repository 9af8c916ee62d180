import type { EvidenceStore, KeptFile } from '#core/talk/evidence-store.ts'
import { integrityProblems, rebuildSearch, searchProblems } from '#db/installation/integrity.ts'
import { strayRows } from '#db/installation/strays.ts'
import { saveAttempt, saveChange } from '#db/runs/attempts.ts'
import { wrongItems } from '#db/runs/items.ts'
import { type Replayed, replayAttempts } from '#db/runs/replay.ts'
import type { StandingStored } from '#db/runs/standing.ts'
import { refreshItem, refreshStanding } from '#server/runs/refresh-standing.ts'
import type { Tx } from '#db/open.ts'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { noticeAllSuites, wrongStays } from '#db/plans/stays.ts'
import { allStanding } from '#db/reports/standing.ts'
import { allHashes } from '#db/talk/queries.ts'
import { evidenceOf } from '#server/integrations/evidence-place.ts'
import { filesIn } from '#server/integrations/files-in.ts'
import { hashOf } from './file-hash.ts'
import { projectIds } from '#db/projects/projects.ts'
import { putLearned } from '#db/schedule/minutes.ts'
import { wrongMinutes } from '#server/schedule/learn-minutes.ts'
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
    ...minutesProblems(db),
    ...suiteProblems(db),
    ...strayRows(db).map(
      ({ what, table, n, first }) =>
        `${table}: ${n} ${what}, first ${table} ${first ?? 0}; take what is named apart in the interface, and tell whoever keeps Rovant how it came about`,
    ),
    ...searchProblems(db).map((problem) => `${problem}; ${mend}`),
    ...(await evidenceProblems(db, evidenceOf(data))),
  ]
}

/**
 * Makes anew what is kept beside the truth: attempts from their events, items and standing results from the attempts, the search
 * index; and takes away files that nothing names.
 */
export async function mendData({ db }: Store, data: string): Promise<void> {
  const evidence = evidenceOf(data)
  for (const name of strayFiles(db, await filesIn(evidence))) await evidence.remove(name)
  db.transaction(
    (tx) => {
      for (const told of [...replayAttempts(tx)]) if (told.differs) mendAttempt(tx, told)
      for (const { id } of wrongItems(tx)) refreshItem(tx, id)
      for (const place of wrongStanding(tx)) refreshStanding(tx, place)
      for (const id of projectIds(tx)) for (const { at, to } of wrongMinutes(tx, id).changed) putLearned(tx, at, to)
      for (const { id } of wrongStays(tx)) noticeAllSuites(tx, id, { now: Date.now(), personId: null })
      rebuildSearch(tx)
    },
    { behavior: 'immediate' },
  )
}

function mendAttempt(tx: Tx, { stored, state, marks }: Replayed): void {
  saveChange(tx, stored.id, { marks, whole: null }, state.finishedAt ?? stored.startedAt)
  saveAttempt(tx, stored.id, state)
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

type Place = Pick<StandingStored, 'buildId' | 'caseId' | 'environmentId'>

/** Places where what is kept is not what the attempts come to. */
function wrongStanding(tx: Tx): Place[] {
  const byPlace = <T extends Place>(all: readonly T[]) =>
    new Map(all.map((each) => [`${each.buildId}:${each.caseId}:${each.environmentId}`, each]))
  const said = (of: Omit<StandingStored, keyof Place> | undefined): string =>
    of ? JSON.stringify([of.attemptId, of.verdict, of.finishedAt, of.fingerprint, of.disputedBy, of.doubted]) : ''
  const [wanted, kept] = [byPlace(standingFromAttempts(tx, {})), byPlace(allStanding(tx))]
  return [...new Map<string, Place>([...wanted, ...kept])]
    .filter(([place]) => said(wanted.get(place)) !== said(kept.get(place)))
    .map(([, place]) => place)
}

function standingProblems(db: Store['db']): string[] {
  const wrong = wrongStanding(db)
  return wrong.length === 0 ? [] : [`standing results: ${wrong.length} differ from their attempts; ${mend}`]
}

/** Minutes that are kept and not what attempts teach; what is missing is learned when Rovant starts. */
function minutesProblems(db: Store['db']): string[] {
  const wrong = projectIds(db).flatMap((id) => wrongMinutes(db, id).changed.filter(({ from }) => from !== null))
  return wrong.length === 0 ? [] : [`learned minutes: ${wrong.length} are not what attempts teach; ${mend}`]
}

const suiteProblems = (db: Store['db']): string[] =>
  wrongStays(db).map(
    ({ project, suites }) =>
      `suites: of ${suites} in ${project} what is written down of their cases is not what their sources bring; ${mend}`,
  )

async function evidenceProblems(db: Store['db'], evidence: EvidenceStore): Promise<string[]> {
  const problems: string[] = []
  const files = await filesIn(evidence)
  const anew = `copy it from a backup into ${evidence.place}`
  for (const { hash } of allHashes(db)) {
    const parts = files.has(hash) ? await evidence.read(hash) : null
    if (!parts) problems.push(`evidence ${hash}: the file is missing; ${anew}`)
    else if ((await hashOf(parts)) !== hash)
      problems.push(`evidence ${hash}: the file has other bytes than were stored; ${anew}`)
  }
  const strays = strayFiles(db, files)
  const [first] = strays
  if (first !== undefined)
    problems.push(
      `evidence: ${strays.length} files that nothing names, first ${first}; \`rovant verify --mend\` takes them away`,
    )
  return problems
}

/** Files that come in may not be named yet for so long. */
const coming = 3_600_000

/** Evidence files that nothing names: an upload that was cut off between its bytes and its row, say. */
function strayFiles(db: Store['db'], files: ReadonlyMap<string, KeptFile>): string[] {
  const named = new Set(allHashes(db).map(({ hash }) => hash))
  return [...files.values()]
    .filter(({ hash, at }) => !named.has(hash) && Date.now() - at > coming)
    .map(({ hash }) => hash)
}
