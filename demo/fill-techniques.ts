import { emptyContent } from '#core/cases/steps.ts'
import { finished } from '#core/techniques/combos.ts'
import { draft, type DraftInput } from '#core/techniques/draft.ts'
import type { Proposed } from '#core/techniques/draft-answer.ts'
import { draftModel, type DraftRow, titleBy } from '#core/techniques/draft-row.ts'
import { linesOf } from '#core/techniques/lines.ts'
import { addLink } from '#db/cases/links.ts'
import { addCase, lastCasePosition } from '#db/cases/cases.ts'
import { writeContent } from '#db/cases/versions.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { addChecklist, addModel, addRow, saveChecklist } from '#db/techniques/queries.ts'
import type { WrittenCase } from './basis/read-basis.ts'
import { contentOf, type Routine } from './fill-basis.ts'
import { comboSteps, fareSteps, pathSteps } from './technique-steps.ts'

interface TechniquesOf {
  readonly projectId: number
  readonly now: number
  readonly cases: readonly { readonly id: number; readonly title: string }[]
  readonly requirements: ReadonlyMap<string, number>
  readonly routines: ReadonlyMap<string, Routine>
}
const day = 86_400_000

interface DemoModel {
  readonly requirement: string
  readonly name: string
  readonly model: DraftInput
  /** Rows that cases of the outline answer, by the case's title. */
  readonly answered?: Readonly<Record<string, DraftRow>>
  /** How many of what the model proposes was accepted as new cases. */
  readonly accept?: number
  readonly pattern?: string
  /** What an author wrote of such a proposal. */
  readonly steps?: (row: DraftRow) => WrittenCase['steps']
}

const yesNo = ['yes', 'no']
const nothingLarger = { islander: ['no'], 'group of ten': ['no'], 'return in 3 days': ['no'] }
const held = [
  'held –pay→ paid',
  'held –run out→ lapsed',
  'held –cancel→ cancelled',
  'paid –check in→ checked in',
  'paid –cancel→ cancelled',
  'paid –move→ paid',
  'paid –miss the cut-off→ no-show',
  'paid –weather takes it→ refunded',
  'checked in –board→ boarded',
  'checked in –cancel→ cancelled',
  'boarded –sail→ sailed',
]
const transition = (line: string) => {
  const [, from = '', event = '', to = ''] = /^(.*?) –(.*?)→ (.*)$/.exec(line) ?? []
  return { from, event, to }
}

const models: readonly DemoModel[] = [
  {
    requirement: 'Passenger age bands decide the fare',
    name: 'Boundaries of the age',
    model: {
      technique: 'boundaries',
      body: {
        inputs: {
          age: {
            type: 'integer',
            unit: 'years',
            partitions: [
              { name: 'infant', from: 0, to: 3 },
              { name: 'child', from: 4, to: 15 },
              { name: 'adult', from: 16, to: 64 },
              { name: 'senior', from: 65, to: 110 },
            ],
          },
        },
      },
    },
    answered: {
      'Child on the fourth birthday pays the child fare': { age: '4' },
      'Infant on the last day before four travels free': { age: '3' },
      'Fifteen-year-old pays the child fare': { age: '15' },
      'Sixteenth birthday on the day of sailing pays the adult fare': { age: '16' },
      'Senior from 65 pays the senior fare': { age: '65' },
      'Date of birth in the future is refused': { age: '-1' },
    },
  },
  {
    requirement: 'Vehicle length and height bands',
    name: 'Boundaries',
    model: {
      technique: 'boundaries',
      body: {
        inputs: {
          length: {
            type: 'decimal',
            step: 0.01,
            unit: 'm',
            partitions: [
              { name: 'small', from: 0.5, to: 4.5 },
              { name: 'middle', from: 4.51, to: 6 },
              { name: 'large', from: 6.01, to: 9 },
              { name: 'freight', from: 9.01, to: 18 },
            ],
          },
          height: {
            type: 'decimal',
            step: 0.01,
            unit: 'm',
            partitions: [
              { name: 'car deck', from: 0.5, to: 2.1 },
              { name: 'high deck', from: 2.11, to: 4.2 },
            ],
          },
        },
      },
    },
    answered: {
      'Car of exactly 4.50 m pays the small band': { length: '4.5', height: '2.1' },
      'Car of 4.51 m pays the middle band': { length: '4.51', height: '2.1' },
      'Van of 2.11 m is not placed on the car deck': { length: '6', height: '2.11' },
      'Coach of exactly 9 m pays the large band': { length: '9', height: '4.2' },
      'Freight of 9.01 m asks for a quote': { length: '9.01', height: '4.2' },
    },
  },
  {
    requirement: 'Vehicle length and height bands',
    name: 'Combinations',
    pattern: '{vehicle} booked on a {device} with {engine} in {language}, paid by {payment}, {concession}',
    accept: 10,
    steps: comboSteps,
    model: {
      technique: 'combos',
      body: {
        parameters: {
          device: ['phone', 'tablet', 'desk'],
          engine: ['Chromium', 'Gecko', 'WebKit'],
          payment: ['card', 'voucher', 'account'],
          vehicle: ['no vehicle', 'motorcycle', 'car', 'van', 'camper'],
          language: ['English', 'Ovian', 'Skerric'],
          concession: ['full fare', 'islander', 'off-peak'],
        },
        negative: { payment: ['expired card'] },
        constraints: [
          { if: { vehicle: ['camper'] }, then: { payment: ['card', 'account'] } },
          { forbid: { concession: ['islander'], payment: ['account'] } },
        ],
        weights: { device: { phone: 3 } },
      },
    },
  },
  {
    requirement: 'Largest reduction wins',
    name: 'Fares table',
    pattern:
      'Fare: {passenger}, islander {islander}, group {group of ten}, return {return in 3 days}, off-peak {off-peak}',
    accept: 8,
    steps: fareSteps,
    model: {
      technique: 'decisions',
      body: {
        conditions: {
          islander: yesNo,
          'group of ten': yesNo,
          'return in 3 days': yesNo,
          'off-peak': yesNo,
          passenger: ['infant', 'child', 'adult'],
        },
        impossible: [{ passenger: ['infant'], islander: ['yes'] }],
        rules: [
          { when: { passenger: ['infant'] }, then: { reduction: 'free' } },
          { when: { islander: ['yes'], passenger: ['adult'] }, then: { reduction: 'islander 50 %' } },
          { when: { islander: ['yes'], passenger: ['child'] }, then: { reduction: 'islander 50 %' } },
          {
            when: { islander: ['no'], 'group of ten': ['yes'], passenger: ['adult'] },
            then: { reduction: 'group 20 %' },
          },
          {
            when: { islander: ['no'], 'group of ten': ['yes'], passenger: ['child'] },
            then: { reduction: 'group 20 %' },
          },
          {
            when: { islander: ['no'], 'group of ten': ['no'], 'return in 3 days': ['yes'], passenger: ['adult'] },
            then: { reduction: 'return 20 %' },
          },
          {
            when: { islander: ['no'], 'group of ten': ['no'], 'return in 3 days': ['yes'], passenger: ['child'] },
            then: { reduction: 'return 20 %' },
          },
          {
            when: { ...nothingLarger, 'off-peak': ['yes'], passenger: ['adult'] },
            then: { reduction: 'off-peak 15 %' },
          },
          {
            when: { ...nothingLarger, 'off-peak': ['yes'], passenger: ['child'] },
            then: { reduction: 'off-peak 15 %' },
          },
          {
            when: { islander: ['yes'], 'off-peak': ['yes'], passenger: ['adult'] },
            then: { reduction: 'islander 50 %' },
          },
        ],
      },
    },
    answered: {
      'Islander on an off-peak sailing gets one reduction': {
        islander: 'yes',
        'group of ten': 'no',
        'return in 3 days': 'no',
        'off-peak': 'yes',
        passenger: 'adult',
      },
      'Group of ten with islanders: each gets the larger one': {
        islander: 'no',
        'group of ten': 'yes',
        'return in 3 days': 'no',
        'off-peak': 'no',
        passenger: 'adult',
      },
      'Return within three days beats off-peak': {
        islander: 'no',
        'group of ten': 'no',
        'return in 3 days': 'yes',
        'off-peak': 'yes',
        passenger: 'adult',
      },
      'Infant stays free under any reduction': {
        islander: 'no',
        'group of ten': 'yes',
        'return in 3 days': 'yes',
        'off-peak': 'yes',
        passenger: 'infant',
      },
    },
  },
  {
    requirement: 'Check-in closes at the cut-off',
    name: 'Boundaries of the cut-off',
    model: {
      technique: 'boundaries',
      body: {
        inputs: {
          'with a vehicle': {
            type: 'integer',
            unit: 'minutes before',
            partitions: [
              { name: 'open', from: 30 },
              { name: 'closed', from: 0, to: 29, valid: false },
            ],
          },
        },
        values: 3,
      },
    },
    answered: {
      'Check-in closes at 30 minutes with a vehicle': { 'with a vehicle': '30' },
    },
  },
  {
    requirement: 'State of a booking follows its path',
    name: 'State graph',
    answered: {
      'Booking given up frees its place at once': { path: 'held –cancel→ cancelled' },
      'Hold ends after 20 minutes and frees the place': { path: 'held –run out→ lapsed' },
      'Paid booking goes through to sailed': {
        path: 'held –pay→ paid\npaid –check in→ checked in\nchecked in –board→ boarded\nboarded –sail→ sailed',
      },
      'Checked-in booking is cancelled with what it is due': {
        path: 'held –pay→ paid\npaid –check in→ checked in\nchecked in –cancel→ cancelled',
      },
    },
    pattern: 'Booking goes {all}',
    accept: 6,
    steps: pathSteps,
    model: {
      technique: 'paths',
      criterion: 'pairs',
      body: {
        initial: 'held',
        final: ['sailed', 'refunded', 'lapsed', 'no-show', 'cancelled'],
        transitions: held.map(transition),
      },
      invalid: true,
    },
  },
]

const checklists: Readonly<Record<string, readonly (readonly [text: string, done: boolean])[]>> = {
  'Vehicle length and height bands': [
    ['Length is said in feet by a visitor from overseas', false],
    ['Two clerks measure the same camper', true],
    ['The band is printed large enough to be read at the ramp', false],
  ],
  'State of a booking follows its path': [
    ['Power fails between paying and the receipt', true],
    ['Two clerks cancel the same booking', false],
  ],
}

/** Models at the drafting table, each partly accepted, so that their meters have something to tell. */
export function fillTechniques(tx: Tx, of: TechniquesOf): void {
  for (const [index, demo] of models.entries()) fillModel(tx, of, demo, index)
  for (const [title, entries] of Object.entries(checklists)) fillChecklist(tx, of, title, entries)
}

function requirementNamed(tx: Tx, of: TechniquesOf, title: string) {
  const id = of.requirements.get(title)
  const requirement = id === undefined ? undefined : requirementById(tx, of.projectId, id)
  if (!requirement) throw new Error(`the demo has no requirement “${title}”`)
  return requirement
}

interface By {
  readonly now: number
  readonly personId: string
}

function fillModel(tx: Tx, of: TechniquesOf, demo: DemoModel, index: number): void {
  const requirement = requirementNamed(tx, of, demo.requirement)
  const model = draftModel.parse(demo.model)
  const by: By = { now: of.now - (20 - index) * day, personId: index % 2 === 0 ? 'ansa' : 'yusra' }
  const modelId = addModel(
    tx,
    {
      projectId: of.projectId,
      requirementId: requirement.id,
      requirementRevision: requirement.revision,
      name: demo.name,
      model,
      source: linesOf(model),
      pattern: demo.pattern ?? '',
    },
    by,
  )
  const note = (row: DraftRow, caseId: number) =>
    addRow(tx, { projectId: of.projectId, modelId, row, decision: 'accepted', caseId, revision: 1 }, by)
  for (const [title, row] of Object.entries(demo.answered ?? {})) {
    const own = of.cases.find((each) => each.title === title)
    if (!own) throw new Error(`the demo has no case “${title}”`)
    note(row, own.id)
  }
  if (!demo.accept) return
  const taken = Object.values(demo.answered ?? {}).map((row) => JSON.stringify(row))
  const chosen = finished(draft(model, []))
    .proposed.filter(({ row, negative }) => !negative && !taken.includes(JSON.stringify(row)))
    .slice(0, demo.accept)
  const ids = acceptedCases(tx, of, { demo, requirement, chosen, by })
  for (const [at, caseId] of ids.entries()) {
    const { id: requirementId, revision } = requirement
    addLink(tx, { projectId: of.projectId, requirementId, caseId, revision, versionId: null }, by)
    note(chosen[at]!.row, caseId)
  }
}

interface Accepted {
  readonly demo: DemoModel
  readonly requirement: ReturnType<typeof requirementNamed>
  readonly chosen: readonly Proposed[]
  readonly by: By
}

/** What was accepted became cases, which an author wrote out. */
function acceptedCases(tx: Tx, of: TechniquesOf, { demo, requirement, chosen, by }: Accepted): number[] {
  const { projectId, routines } = of
  return chosen.map(({ row }, at) => {
    const steps = demo.steps?.(row) ?? []
    const content = contentOf({ steps, columns: [], rows: [] }, routines, 'new')
    const made = addCase(
      tx,
      {
        projectId,
        number: takeNumbers(tx, projectId, 'case'),
        position: lastCasePosition(tx, projectId, null) + 1,
        component: requirement.component,
        title: titleBy(demo.pattern ?? '{all}', row, at + 1),
        importance: 'Medium',
        type: 'Functional',
        ownerId: by.personId,
        steps: steps.length,
        estimate: 4 + steps.length,
      },
      { ...by, emptyFingerprint: stampOf(emptyContent) },
    )
    writeContent(tx, { id: made.workingId, caseId: made.id }, content, stampOf(content))
    return made.id
  })
}

function fillChecklist(
  tx: Tx,
  of: TechniquesOf,
  title: string,
  entries: readonly (readonly [text: string, done: boolean])[],
): void {
  const { id: requirementId } = requirementNamed(tx, of, title)
  const ids = addChecklist(
    tx,
    { projectId: of.projectId, requirementId },
    entries.map(([text]) => text),
  )
  for (const [at, [, done]] of entries.entries())
    if (done) saveChecklist(tx, ids[at]!, { doneAt: of.now - 3 * day, doneBy: 'tobin' })
}
