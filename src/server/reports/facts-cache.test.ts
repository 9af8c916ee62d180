import { expect } from 'chai'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import { runnerOf } from '#server/workers/job.ts'
import { boardJob, coverageJob, gapsJob, staleJob } from '#server/workers/questions.ts'
import { pick, seeded } from '#core/lib/random.ts'
import { resolveScope } from '#core/projects/scope.ts'
import { finalVerdicts } from '#core/lib/verdict.ts'
import { contextOf } from '#server/http/context.ts'
import { recordWhole } from '#server/runs/record-verdict.ts'
import { startAttempt } from '#server/runs/start-attempt.ts'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { allStanding } from '#db/reports/standing.ts'
import type { Db } from '#db/open.ts'
import { findProject } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { saveBuild } from '#db/projects/releases.ts'
import { itemsOfRun } from '#db/runs/items.ts'
import { nobody } from '#db/people/people.ts'
import { demoDb } from '../../../test/memory.ts'
import { reportJobs } from './report-jobs.ts'

let db: Db
before(async () => {
  db = await demoDb(Date.now() - 60_000)
})
after(() => db.$client.close())

const project = () => {
  const found = findProject(db, 'FERRY')
  if (!found) throw new Error('no demo')
  return found
}
const question = (query: Parameters<typeof resolveScope>[1] = {}) => {
  const resolved = resolveScope(projectDetail(db, project(), 'lead'), query)
  if ('problem' in resolved) throw new Error(resolved.problem)
  return { projectId: project().id, scope: resolved.scope, ids: 'all' as const }
}
const context = () =>
  contextOf({
    tx: db,
    now: Date.now(),
    person: { ...nobody, id: 'mira', name: 'Mira Kell', email: '', administrator: false },
    project: project(),
    role: 'lead',
    expected: 0,
    limit: null,
  }).context

/** Shares of confidence fall with the clock; counts and states do not. */
const counted = (answer: CoverageAnswer) =>
  [answer.total, ...answer.nodes].map(({ id, state, figures }) => ({
    id,
    state,
    verdicts: figures.verdicts,
    stale: figures.stale,
    reasons: figures.reasons,
    recorded: figures.passing.byRisk.recorded,
    current: figures.fullyPassing.plain.current,
  }))

it('answers after each verdict as if all had been read anew, whatever the verdicts', () => {
  const random = seeded(5)
  const warm = runnerOf(reportJobs(db))
  const items = itemsOfRun(db, 5, null)
  warm(coverageJob, question())
  for (let n = 1; n <= 40; n++) {
    const item = pick(random, items)
    const attempt = startAttempt(context(), { params: { key: 'FERRY', id: item.id }, query: undefined, body: {} })
    recordWhole(context(), {
      params: { key: 'FERRY', id: attempt.id },
      query: undefined,
      body: {
        verdict: pick(random, finalVerdicts),
        word: null,
        reason: null,
        client: 'cache-test-1',
        sequence: n,
        at: Date.now(),
      },
    })
    expect(counted(warm(coverageJob, question())), `after verdict ${n}`).to.deep.equal(
      counted(runnerOf(reportJobs(db))(coverageJob, question())),
    )
  }
})
it('keeps the standing results exactly as the attempts give them', () => {
  const key = (each: { buildId: number; caseId: number; environmentId: number }) =>
    `${each.buildId}:${each.caseId}:${each.environmentId}`
  const sorted = <T extends Parameters<typeof key>[0]>(of: T[]) => [...of].sort((a, b) => key(a).localeCompare(key(b)))
  // The word is not kept: it is read from the attempt that stands.
  const given = standingFromAttempts(db, {}).map(({ word: _, ...rest }) => rest)
  expect(sorted(allStanding(db))).to.deep.equal(sorted(given))
})
it('reads the present and the past of this instant alike', () => {
  const run = runnerOf(reportJobs(db))
  expect(counted(run(coverageJob, question({ asOf: Date.now() })))).to.deep.equal(counted(run(coverageJob, question())))
})
it('tells fewer results the further back it looks', () => {
  const run = runnerOf(reportJobs(db))
  const executed = (days: number) =>
    run(coverageJob, question({ release: '2.4', build: 'all', asOf: Date.now() - days * 86_400_000 })).total.figures
  // Cases that came into a suite since are asked for as it asks now; before that, as they were executed.
  const answered = [3, 8, 16, 40].map((days) => {
    const { slots, verdicts } = executed(days)
    return slots - (verdicts['Not run'] ?? 0)
  })
  expect(answered).to.deep.equal([...answered].sort((a, b) => b - a))
  expect(answered.at(-1)).to.equal(0)
})
it('adds up gaps, stale rows and the board with the figures they explain', () => {
  const run = runnerOf(reportJobs(db))
  const of = question()
  const { figures } = run(coverageJob, of).total
  const gaps = run(gapsJob, of)
  expect(gaps.totals['requirementsWithoutCase']).to.equal(figures.uncovered)
  expect(run(coverageJob, of).casesWithoutRequirement).to.equal(gaps.totals['casesWithoutRequirement'])
  const stale = run(staleJob, { ...of, requirement: null, cursor: 0, limit: 500 })
  expect(stale.total).to.be.at.least(Object.values(figures.stale).reduce((sum, n) => sum + n, 0))
  expect(stale.rows.every(({ reasons }) => reasons.length > 0)).to.equal(true)
  const board = run(boardJob, of)
  expect(board.requirements.filter(({ gap }) => gap.includes('no case'))).to.have.length(figures.uncovered)
  expect(board.results.filter(({ gap }) => gap.includes('failing with no defect')).length).to.equal(
    gaps.totals['failingWithoutDefect'],
  )
})
it('counts a newer build once it is offered, and forgets one that is withdrawn', () => {
  const run = runnerOf(reportJobs(db))
  const rc2 = projectDetail(db, project(), 'lead').builds.find(({ name }) => name === '2.4.0-rc2')
  const before_ = run(coverageJob, question()).total.figures
  saveBuild(db, rc2?.id ?? 0, { state: 'Withdrawn', endedAt: Date.now() })
  db.$client.prepare('update project set structure_version = structure_version + 1').run()
  const without = run(coverageJob, question()).total.figures
  expect(without.reasons['older build'] ?? 0).to.be.below(before_.reasons['older build'] ?? 0)
  saveBuild(db, rc2?.id ?? 0, { state: 'Offered', endedAt: null })
  db.$client.prepare('update project set structure_version = structure_version + 1').run()
  expect(run(coverageJob, question()).total.figures.verdicts).to.deep.equal(before_.verdicts)
})
