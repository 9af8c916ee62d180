import { expect } from 'chai'
import type { VersionContent } from '#core/cases/steps.ts'
import { caseChanges, contentAfter, plainCaseOf, requirementChanges } from './plan-import.ts'
import { plainCase, plainRequirement } from './shapes.ts'

const step = (id: number | null, action: string, expected = '') => ({ id, action, expected, data: '' })
const stored = {
  ...plainCase,
  row: 0,
  id: 'TC-1',
  title: 'Pay by card',
  objective: '<p>Is it <b>paid</b>?</p>',
  preconditions: '<p>A held place</p>',
  owner: 'Mira Kell',
  tags: ['money', 'smoke'],
  requirements: ['RQ-4'],
  steps: [step(1, '<p>Tap <b>Pay</b></p>', 'Paid'), step(2, 'Look', 'One charge')],
  custom: { Vessel: 'Ove' },
}
const read = { ...plainCaseOf(stored), steps: [step(null, 'Tap Pay', 'Paid'), step(null, 'Look', 'One charge')] }
const all = [
  'title',
  'objective',
  'preconditions',
  'owner',
  'tags',
  'action',
  'expected',
  'requirement',
  'custom:Vessel',
]

describe('what a file would change of a case', () => {
  it('is nothing where it says the same, whatever the marks, the order of tags and the letters of names', () => {
    const same = { ...read, tags: ['smoke', 'money'], owner: 'mira kell' }
    expect(caseChanges(same, stored, all)).to.deep.equal([])
  })
  it('is told by the fields that differ', () => {
    const other = { ...read, title: 'Pay by voucher', custom: { Vessel: 'Skerrin Star' } }
    expect(caseChanges(other, stored, all)).to.deep.equal(['title', 'custom:Vessel'])
    const steps = [step(null, 'Tap Pay', 'Refused'), step(null, 'Look', 'One charge')]
    expect(caseChanges({ ...read, steps }, stored, all)).to.deep.equal(['steps'])
  })
  it('is not looked for in fields the file does not name', () => {
    expect(caseChanges({ ...read, title: 'Other' }, stored, ['objective'])).to.deep.equal([])
    const steps = [step(null, 'Tap Pay', 'Refused'), step(null, 'Look', '')]
    expect(caseChanges({ ...read, steps }, stored, ['action'])).to.deep.equal([])
  })
  it('never takes a link away, and adds the new ones', () => {
    expect(caseChanges({ ...read, requirements: [] }, stored, ['requirement'])).to.deep.equal([])
    expect(caseChanges({ ...read, requirements: ['rq-4'] }, stored, ['requirement'])).to.deep.equal([])
    expect(caseChanges({ ...read, requirements: ['RQ-4', 'RQ-5'] }, stored, ['requirement'])).to.deep.equal([
      'requirement',
    ])
  })
  it('does not count empty values of data rows', () => {
    const rows = [{ card: '4000', kind: '' }]
    expect(caseChanges({ ...read, rows }, { ...stored, rows: [{ card: '4000' }] }, ['rows'])).to.deep.equal([])
  })
})

describe('what a file would change of a requirement', () => {
  const requirement = {
    ...plainRequirement,
    row: 0,
    id: 'RQ-4',
    title: 'Hold',
    text: '<p>A place is held.</p>',
    likelihood: 2,
  }
  const of = { rich: false, parents: ['RQ-1', 'RQ-1'] as [string, string] }
  it('compares words with words where the file has no marks', () => {
    const plain = { ...requirement, text: 'A place is held.' }
    expect(requirementChanges(plain, requirement, ['text', 'title'], of)).to.deep.equal([])
    expect(requirementChanges({ ...plain, text: 'A seat is held.' }, requirement, ['text'], of)).to.deep.equal(['text'])
  })
  it('tells another parent by its key', () => {
    expect(
      requirementChanges({ ...requirement }, requirement, ['parent'], { ...of, parents: ['RQ-2', 'RQ-1'] }),
    ).to.deep.equal(['parent'])
  })
  it('tells risk by both of its grades', () => {
    const riskier = { ...requirement, likelihood: 3 }
    expect(requirementChanges(riskier, requirement, ['risk', 'likelihood', 'impact'], of)).to.deep.equal([
      'risk',
      'likelihood',
    ])
  })
})

describe('what a case says after an import', () => {
  const content: VersionContent = {
    preconditions: stored.preconditions,
    steps: stored.steps,
    parameters: [],
    rows: [],
    environment: 'Chromium, desk',
  }
  it('keeps steps that are alike, and the marks of texts that say the same', () => {
    const after = contentAfter(read, content, ['action', 'expected', 'preconditions'])
    expect(after.steps).to.deep.equal(stored.steps)
    expect(after.preconditions).to.equal(stored.preconditions)
  })
  it('keeps what the file does not name', () => {
    const after = contentAfter({ ...read, steps: [step(null, 'Tap Pay'), step(null, 'Wait')] }, content, ['action'])
    expect(after.steps.map(({ id, action, expected }) => [id, action, expected])).to.deep.equal([
      [1, '<p>Tap <b>Pay</b></p>', 'Paid'],
      [after.steps[1]!.id, 'Wait', after.steps[1]!.id === 2 ? 'One charge' : ''],
    ])
    expect(after.environment).to.equal('Chromium, desk')
  })
  it('writes new texts so that none is read as a mark', () => {
    const after = contentAfter({ ...read, steps: [step(null, 'Type 2 < 3', 'a & b')] }, null, [])
    expect(after.steps).to.deep.equal([step(null, 'Type 2 &lt; 3', 'a &amp; b')])
  })
  it('has the parameters its texts name and its rows give values for', () => {
    const named = {
      ...read,
      steps: [step(null, 'Pay with {card}')],
      rows: [{ card: '4000', kind: 'accepted', note: '' }],
    }
    expect(contentAfter(named, null, []).parameters).to.deep.equal(['card', 'kind'])
  })
})
