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
import { day, type Filling, type Frame, type Basis, type DoneAttempt } from './fill.ts'
import { contentOf } from './fill-basis.ts'

export function logDefects(tx: Tx, frame: Frame, basis: Basis, attempts: readonly DoneAttempt[], of: Filling): void {
  defects.forEach((defect, index) => {
    const own = basis.cases.find(({ title }) => defect.found !== '' && title.startsWith(defect.found))
    const failing = own ? attempts.filter((attempt) => attempt.own.id === own.id && attempt.verdict === 'Failed') : []
    const first = failing[0]
    const at = first
      ? first.at + 240_000
      : of.now -
        (defect.from.includes('rc2')
          ? 1.5
          : defect.from.includes('rc1')
            ? 7
            : defect.from.startsWith('2.4')
              ? 16
              : 46) *
          day
    const fixedIn = defect.fixed === null ? null : (frame.builds.get(defect.fixed) ?? null)
    const reporterId = first?.personId ?? 'yusra'
    const number = takeNumbers(tx, frame.projectId, 'defect')
    const id = addDefect(
      tx,
      {
        projectId: frame.projectId,
        number,
        title: defect.title,
        text: `<p>${defect.text}</p>`,
        severity: defect.severity,
        priority: defect.severity === 'Critical' ? 1 : defect.severity === 'Major' ? 2 : 4,
        component: own?.component ?? 'Booking',
        state: 'Reported',
        foundInBuildId: frame.builds.get(first?.build ?? defect.from) ?? null,
        environmentId: first ? (frame.environments.get(first.environment) ?? null) : null,
        reporterId,
        ownerId: index % 3 === 0 ? 'piet' : null,
        steps: own
          ? contentOf(own.title, own.component)
              .steps.map((step, at) => `${at + 1}. ${plain(step.action)}. Should be: ${plain(step.expected)}`)
              .join('\n')
          : '',
      },
      { now: at, personId: reporterId },
    )
    if (defect.state !== 'Reported') {
      const moved = Math.min(at + 1.5 * day, of.now - 0.3 * day)
      saveDefect(tx, id, { state: defect.state, fixedInBuildId: fixedIn, updatedAt: moved })
      addDefectState(tx, { defectId: id, state: defect.state, fixedInBuildId: fixedIn, at: moved, personId: 'piet' })
      addChange(tx, {
        projectId: frame.projectId,
        at: moved,
        personId: 'piet',
        kind: 'defect',
        ownerId: id,
        ref: keyOf('defect', number),
        action: lower(defect.state),
        detail: { state: ['Reported', defect.state] },
      })
    }
    for (const attempt of failing)
      addDefectLink(tx, {
        defectId: id,
        attemptId: attempt.id,
        row: 1,
        stepId: attempt.failedStep,
        itemId: attempt.itemId,
        caseId: attempt.own.id,
        requirementId: attempt.own.requirementId,
        fromAt: at,
      })
    if (own && failing.length === 0)
      addDefectLink(tx, { defectId: id, caseId: own.id, requirementId: own.requirementId, fromAt: at })
    if (first && index < 3) attachPicture(tx, frame, first, of)
  })
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

/** What happened in the last days: requirements re-worded (links turn suspect), cases changed after their last run, reviews asked. */
export function editLately(tx: Tx, frame: Frame, basis: Basis, of: Filling): void {
  const reword = (title: string, text: string, days: number) => {
    const before = requirementById(tx, frame.projectId, basis.requirements.get(title) ?? 0)
    if (!before) return
    saveRequirement(tx, before, { text: `<p>${text}</p>` }, { now: of.now - days * day, personId: 'ansa' })
    addChange(tx, {
      projectId: frame.projectId,
      at: of.now - days * day,
      personId: 'ansa',
      kind: 'requirement',
      ownerId: before.id,
      ref: keyOf('requirement', before.number),
      action: 'changed',
      detail: { text: [before.text, text] },
    })
  }
  reword(
    'Pets and bicycles on board',
    'Pets travel in the pet area, at most ten a sailing; bicycles go on the rack, at most thirty. A folded bicycle is luggage.',
    0.6,
  )
  reword(
    'Vouchers, in whole or part',
    'A voucher pays a booking in whole or in part; what is left of it stays usable until its date. At most two vouchers pay one booking.',
    2.5,
  )
  const change = (title: string, step: string, days: number, review: boolean) => {
    const own = basis.cases.find((each) => each.title === title)
    const version = own?.versionId == null ? undefined : versionById(tx, own.versionId)
    if (!own || !version) return
    const content = contentOf(own.title, own.component)
    const steps = [
      ...readContent(tx, workingCopy(tx, own.id)).steps,
      { id: null, action: step, expected: 'It holds', data: '' },
    ]
    const next = { ...content, steps }
    writeContent(tx, { id: workingCopy(tx, own.id).id, caseId: own.id }, next, stampOf(next))
    const id = addVersion(tx, workingCopy(tx, own.id), {
      major: version.major ?? 0,
      minor: (version.minor ?? 0) + 1,
      state: 'Draft',
      why: 'follows the new fare table',
      now: of.now - days * day,
      personId: 'tobin',
    })
    if (review) setVersionState(tx, id, { state: 'In review' })
    saveCase(tx, own.id, { newestVersionId: id, steps: steps.length, state: review ? 'In review' : 'Draft' })
  }
  change('Group of ten with islanders gets the group fare', 'Take one islander out of the group', 1, true)
  change('Van of 2.10 m is placed on the car deck', 'Add a roof box of 0.05 m', 2, true)
  change('Voucher covers part of the fare, the card the rest', 'Pay with a second voucher', 1.4, true)
  change('Moved booking is not refunded as well', 'Ask for the refund by telephone', 3, false)
  change('Later sailing charges the difference', 'Read the receipt of both bookings', 0.4, true)
  change('Cancel six days and 23 hours before gives half', 'Read the time on the receipt', 1.1, true)
  const vehicle = basis.requirements.get('Vehicle length and height bands') ?? 0
  addComment(tx, {
    projectId: frame.projectId,
    ownerKind: 'requirement',
    ownerId: vehicle,
    text: '<p>The harbour office measures <strong>with</strong> the towing hook. Do we?</p>',
    at: of.now - 1.2 * day,
    personId: 'tobin',
  })
  addComment(tx, {
    projectId: frame.projectId,
    ownerKind: 'requirement',
    ownerId: vehicle,
    text: '<p>Yes, the length in the papers counts the hook.</p>',
    at: of.now - day,
    personId: 'ansa',
  })
}
