import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { plain } from '#core/defects/from-step.ts'
import { keyOf } from '#core/lib/key.ts'
import { lower } from '#core/lib/lower.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { addDefect, addDefectLink, addDefectState, saveDefect } from '#db/defects/queries.ts'
import { addChange } from '#db/history/changes.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addAttachment } from '#db/talk/queries.ts'
import { routineNamed } from './basis/all.ts'
import type { WrittenCase } from './basis/read-basis.ts'
import type { Basis, FilledCase, Filling, Frame } from './fill.ts'
import type { DoneAttempt } from './fill-runs.ts'
import { defectStories, type DefectStory, type StateTold } from './story/defects.ts'

const priorities = { Critical: 1, Major: 2, Minor: 4, Cosmetic: 4 } as const

/** Logs what the runs found, as the story tells: from the first failure to the retest. */
export function logDefects(tx: Tx, frame: Frame, basis: Basis, done: readonly DoneAttempt[], of: Filling): void {
  for (const story of defectStories(done, of.now)) {
    const { failing } = story
    const about = basis.cases.find(({ own }) => own.title === story.about)
    const made = report(tx, frame, story, { about, first: failing[0] })
    for (const [at, told] of story.states.slice(1).entries())
      move(tx, frame, made, { told, before: story.states[at]?.state ?? 'Reported' })
    link(tx, made.id, { about, failing, fromAt: story.states[0]?.at ?? 0 })
    if (story.fault !== null && failing[0]) attachPicture(tx, frame, failing[0], { of, name: `${story.fault}.png` })
  }
}

interface Found {
  readonly about: FilledCase | undefined
  readonly first: DoneAttempt | undefined
}

function report(tx: Tx, frame: Frame, story: DefectStory, { about, first }: Found) {
  const [reported] = story.states
  const number = takeNumbers(tx, frame.projectId, 'defect')
  const reporterId = reported?.person ?? 'ansa'
  const id = addDefect(
    tx,
    {
      projectId: frame.projectId,
      number,
      title: story.title,
      text: `<p>${escapeText(story.text)}</p>`,
      severity: story.severity,
      priority: priorities[story.severity],
      component: about?.own.component ?? 'Booking',
      state: 'Reported',
      foundInBuildId: frame.builds.get(story.foundIn) ?? null,
      environmentId: first ? (frame.environments.get(first.environment) ?? null) : null,
      reporterId,
      ownerId: story.states.some(({ state }) => state === 'In repair') ? 'piet' : null,
      steps: about ? stepsTold(about.own, first?.step ?? about.own.steps.length) : '',
    },
    { now: reported?.at ?? 0, personId: reporterId },
  )
  return { id, number }
}

/** What was done up to the failure, routines written out. */
function stepsTold({ steps }: WrittenCase, failing: number): string {
  const all = steps.slice(0, failing + 1).flatMap((step) => {
    if ('action' in step) return [step]
    const { asks, steps: inserted } = routineNamed(step.routine)
    const filled = (text: string) =>
      text.replace(/\{(\w+)\}/g, (_, name: string) => step.values[asks.indexOf(name)] ?? '')
    return inserted.map(({ action, expected }) => ({ action: filled(action), expected: filled(expected) }))
  })
  return all.map(({ action, expected }, at) => `${at + 1}. ${plain(action)}. Should be: ${plain(expected)}`).join('\n')
}

function move(
  tx: Tx,
  { projectId, builds }: Frame,
  { id, number }: ReturnType<typeof report>,
  { told: { state, at, person, fixedIn }, before }: { told: StateTold; before: string },
): void {
  const fixedInBuildId = fixedIn === null ? null : (builds.get(fixedIn) ?? null)
  saveDefect(tx, id, { state, fixedInBuildId, updatedAt: at })
  addDefectState(tx, { defectId: id, state, fixedInBuildId, at, personId: person })
  addChange(tx, {
    projectId,
    at,
    personId: person,
    kind: 'defect',
    ownerId: id,
    ref: keyOf('defect', number),
    action: lower(state),
    detail: { state: [before, state] },
  })
}

function link(
  tx: Tx,
  defectId: number,
  { about, failing, fromAt }: { about: FilledCase | undefined; failing: readonly DoneAttempt[]; fromAt: number },
): void {
  for (const { id: attemptId, row, stepId, itemId, filled } of failing)
    addDefectLink(tx, {
      defectId,
      attemptId,
      row,
      stepId,
      itemId,
      caseId: filled.id,
      requirementId: filled.requirementId,
      fromAt,
    })
  if (about && failing.length === 0)
    addDefectLink(tx, { defectId, caseId: about.id, requirementId: about.requirementId, fromAt })
}

/** What the tester saw, taken from Crossing Desk itself, where there is a picture of it. */
function attachPicture(
  tx: Tx,
  { projectId }: Frame,
  attempt: DoneAttempt,
  { of, name }: { of: Filling; name: string },
): void {
  const file = join(of.pictures, name)
  if (!existsSync(file)) return
  const bytes = readFileSync(file)
  addAttachment(tx, {
    projectId,
    ownerKind: 'attempt',
    ownerId: attempt.id,
    row: attempt.row,
    stepId: attempt.stepId,
    hash: of.writeEvidence(bytes),
    name,
    mime: 'image/png',
    size: bytes.length,
    at: attempt.finishedAt,
    personId: attempt.person,
  })
}

export function evidenceWriter(folder: string): (bytes: Buffer) => string {
  mkdirSync(folder, { recursive: true })
  return (bytes) => {
    const hash = createHash('sha256').update(bytes).digest('hex')
    writeFileSync(join(folder, hash), bytes)
    return hash
  }
}
