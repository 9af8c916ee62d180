import type { DraftInput } from '#core/techniques/draft.ts'
import type { DraftRow } from '#core/techniques/draft-row.ts'
import type { WrittenCase } from './basis/read-basis.ts'
import { comboSteps, fareSteps, pathSteps } from './technique-steps.ts'

/** A model at the drafting table, and what became of what it proposes. */
export interface DemoModel {
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

export const models: readonly DemoModel[] = [
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
