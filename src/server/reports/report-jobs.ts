import { keyOf } from '#core/lib/key.ts'
import type { CoverageAnswer, GapsAnswer, StaleRow } from '#core/reports/contract.ts'
import { assumedRisk, type NodeCoverage } from '#core/reports/coverage.ts'
import { type AnsweredSlot, suspected } from '#core/reports/scope-coverage.ts'
import { defectState, isOpen } from '#core/defects/state.ts'
import { sharedByFailures } from '#core/runs/share.ts'
import { observationsOf, openItems } from '#db/runs/observations.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import { defectFacts } from '#db/reports/facts.ts'
import type { Db } from '#db/open.ts'
import { doing, type Doing } from '#server/workers/job.ts'
import {
  boardJob,
  buildEffectJob,
  carryJob,
  composeItemsJob,
  composeJob,
  coverageJob,
  dealAgainJob,
  freshDealsJob,
  matrixJob,
  matrixSlotsJob,
  priceJob,
  criteriaJob,
  doubtJob,
  type CoverageQuestion,
  findingsJob,
  type FindingsQuestion,
  type FindingsReply,
  gapsJob,
  type InScope,
  meterJob,
  type MeterReply,
  type SlotAnswer,
  sharedJob,
  slotsJob,
  type SlotsQuestion,
  staleJob,
  type StaleQuestion,
  type StaleReply,
  wayJob,
  worthJob,
} from '#server/workers/questions.ts'
import { dealtAgain, freshDeals, matrixOf, matrixSlots, pricesOf } from './asks.ts'
import { carriedOf } from './carry.ts'
import { buildEffect } from './build-effect.ts'
import { boardOf } from './board.ts'
import { lineJobs } from './line.ts'
import { weighRun } from './worth.ts'
import { composeAll, composePage } from './compose.ts'
import { criteriaEvaluated, wayTo } from './criteria.ts'
import { doubtOf } from './doubt.ts'
import { factsCache, type Knowledge } from './facts-cache.ts'
import { byNumber, casesAlone, numbers } from './known-cases.ts'

/** The long reads of reports, over one read-only connection. */
export function reportJobs(db: Db, now: () => number = Date.now): Doing[] {
  const know = factsCache(db, now)
  const of = ({ projectId, scope }: InScope) => know(projectId, scope)
  return [
    doing(coverageJob, (question) => coverageAnswer(of(question), question)),
    doing(findingsJob, (question) => findingsOf(of(question), question)),
    doing(meterJob, (question) => meterOf(of(question))),
    doing(slotsJob, (question) => slotAnswers(db, of(question), question)),
    doing(gapsJob, (question) => gapsOf(db, of(question), question.projectId)),
    doing(staleJob, (question) => staleOf(of(question), question)),
    doing(criteriaJob, (question) => criteriaEvaluated(db, of(question), question)),
    doing(sharedJob, ({ projectId, of: wanted }) =>
      sharedByFailures(observationsOf(db, projectId, wanted), openItems(db, projectId, wanted)),
    ),
    doing(doubtJob, (question) => doubtOf(db, of(question), question)),
    doing(wayJob, (question) => wayTo(db, of(question), question)),
    doing(matrixJob, (question) => matrixOf(db, of(question), question)),
    doing(matrixSlotsJob, (question) => matrixSlots(db, of(question), question)),
    doing(priceJob, (question) => pricesOf(db, of(question), question)),
    doing(freshDealsJob, ({ projectId, plans }) => freshDeals(db, projectId, plans)),
    doing(dealAgainJob, (question) => dealtAgain(db, of(question), question)),
    doing(carryJob, (question) => carriedOf(db, of(question), question)),
    doing(buildEffectJob, (question) => buildEffect(db, of(question), question)),
    doing(composeJob, (question) => composePage(db, know, question)),
    doing(composeItemsJob, (question) => composeAll(db, know, question)),
    ...lineJobs(db, know),
    doing(worthJob, (question) => weighRun(db, of(question), question)),
    doing(boardJob, (question) => boardOf(db, of(question), question.projectId)),
  ]
}

const mostNodes = 5000

function coverageAnswer(known: Knowledge, { scope, ids }: CoverageQuestion): CoverageAnswer {
  const { total, byId } = known.result()
  const order = outlineOrder(known.facts.requirements)
  const wanted =
    ids === null ? [] : ids === 'all' ? order.slice(0, mostNodes) : order.filter(({ place }) => ids.includes(place.id))
  const parents = new Set(known.facts.requirements.map(({ parent }) => parent))
  const leaves = order.flatMap(({ place }) => (parents.has(place.id) ? [] : (byId.get(place.id) ?? [])))
  const span = known.evidence()
  return {
    scope: {
      release: scope.release?.name ?? null,
      iteration: scope.iteration?.name ?? null,
      build: scope.build?.name ?? null,
      environment: scope.environment?.name ?? null,
      asOf: known.scope.asOf,
    },
    total: plainNode(total),
    nodes: wanted.flatMap(({ place, depth }) => {
      const node = byId.get(place.id)
      return node
        ? [
            {
              ...plainNode(node),
              key: keyOf('requirement', place.number),
              title: place.title,
              parent: place.parent,
              depth,
            },
          ]
        : []
    }),
    attention: leaves
      .filter(needsAttention)
      .map(({ id }) => id)
      .slice(0, 5000),
    uncovered: leaves
      .filter(({ figures }) => figures.uncovered > 0)
      .map(({ id }) => id)
      .slice(0, 5000),
    casesWithoutRequirement: casesAlone(known).length,
    evidenceOldest: span?.oldest ?? null,
    evidenceNewest: span?.newest ?? null,
  }
}

const plainNode = (node: NodeCoverage): CoverageAnswer['total'] => ({
  ...node,
  figures: {
    ...node.figures,
    verdicts: { ...node.figures.verdicts },
    stale: { ...node.figures.stale },
    reasons: { ...node.figures.reasons },
  },
})

/** Uncovered, failing or blocked: what somebody should look at today. What is only stale shows as stale. */
const needsAttention = ({ state }: NodeCoverage): boolean =>
  state === 'uncovered' || state === 'Failed' || state === 'Blocked'

/** What a list can be asked about results in scope: the ids for each finding. */
function findingsOf(known: Knowledge, { of }: FindingsQuestion): FindingsReply {
  if (of === 'cases') {
    const slots = known.facts.cases.map(({ id }) => ({ id, slots: known.slots.get(id) ?? [] }))
    const where = (holds: (own: readonly AnsweredSlot[]) => boolean) =>
      slots.filter((each) => holds(each.slots)).map(({ id }) => id)
    const bad = (own: readonly AnsweredSlot[]) =>
      own.some(({ verdict }) => verdict === 'Failed' || verdict === 'Blocked')
    return {
      uncovered: casesAlone(known).map(({ id }) => id),
      failing: where(bad),
      'never run': where((own) => own.every(({ verdict }) => verdict === 'Not run')),
      stale: where((own) => own.some(({ reasons }) => reasons.length > 0)),
      'in scope': where((own) => own.length > 0),
    }
  }
  const { byId } = known.result()
  const parents = new Set(known.facts.requirements.map(({ parent }) => parent))
  const leaves = known.facts.requirements.flatMap(({ id }) => (parents.has(id) ? [] : (byId.get(id) ?? [])))
  const where = (holds: (node: NodeCoverage) => boolean) => leaves.filter(holds).map(({ id }) => id)
  const counted = (all: Readonly<Record<string, number>>) => Object.values(all).reduce((sum, n) => sum + n, 0)
  return {
    uncovered: where(({ figures }) => figures.uncovered > 0),
    failing: where(({ state }) => state === 'Failed' || state === 'Blocked'),
    stale: where(({ figures }) => counted(figures.stale) > 0),
    'never run': where(({ figures }) => figures.slots > 0 && figures.verdicts['Not run'] === figures.slots),
    'in scope': known.facts.requirements.map(({ id }) => id),
  }
}

function meterOf(known: Knowledge): MeterReply {
  const { figures } = known.result().total
  return {
    meter: {
      slots: figures.slots,
      verdicts: { ...figures.verdicts },
      stale: { ...figures.stale },
      words: { ...figures.words },
      passing: figures.passing.plain,
    },
    uncovered: figures.uncovered,
  }
}

function slotAnswers(
  db: Db,
  known: Knowledge,
  { cases, suspect, projectId }: SlotsQuestion,
): Record<number, SlotAnswer[]> {
  const defects = defectsByAttempt(db, projectId)
  const doubted = new Set(suspect)
  const answer = (id: number) =>
    (known.slots.get(id) ?? []).map((slot) =>
      slotAnswer(known, doubted.has(id) ? suspected(slot, known.scope.rules) : slot, defects),
    )
  return Object.fromEntries(cases.map((id) => [id, answer(id)]))
}

function slotAnswer(known: Knowledge, slot: AnsweredSlot, defects: ReadonlyMap<number, string[]>): SlotAnswer {
  const { standing } = slot
  return {
    environment: known.facts.environmentNames.get(slot.environment) ?? '',
    verdict: slot.verdict,
    word: slot.word ?? null,
    reasons: [...slot.reasons],
    confidence: slot.confidence,
    build: standing && (known.facts.buildNames.get(standing.buildId) ?? null),
    at: standing?.finishedAt ?? null,
    attempt: standing?.attemptId ?? null,
    defects: (standing && defects.get(standing.attemptId)) ?? [],
  }
}

function defectsByAttempt(db: Db, projectId: number): Map<number, string[]> {
  const byAttempt = new Map<number, string[]>()
  for (const defect of defectFacts(db, projectId))
    for (const attempt of numbers(defect.attempts))
      byAttempt.set(attempt, [...(byAttempt.get(attempt) ?? []), keyOf('defect', defect.number)])
  return byAttempt
}

const first = 200

interface GapRow {
  readonly key: string
  readonly title: string
  readonly detail: string
}
/** The first of a gap's rows, and how many there are in all. */
interface Gap {
  readonly rows: GapRow[]
  readonly total: number
}

const gapOf = <T>(all: readonly T[], row: (each: T) => GapRow): Gap => ({
  rows: all.slice(0, first).map(row),
  total: all.length,
})

function gapsOf(db: Db, known: Knowledge, projectId: number): GapsAnswer {
  const defects = defectFacts(db, projectId)
  const unlinked = defects.filter((defect) => defect.cases === null && isOpen(defectState.parse(defect.state)))
  const line = caseLines(known)
  const gaps = {
    requirementsWithoutCase: uncoveredGap(known),
    casesWithoutRequirement: gapOf(casesAlone(known).sort(byNumber), ({ id }) => line(id, '')),
    failingWithoutDefect: failingGap(known, new Set(defects.flatMap(({ attempts }) => numbers(attempts)))),
    defectsWithoutCase: gapOf(unlinked, ({ number, title, state }) => ({
      key: keyOf('defect', number),
      title,
      detail: state,
    })),
    suspectLinks: suspectGap(known),
    notRun: gapOf(neverRun(known), ({ id }) => line(id, '')),
  }
  const each = <V>(of: (gap: Gap) => V) => ({
    requirementsWithoutCase: of(gaps.requirementsWithoutCase),
    casesWithoutRequirement: of(gaps.casesWithoutRequirement),
    failingWithoutDefect: of(gaps.failingWithoutDefect),
    defectsWithoutCase: of(gaps.defectsWithoutCase),
    suspectLinks: of(gaps.suspectLinks),
    notRun: of(gaps.notRun),
  })
  return { ...each(({ rows }) => rows), totals: each(({ total }) => total) }
}

/** A case as a row, with what is wrong about it. */
function caseLines(known: Knowledge) {
  const cases = new Map(known.facts.cases.map((each) => [each.id, each]))
  return (id: number, detail: string): GapRow => ({
    key: keyOf('case', cases.get(id)?.number ?? 0),
    title: cases.get(id)?.title ?? '',
    detail,
  })
}

function uncoveredGap(known: Knowledge): Gap {
  const { byId } = known.result()
  const parents = new Set(known.facts.requirements.map(({ parent }) => parent))
  const uncovered = known.facts.requirements
    .filter(({ id }) => !parents.has(id) && byId.get(id)?.state === 'uncovered')
    .sort((a, b) => (b.risk ?? assumedRisk) - (a.risk ?? assumedRisk))
  return gapOf(uncovered, ({ number, title, risk }) => ({
    key: keyOf('requirement', number),
    title,
    detail: `risk ${risk ?? 'not given'}`,
  }))
}

function failingGap(known: Knowledge, told: ReadonlySet<number>): Gap {
  const { environmentNames, buildNames } = known.facts
  const failing = [...known.slots].flatMap(([id, slots]) =>
    slots
      .filter(({ verdict, standing }) => verdict === 'Failed' && standing && !told.has(standing.attemptId))
      .map((slot) => ({ id, slot })),
  )
  const line = caseLines(known)
  return gapOf(failing, ({ id, slot: { environment, standing } }) =>
    line(id, `${environmentNames.get(environment) ?? ''}, ${buildNames.get(standing?.buildId ?? 0) ?? ''}`),
  )
}

function suspectGap(known: Knowledge): Gap {
  const requirements = new Map(known.facts.requirements.map((each) => [each.id, each]))
  const suspect = known.facts.links.filter(
    (link) => (requirements.get(link.requirement)?.revision ?? 0) > link.confirmedRevision,
  )
  const line = caseLines(known)
  return gapOf(suspect, (link) => {
    const own = requirements.get(link.requirement)
    return line(link.case, `${keyOf('requirement', own?.number ?? 0)} ${own?.title ?? ''}`)
  })
}

const neverRun = (known: Knowledge) =>
  known.facts.cases
    .filter(({ id, designed }) => designed && (known.slots.get(id) ?? []).every(({ verdict }) => verdict === 'Not run'))
    .sort(byNumber)

function staleOf(known: Knowledge, { requirement, cursor, limit }: StaleQuestion): StaleReply {
  const branch = requirement === null ? null : branchOf(known, requirement)
  const cases = new Map(known.facts.cases.map((each) => [each.id, each]))
  const numberOf = new Map(known.facts.requirements.map(({ id, number }) => [id, number]))
  const seen = new Set<string>()
  const rows: { id: number; slot: AnsweredSlot; requirement: number | null }[] = []
  const add = (id: number, slot: AnsweredSlot, at: number | null) => {
    const key = `${id}:${slot.environment}`
    if (slot.reasons.length === 0 || seen.has(key)) return
    seen.add(key)
    rows.push({ id, slot, requirement: at })
  }
  const revisions = new Map(known.facts.requirements.map(({ id, revision }) => [id, revision]))
  for (const link of known.facts.links) {
    const revision = revisions.get(link.requirement)
    if (revision === undefined || (branch && !branch.has(link.requirement))) continue
    for (const slot of known.slots.get(link.case) ?? [])
      add(link.case, revision > link.confirmedRevision ? suspected(slot, known.scope.rules) : slot, link.requirement)
  }
  if (!branch) for (const [id, slots] of known.slots) for (const slot of slots) add(id, slot, null)
  rows.sort((a, b) => a.slot.confidence - b.slot.confidence || a.id - b.id)
  const line = ({ id, slot, requirement: at }: (typeof rows)[number]): StaleRow => ({
    case: keyOf('case', cases.get(id)?.number ?? 0),
    title: cases.get(id)?.title ?? '',
    requirement: at === null ? null : keyOf('requirement', numberOf.get(at) ?? 0),
    environment: known.facts.environmentNames.get(slot.environment) ?? '',
    verdict: slot.verdict,
    word: slot.word ?? null,
    build: known.facts.buildNames.get(slot.standing?.buildId ?? 0) ?? '',
    at: slot.standing?.finishedAt ?? 0,
    reasons: [...slot.reasons],
    confidence: slot.confidence,
  })
  return { rows: rows.slice(cursor, cursor + limit).map(line), total: rows.length }
}

function branchOf(known: Knowledge, root: number): Set<number> {
  const branch = new Set([root])
  // The outline is read parents first, so one pass finds everything below.
  for (const { place } of outlineOrder(known.facts.requirements))
    if (place.parent !== null && branch.has(place.parent)) branch.add(place.id)
  return branch
}
