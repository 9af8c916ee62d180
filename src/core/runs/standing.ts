import type { BuildState } from '#core/projects/builds.ts'
import { type FinalVerdict, finalVerdicts, type Verdict, isFinal, rollUp } from '#core/lib/verdict.ts'
import { type Several, verdictOfSeveral } from './several.ts'

/** A final attempt as far as standing results ask. Instants in milliseconds UTC. */
export interface StandingAttempt {
  readonly id: number
  readonly verdict: FinalVerdict
  readonly finishedAt: number
  readonly byMachine: boolean
  /** A defect linked to this attempt is neither Closed nor Rejected. */
  readonly openDefect: boolean
  readonly version: number
  /** How many data rows that version has (1 when none). */
  readonly versionRows: number
  /** The verdict of each row the attempt went over; all of 1…versionRows for a whole attempt. */
  readonly rows: ReadonlyMap<number, Verdict>
  /** Of an item that several people judge: which, who this one is, and how many of them have to pass it. */
  readonly several?: (Several & { readonly item: number; readonly person: string | null }) | null
}

export interface Standing {
  readonly attempt: StandingAttempt
  readonly verdict: FinalVerdict
  /** A machine has passed since, while a person's Failed stands with its defect open. */
  readonly disputedBy: number | null
}

const newerFirst = (a: StandingAttempt, b: StandingAttempt): number => b.finishedAt - a.finishedAt || b.id - a.id

/**
 * The result that counts for a case in an environment on one build: the newest answer by (finished at, id).
 * An attempt over some of the rows answers only when all rows of its version have a final verdict over the
 * attempts on this build; a machine's Passed does not supersede a person's Failed while its defect is open.
 * `null` when nothing answers.
 */
export function standingOnBuild(attempts: readonly StandingAttempt[]): Standing | null {
  const ordered = jointly([...attempts].sort(newerFirst))
  const answers = ordered.flatMap((attempt, index) => {
    const verdict = answerOf(attempt, ordered.slice(index))
    return verdict === null ? [] : [{ attempt, verdict }]
  })
  const newest = answers[0]
  if (!newest) return null
  const machinePassed = newest.attempt.byMachine && newest.verdict === 'Passed'
  const person = machinePassed ? answers.find(({ attempt }) => !attempt.byMachine) : undefined
  if (person && person.verdict === 'Failed' && person.attempt.openDefect)
    return { ...person, disputedBy: newest.attempt.id }
  return { ...newest, disputedBy: null }
}

/**
 * What several people said of one item is one answer, at the newest of their attempts, as soon as it is decided; until then it is none.
 * Of each of them the newest counts.
 */
function jointly(ordered: readonly StandingAttempt[]): StandingAttempt[] {
  const seen = new Set<number>()
  return ordered.flatMap((attempt) => {
    const { several } = attempt
    if (!several) return [attempt]
    if (seen.has(several.item)) return []
    seen.add(several.item)
    const newest = new Map<string | null, FinalVerdict>()
    for (const each of ordered)
      if (each.several?.item === several.item && !newest.has(each.several.person))
        newest.set(each.several.person, each.verdict)
    const verdict = finalVerdicts.find((final) => final === verdictOfSeveral([...newest.values()], several))
    return verdict ? [{ ...attempt, verdict }] : []
  })
}

function answerOf(attempt: StandingAttempt, notNewer: readonly StandingAttempt[]): FinalVerdict | null {
  if (attempt.rows.size >= attempt.versionRows) return attempt.verdict
  const byRow = new Map<number, Verdict>()
  for (const earlier of notNewer) {
    if (earlier.version !== attempt.version) continue
    for (const [row, verdict] of earlier.rows) if (!byRow.has(row) && isFinal(verdict)) byRow.set(row, verdict)
  }
  if (byRow.size < attempt.versionRows) return null
  const all = rollUp(byRow.values())
  return all && isFinal(all) ? all : null
}

export interface BuildAt {
  readonly id: number
  readonly release: number
  /** Project-wide order. */
  readonly position: number
  readonly state: BuildState
  /** Cases it touches, where somebody said what it does; a build that says nothing touches everything. */
  readonly touches?: ReadonlySet<number> | null
}

/** The builds whose results stand in a scope: those of the release up to and including the build, not Withdrawn, in order. */
export function buildsInScope(builds: readonly BuildAt[], release: number | null, build: number | null): BuildAt[] {
  const upTo = build === null ? Infinity : (builds.find(({ id }) => id === build)?.position ?? -Infinity)
  return builds
    .filter(
      (each) => each.state !== 'Withdrawn' && each.position <= upTo && (release === null || each.release === release),
    )
    .sort((a, b) => a.position - b.position)
}

/** How many builds Offered for testing come after a given position, within those in scope; those that touch a case, where one is named. */
export const offeredAfter = (scope: readonly BuildAt[], position: number, caseId?: number): number =>
  scope.filter(
    (build) =>
      build.state === 'Offered' &&
      build.position > position &&
      (caseId === undefined || !build.touches || build.touches.has(caseId)),
  ).length
