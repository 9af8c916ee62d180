import { type Policy, usualPolicy } from '#core/projects/policy.ts'
import type { Tx } from '#db/open.ts'
import { closeSampleRuns, giveSampleReason, passedInRun, unclearStep } from '#db/installation/sample-runs.ts'
import { findPerson } from '#db/people/people.ts'
import { keepPolicy } from '#db/projects/policies.ts'
import { findProjectById, saveProject } from '#db/projects/projects.ts'
import { addVerdictKind, addVerdictReason } from '#db/projects/verdict-kinds.ts'
import { saveAttempt } from '#db/runs/attempts.ts'
import { addDoubt } from '#db/runs/doubts.ts'
import { findRun, saveRun } from '#db/runs/runs.ts'
import { contextOf } from '#server/http/context.ts'
import { commentStep } from '#server/runs/note-step.ts'
import { recordStep } from '#server/runs/record-verdict.ts'
import { day, hour } from '../standins/crossing-desk/clock.ts'
import type { Frame } from './fill.ts'

/** Leads may put right what a run has left, and whoever is blocked says by what. */
const ferryPolicy: Policy = { ...usualPolicy, asked: { Blocked: ['a reason'] }, amends: 'leads' }
/** The smoke test on a new engine closes by itself, and a failure there is reported. */
const smokePolicy: Policy = {
  ...ferryPolicy,
  asked: { Failed: ['a defect'], Blocked: ['a reason'] },
  closes: 'when all is executed',
}

const reasons = [
  ['Blocked', 'Instance is down'],
  ['Blocked', 'Waits for a repair'],
  ['Blocked', 'No test card left'],
  ['Inconclusive', 'Clock of the instance is off'],
  ['Skipped', 'Not in this build'],
  ['Skipped', 'No time'],
] as const

const remarks = [
  'The list jumps by a line when the banner comes.',
  'The amount is right; the euro sign stands on a line of its own at 200 %.',
  'Works, after a second press of Enter.',
]

/** How the team of Crossing Desk judges: its own verdicts and reasons, the rules of its runs, and what came of them. */
export function fillRules(tx: Tx, { projectId }: Frame, now: number): void {
  addVerdictKind(tx, projectId, {
    word: 'With a remark',
    countsAs: 'Passed',
    final: true,
    forItems: true,
    forSteps: true,
    sign: 'wave',
    tint: 'amber',
  })
  addVerdictKind(tx, projectId, {
    word: 'To be seen aboard',
    countsAs: 'Inconclusive',
    final: false,
    forItems: true,
    forSteps: false,
    sign: 'ring',
    tint: 'blue',
  })
  for (const [verdict, word] of reasons) addVerdictReason(tx, projectId, { verdict, word })
  // What was closed was closed some hours after its last result.
  closeSampleRuns(tx, projectId, 3 * hour)
  const runId = (number: number) => findRun(tx, projectId, number)?.id ?? 0
  const begun = now - 90 * day
  saveProject(tx, projectId, { policyId: keepPolicy(tx, projectId, ferryPolicy, begun) })
  saveRun(tx, runId(6), { policyId: keepPolicy(tx, projectId, smokePolicy, begun) })
  giveSampleReason(tx, projectId, 'Instance is down')
  remark(tx, runId(5))
  doubtOnce(tx, projectId, now)
  amend(tx, projectId, runId(3))
}

/** Somebody thought that a bench told the wrong hour, and it did not: the doubt was lifted the next day. */
function doubtOnce(tx: Tx, projectId: number, now: number): void {
  addDoubt(tx, {
    projectId,
    reason: 'The clock of the WebKit bench may have been an hour late',
    attempts: 12,
    personId: 'ansa',
    at: now - 44 * day,
    liftedAt: now - 43 * day,
    liftedById: 'mira',
  })
}

/** Passed, and something is worth a word: it stands in the team's own word. */
function remark(tx: Tx, runId: number): void {
  for (const [at, id] of passedInRun(tx, runId, remarks.length).entries())
    saveAttempt(tx, id, {
      wholeVerdict: 'Passed',
      wholeWord: 'With a remark',
      word: 'With a remark',
      comment: remarks[at] ?? '',
    })
}

/** A day after the close the log had told what the tester could not see: the result was put right. */
function amend(tx: Tx, projectId: number, runId: number): void {
  const unclear = unclearStep(tx, runId)
  const [project, person] = [findProjectById(tx, projectId), findPerson(tx, 'mira')]
  if (!unclear || !project || !person) throw new Error('the demo has nothing to amend')
  const now = unclear.closedAt + 22 * hour
  const { context } = contextOf({ tx, now, person, project, role: 'lead', expected: 0, limit: null })
  const params = { key: project.key, id: unclear.attempt, row: unclear.row, step: unclear.step }
  commentStep(context, {
    params,
    query: undefined,
    body: { text: '<p>Looked up in the log of the instance: it was right, the display came late.</p>' },
  })
  recordStep(context, {
    params,
    query: undefined,
    body: { verdict: 'Passed', word: null, client: 'web-mira-amends', sequence: 1, at: now },
  })
}
