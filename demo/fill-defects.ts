import { lower } from '#core/lib/lower.ts'
import { keyOf } from '#core/lib/key.ts'
import { createHash } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { plain } from '#core/defects/from-step.ts'
import { saveCase } from '#db/cases/cases.ts'
import { addVersion, readContent, setVersionState, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { addDefect, addDefectLink, addDefectState, saveDefect } from '#db/defects/queries.ts'
import type { Tx } from '#db/open.ts'
import { addChange } from '#db/history/changes.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { addAttachment, addComment } from '#db/talk/queries.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { defects } from './outline.ts'
import { day, type FilledCase, type Filling, type Frame, type Basis, type DoneAttempt } from './fill.ts'
import { contentOf } from './fill-basis.ts'

type DemoDefect = (typeof defects)[number]

/** A defect with the case it was found in and the attempts that met it. */
interface Logged {
  readonly defect: DemoDefect
  readonly index: number
  readonly own: FilledCase | undefined
  readonly failing: readonly DoneAttempt[]
  readonly at: number
}

export function logDefects(tx: Tx, frame: Frame, basis: Basis, attempts: readonly DoneAttempt[], of: Filling): void {
  defects.forEach((defect, index) => {
    const own = basis.cases.find(({ title }) => defect.found !== '' && title.startsWith(defect.found))
    const failing = own ? attempts.filter((attempt) => attempt.own.id === own.id && attempt.verdict === 'Failed') : []
    const [first] = failing
    const at = first ? first.at + 240_000 : of.now - daysAgo(defect.from) * day
    const logged = { defect, index, own, failing, at }
    const made = report(tx, frame, logged)
    if (defect.state !== 'Reported') repair(tx, frame, made, logged, of)
    linkDefect(tx, made.id, logged)
    if (first && index < 3) attachPicture(tx, frame, first, of)
  })
}

/** When a defect was reported that no attempt tells the time of. */
function daysAgo(build: string): number {
  if (build.includes('rc2')) return 1.5
  if (build.includes('rc1')) return 7
  return build.startsWith('2.4') ? 16 : 46
}

const priorities = { Critical: 1, Major: 2 } as const
const usualPriority = 4

function report(tx: Tx, frame: Frame, { defect, index, own, failing: [first], at }: Logged) {
  const reporterId = first?.personId ?? 'yusra'
  const number = takeNumbers(tx, frame.projectId, 'defect')
  const { title, text, severity } = defect
  const steps = own ? contentOf(own.title, own.component).steps : []
  const id = addDefect(
    tx,
    {
      projectId: frame.projectId,
      number,
      title,
      text: `<p>${text}</p>`,
      severity,
      priority: severity === 'Critical' || severity === 'Major' ? priorities[severity] : usualPriority,
      component: own?.component ?? 'Booking',
      state: 'Reported',
      foundInBuildId: frame.builds.get(first?.build ?? defect.from) ?? null,
      environmentId: first ? (frame.environments.get(first.environment) ?? null) : null,
      reporterId,
      ownerId: index % 3 === 0 ? 'piet' : null,
      steps: steps
        .map((step, place) => `${place + 1}. ${plain(step.action)}. Should be: ${plain(step.expected)}`)
        .join('\n'),
    },
    { now: at, personId: reporterId },
  )
  return { id, number }
}

/** Piet moves it on, a day and a half after it was reported. */
function repair(
  tx: Tx,
  { projectId, builds }: Frame,
  { id, number }: ReturnType<typeof report>,
  { defect: { state, fixed }, at }: Logged,
  of: Filling,
): void {
  const moved = Math.min(at + 1.5 * day, of.now - 0.3 * day)
  const fixedInBuildId = fixed === null ? null : (builds.get(fixed) ?? null)
  saveDefect(tx, id, { state, fixedInBuildId, updatedAt: moved })
  addDefectState(tx, { defectId: id, state, fixedInBuildId, at: moved, personId: 'piet' })
  addChange(tx, {
    projectId,
    at: moved,
    personId: 'piet',
    kind: 'defect',
    ownerId: id,
    ref: keyOf('defect', number),
    action: lower(state),
    detail: { state: ['Reported', state] },
  })
}

function linkDefect(tx: Tx, defectId: number, { own, failing, at: fromAt }: Logged): void {
  for (const { id: attemptId, failedStep: stepId, itemId, own: of } of failing)
    addDefectLink(tx, {
      defectId,
      attemptId,
      row: 1,
      stepId,
      itemId,
      caseId: of.id,
      requirementId: of.requirementId,
      fromAt,
    })
  if (own && failing.length === 0)
    addDefectLink(tx, { defectId, caseId: own.id, requirementId: own.requirementId, fromAt })
}

function attachPicture(tx: Tx, frame: Frame, attempt: DoneAttempt, of: Filling): void {
  const name = attempt.own.component === 'Payment' ? 'charges.png' : 'fare.png'
  const bytes = readFileSync(join(of.pictures, name))
  addAttachment(tx, {
    projectId: frame.projectId,
    ownerKind: 'attempt',
    ownerId: attempt.id,
    row: 1,
    stepId: attempt.failedStep,
    hash: of.writeEvidence(bytes),
    name,
    mime: 'image/png',
    size: bytes.length,
    at: attempt.at,
    personId: attempt.personId,
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

/** Requirements that were worded anew, and how many days ago. */
const reworded: readonly (readonly [title: string, text: string, days: number])[] = [
  [
    'Pets and bicycles on board',
    'Pets travel in the pet area, at most ten a sailing; bicycles go on the rack, at most thirty. A folded bicycle is luggage.',
    0.6,
  ],
  [
    'Vouchers, in whole or part',
    'A voucher pays a booking in whole or in part; what is left of it stays usable until its date. At most two vouchers pay one booking.',
    2.5,
  ],
]

/** Cases that got another step, how many days ago, and whether somebody is asked to review it. */
const changed: readonly (readonly [title: string, step: string, days: number, review: boolean])[] = [
  ['Group of ten with islanders gets the group fare', 'Take one islander out of the group', 1, true],
  ['Van of 2.10 m is placed on the car deck', 'Add a roof box of 0.05 m', 2, true],
  ['Voucher covers part of the fare, the card the rest', 'Pay with a second voucher', 1.4, true],
  ['Moved booking is not refunded as well', 'Ask for the refund by telephone', 3, false],
  ['Later sailing charges the difference', 'Read the receipt of both bookings', 0.4, true],
  ['Cancel six days and 23 hours before gives half', 'Read the time on the receipt', 1.1, true],
]

/** What happened in the last days: requirements re-worded (links turn suspect), cases changed after their last run, reviews asked. */
export function editLately(tx: Tx, frame: Frame, basis: Basis, of: Filling): void {
  for (const [title, text, days] of reworded)
    reword(tx, frame, { id: basis.requirements.get(title) ?? 0, text, at: of.now - days * day })
  for (const [title, step, days, review] of changed) {
    const own = basis.cases.find((each) => each.title === title)
    if (own) addStep(tx, own, { step, review, now: of.now - days * day })
  }
  const about = {
    projectId: frame.projectId,
    ownerKind: 'requirement' as const,
    ownerId: basis.requirements.get('Vehicle length and height bands') ?? 0,
  }
  addComment(tx, {
    ...about,
    text: '<p>The harbour office measures <strong>with</strong> the towing hook. Do we?</p>',
    at: of.now - 1.2 * day,
    personId: 'tobin',
  })
  addComment(tx, {
    ...about,
    text: '<p>Yes, the length in the papers counts the hook.</p>',
    at: of.now - day,
    personId: 'ansa',
  })
}

function reword(tx: Tx, { projectId }: Frame, { id, text, at }: { id: number; text: string; at: number }): void {
  const before = requirementById(tx, projectId, id)
  if (!before) return
  saveRequirement(tx, before, { text: `<p>${text}</p>` }, { now: at, personId: 'ansa' })
  addChange(tx, {
    projectId,
    at,
    personId: 'ansa',
    kind: 'requirement',
    ownerId: before.id,
    ref: keyOf('requirement', before.number),
    action: 'changed',
    detail: { text: [before.text, text] },
  })
}

function addStep(tx: Tx, own: FilledCase, { step, review, now }: { step: string; review: boolean; now: number }): void {
  const version = own.versionId == null ? undefined : versionById(tx, own.versionId)
  if (!version) return
  const working = workingCopy(tx, own.id)
  const steps = [...readContent(tx, working).steps, { id: null, action: step, expected: 'It holds', data: '' }]
  const next = { ...contentOf(own.title, own.component), steps }
  writeContent(tx, { id: working.id, caseId: own.id }, next, stampOf(next))
  const id = addVersion(tx, workingCopy(tx, own.id), {
    major: version.major ?? 0,
    minor: (version.minor ?? 0) + 1,
    state: 'Draft',
    why: 'follows the new fare table',
    now,
    personId: 'tobin',
  })
  if (review) setVersionState(tx, id, { state: 'In review' })
  saveCase(tx, own.id, { newestVersionId: id, steps: steps.length, state: review ? 'In review' : 'Draft' })
}
