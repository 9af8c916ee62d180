import { keyOf } from '#core/lib/key.ts'
import { saveCase } from '#db/cases/cases.ts'
import { addVersion, readContent, setVersionState, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { addChange } from '#db/history/changes.ts'
import type { Tx } from '#db/open.ts'
import { requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { addComment } from '#db/talk/queries.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { type Basis, type FilledCase, type Filling, type Frame } from './fill.ts'

/** Requirements that were worded anew, and how many days ago. */
const reworded: readonly (readonly [title: string, from: string, to: string, days: number])[] = [
  [
    'Pets and bicycles on board',
    'A guide dog is no pet and needs no place.',
    'A guide dog is no pet. A folded bicycle is luggage.',
    0.6,
  ],
  [
    'Vouchers, in whole or part',
    'Blanks in the number do not matter.',
    'Blanks in the number do not matter. At most two vouchers pay one booking.',
    2.5,
  ],
]

interface Added {
  readonly title: string
  readonly step: readonly [action: string, expected: string]
  readonly days: number
  readonly review: boolean
}

/** Cases that got another step, how many days ago, and whether somebody is asked to review it. */
const changed: readonly Added[] = [
  {
    title: 'Group of ten with islanders: each gets the larger one',
    step: ['Take the islander out of the group', 'Nine are left: each pays 12.00, and no line names a reduction'],
    days: 1,
    review: true,
  },
  {
    title: 'Van of 2.10 m is placed on the car deck',
    step: ['Book a second van of 4.90 m, 2.11 m high, on that sailing', 'It stands in F2'],
    days: 2,
    review: true,
  },
  {
    title: 'Voucher covers part of the fare, the card the rest',
    step: ['Open the receipt', 'The voucher and the card stand there with 5.00 and 4.00'],
    days: 1.4,
    review: true,
  },
  {
    title: 'Moved booking is not refunded as well',
    step: ['Count the charges of TF-1001 at the bank’s test desk', 'There is one, of 18.00'],
    days: 3,
    review: false,
  },
  {
    title: 'Dearer sailing charges the difference',
    step: ['Read the charges at the bank’s test desk', '7.65 and 1.35'],
    days: 0.4,
    review: true,
  },
  {
    title: 'Cancel six days and 23 hours before gives half',
    step: ['Look the booking up', '“What happened” says cancelled, Tue 12 May 2026, 11:40'],
    days: 1.1,
    review: true,
  },
]

/** What happened in the last days: requirements re-worded (links turn suspect), cases changed after their last run, reviews asked. */
export function editLately(tx: Tx, frame: Frame, basis: Basis, of: Filling): void {
  for (const [title, from, to, days] of reworded)
    reword(tx, frame, { id: basis.requirements.get(title) ?? 0, from, to, at: of.now - days * day })
  for (const { title, days, ...rest } of changed) {
    const own = basis.cases.find((each) => each.own.title === title)
    if (!own) throw new Error(`the demo has no case “${title}”`)
    addStep(tx, own, { ...rest, now: of.now - days * day })
  }
  const ownerId = basis.requirements.get('Vehicle length and height bands') ?? 0
  const about = { projectId: frame.projectId, ownerKind: 'requirement' as const, ownerId }
  const asked = '<p>The harbour office measures <strong>with</strong> the towing hook. Do we?</p>'
  addComment(tx, { ...about, text: asked, at: of.now - 1.2 * day, personId: 'tobin' })
  const answered = '<p>Yes, the length in the papers counts the hook.</p>'
  addComment(tx, { ...about, text: answered, at: of.now - day, personId: 'ansa' })
}

interface Reworded {
  readonly id: number
  readonly from: string
  readonly to: string
  readonly at: number
}

function reword(tx: Tx, { projectId }: Frame, { id, from, to, at }: Reworded): void {
  const before = requirementById(tx, projectId, id)
  if (!before?.text.includes(from)) throw new Error(`no requirement of the demo says “${from}”`)
  const text = before.text.replace(from, to)
  saveRequirement(tx, before, { text }, { now: at, personId: 'ansa' })
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

interface NewStep extends Pick<Added, 'step' | 'review'> {
  readonly now: number
}

function addStep(tx: Tx, own: FilledCase, { step: [action, expected], review, now }: NewStep): void {
  const version = own.versionId === null ? undefined : versionById(tx, own.versionId)
  if (!version) return
  const working = workingCopy(tx, own.id)
  const content = readContent(tx, working)
  const next = { ...content, steps: [...content.steps, { id: null, action, expected, data: '' }] }
  writeContent(tx, { id: working.id, caseId: own.id }, next, stampOf(next))
  const id = addVersion(tx, workingCopy(tx, own.id), {
    major: version.major ?? 0,
    minor: (version.minor ?? 0) + 1,
    state: 'Draft',
    why: 'looks one step further',
    now,
    personId: 'tobin',
  })
  if (review) setVersionState(tx, id, { state: 'In review' })
  saveCase(tx, own.id, { newestVersionId: id, steps: next.steps.length, state: review ? 'In review' : 'Draft' })
}
