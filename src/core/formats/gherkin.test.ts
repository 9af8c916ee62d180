import { expect } from 'chai'
import fc from 'fast-check'
import { escapeText, plainText, richText } from '#core/lib/plain-text.ts'
import { caseReads, lineText } from '../../../test/arbitrary.ts'
import { looksLikeFeature, readGherkin, writeGherkin } from './gherkin.ts'
import type { CaseRead } from './shapes.ts'

const feature = `@booking
Feature: Holding a place
  Background:
    Given the clerk is signed in

  Rule: Twenty minutes
    Background:
      Given a sailing with places
        | sailing | places |
        | 09:40   | 3      |

    @hold @slow
    Scenario: A place is held
      The clock decides.
      Given a passenger
      When a place is held
        """
        name=Ada
        """
      Then the place is shown as held
      And the clock runs

    Scenario Outline: <who> pays <fare>
      When <who> pays
      Then <fare> is taken
      Examples:
        | who   | fare |
        | child | 4    |
        | adult | 9    |
      Examples: more
        | who    | fare |
        | senior | 5    |
`
it('reads scenarios as cases, outlines with rows, backgrounds as preconditions', () => {
  const { cases, problems } = readGherkin(feature)
  expect(problems).to.deep.equal([])
  expect(
    cases.map(({ title, folder, tags, steps, rows }) => [title, folder, tags, steps.length, rows.length]),
  ).to.deep.equal([
    ['A place is held', ['Holding a place', 'Twenty minutes'], ['booking', 'hold', 'slow'], 4, 0],
    ['{who} pays {fare}', ['Holding a place', 'Twenty minutes'], ['booking'], 2, 3],
  ])
  expect(cases[0]?.preconditions).to.equal(
    'Given the clerk is signed in\nGiven a sailing with places\n| sailing | places |\n| 09:40 | 3 |',
  )
  expect(cases[0]?.objective).to.equal('The clock decides.')
  expect(cases[0]?.steps.map(({ action, expected, data }) => [action, expected, data])).to.deep.equal([
    ['Given a passenger', '', ''],
    ['a place is held', '', 'name=Ada'],
    ['', 'the place is shown as held', ''],
    ['', 'the clock runs', ''],
  ])
  expect(cases[1]).to.deep.include({
    parameters: ['who', 'fare'],
    rows: [
      { who: 'child', fare: '4' },
      { who: 'adult', fare: '9' },
      { who: 'senior', fare: '5' },
    ],
  })
})
it('reads other languages of the grammar', () => {
  const { cases } = readGherkin(
    '# language: de\nFunktionalität: Fähre\n  Szenario: Halten\n    Angenommen ein Platz\n    Wenn er gehalten wird\n    Dann läuft die Uhr\n    Und sie zeigt 20\n',
  )
  expect(cases[0]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
    ['Angenommen ein Platz', ''],
    ['er gehalten wird', ''],
    ['', 'läuft die Uhr'],
    ['', 'sie zeigt 20'],
  ])
  const japanese = readGherkin(
    '# language: ja\n機能: 予約\n  シナリオ: 確保\n    もし席を確保する\n    ならば表示される\n',
  )
  expect(japanese.cases[0]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
    ['席を確保する', ''],
    ['', '表示される'],
  ])
})
it('names the line of what it cannot read', () => {
  expect(readGherkin('Feature: a\n  Scenario: b\n    When x\n    Wenn y\n').problems).to.deep.equal([
    { at: 'line 4', message: '“Wenn y” is not expected here' },
  ])
  expect(readGherkin('').problems[0]?.message).to.match(/no feature/)
  expect(readGherkin('# language: xx\nFeature: a').problems[0]?.at).to.equal('line 1')
  expect(
    readGherkin('Feature: a\n Scenario Outline: b\n  When <x-1>\n  Examples:\n   | x-1 | 2nd! |\n   | 1 | |\n').cases[0]
      ?.parameters,
  ).to.deep.equal(['x-1', 'nd_'])
})
/** What the format holds: see docs/formats.md. */
const held = (each: CaseRead): CaseRead => ({
  ...each,
  type: '',
  component: '',
  estimate: null,
  owner: '',
  automation: 'Manual',
  custom: {},
  objective: '',
  tags: each.tags,
})
const bare = ({ row: _, requirements, tags, ...rest }: CaseRead) => ({
  ...rest,
  requirements: [...requirements].sort(),
  tags: [...tags].sort(),
})
it('gives cases written as a feature back as they were', () =>
  fc.assert(
    fc.property(caseReads, (written) => {
      const cases = written.map(held).map((each) => ({
        ...each,
        title: plainText(each.title),
        preconditions: plainText(each.preconditions),
        steps: each.steps.map((step) => ({
          ...step,
          action: plainText(step.action) || 'x',
          expected: plainText(step.expected),
        })),
      }))
      const { text } = writeGherkin(cases, 'FERRY')
      const again = readGherkin(text)
      expect(again.problems, text).to.deep.equal([])
      const byFolder = [...cases].sort((a, b) =>
        a.folder.join(' / ') < b.folder.join(' / ') ? -1 : a.folder.join(' / ') > b.folder.join(' / ') ? 1 : 0,
      )
      expect(again.cases.map(bare), text).to.deep.equal(byFolder.map(bare))
    }),
    { numRuns: 300 },
  ))
it('names what it leaves out', () =>
  fc.assert(
    fc.property(caseReads, (cases) => {
      const { left } = writeGherkin(cases, 'FERRY')
      expect(
        left.some((each) => each.startsWith('owner')),
        left.join(),
      ).to.equal(cases.some(({ owner }) => owner !== ''))
      expect(left.some((each) => each.startsWith('own fields'))).to.equal(
        cases.some(({ custom }) => custom['Deck'] !== ''),
      )
    }),
  ))
it('keeps plain text through rich text and back', () =>
  fc.assert(
    fc.property(lineText, fc.array(lineText.filter((line) => line !== '')), (line, lines) => {
      expect(plainText(escapeText(line))).to.equal(line)
      expect(plainText(richText(lines.join('\n')))).to.equal(lines.join('\n'))
    }),
    { numRuns: 500 },
  ))

describe('a feature in Markdown dress', () => {
  const dressed = `# Feature: Booking

Some words.

## Rule: Money

### Scenario:   Pay   by card

* Given a card
* When I tap   it
* Then it is paid

### Scenario Outline: Ages

* When <age> pays

#### Examples:

  | age |
  | --- |
  | 7 |
`
  it('is read as the feature it is', () => {
    const { cases, problems } = readGherkin(dressed)
    expect(problems).to.deep.equal([])
    expect(cases.map(({ title, folder, rows }) => [title, folder, rows])).to.deep.equal([
      ['Pay by card', ['Booking', 'Money'], []],
      ['Ages', ['Booking', 'Money'], [{ age: '7' }]],
    ])
    expect(cases[0]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
      ['Given a card', ''],
      ['I tap it', ''],
      ['', 'it is paid'],
    ])
  })
  it('is read in other languages', () => {
    const { cases, problems } = readGherkin('# Funktionalität: Buchen\n\n## Szenario: Zahlen\n\n* Wenn ich zahle\n')
    expect([problems, cases.map(({ title, steps }) => [title, steps[0]?.action])]).to.deep.equal([
      [],
      [['Zahlen', 'ich zahle']],
    ])
  })
})

describe('a file without a feature', () => {
  it('is refused with its line', () => {
    expect(readGherkin('# a remark\n\nScenario: Pay\n  When I pay\n').problems).to.deep.equal([
      {
        at: 'line 3',
        message: '“Scenario: Pay” stands before any feature; the file begins with a line such as “Feature: Booking”',
      },
    ])
    expect(readGherkin('').problems[0]?.message).to.match(/there is no feature/)
  })
  it('is told from a list or a sheet by scenarios with steps', () => {
    expect(looksLikeFeature('Scenario: Pay\n  Given a card\n')).to.equal(true)
    expect(looksLikeFeature('Szenario: Zahlen\n  Wenn ich zahle\n')).to.equal(true)
    expect(looksLikeFeature('## Scenario: Pay\n\n* Given a card\n')).to.equal(true)
    expect(looksLikeFeature('# Pay\n\n1. Given a card\n')).to.equal(false)
    expect(looksLikeFeature('Example: a list\nof words\n')).to.equal(false)
  })
})

it('never lets a sentence sprawl', () => {
  const { cases } = readGherkin('Feature: A\n  Scenario: Pay    in\t\tcash\n    When   I     pay   with a   card\n')
  expect([cases[0]?.title, cases[0]?.steps[0]?.action]).to.deep.equal(['Pay in cash', 'I pay with a card'])
})
