import { expect } from 'chai'
import fc from 'fast-check'
import { plainText } from '#core/lib/plain-text.ts'
import { caseReads, requirementReads } from '../../../test/arbitrary.ts'
import { readMarkdown, writeMarkdownCases, writeMarkdownRequirements } from './markdown.ts'
import type { CaseRead, RequirementRead } from './shapes.ts'

it('reads sections with numbered lists as cases in the folders of the headings above', () => {
  const { cases, problems } = readMarkdown(
    [
      '# Payment',
      '',
      'About money.',
      '',
      '## Pay by card',
      '',
      '- importance: high',
      '- tags: smoke, card',
      '',
      'Finds out whether cards work.',
      '',
      'Before: a place is held',
      '',
      '1. Open the payment => It is shown',
      '2. Pay',
      '   with {card}',
      '   - Paid',
      '   - data: 4711',
      '',
      '```rows',
      'card | fee',
      'blue | 1',
      '```',
      '',
      '## Pay by voucher',
      '1) Choose voucher',
      '',
    ].join('\n'),
  )
  expect(problems).to.deep.equal([])
  expect(cases.map(({ title, folder, importance, tags }) => [title, folder, importance, tags])).to.deep.equal([
    ['Pay by card', ['Payment'], 'High', ['smoke', 'card']],
    ['Pay by voucher', ['Payment'], 'Medium', []],
  ])
  expect(cases[0]?.steps.map(({ action, expected, data }) => [action, expected, data])).to.deep.equal([
    ['Open the payment', 'It is shown', ''],
    ['Pay\nwith {card}', 'Paid', '4711'],
  ])
  expect(cases[0]).to.deep.include({
    objective: 'Finds out whether cards work.',
    preconditions: 'a place is held',
    parameters: ['card', 'fee'],
    rows: [{ card: 'blue', fee: '1' }],
  })
})
it('reads headings with no steps as an outline of requirements', () => {
  const { requirements, cases } = readMarkdown(
    '# Fares\n- risk: 4x5\n\nThe lowest wins.\n\n### Islander\n\n## Group\n```\n# no heading\n```\n',
  )
  expect(cases).to.deep.equal([])
  expect(requirements.map(({ title, parent, likelihood, text }) => [title, parent, likelihood, text])).to.deep.equal([
    ['Fares', null, 4, 'The lowest wins.'],
    ['Islander', 0, null, ''],
    ['Group', 0, null, '```\n# no heading\n```'],
  ])
})
it('names the line of each problem', () => {
  expect(readMarkdown('no heading').problems[0]?.message).to.match(/no heading/)
  expect(readMarkdown('# a\n- risk: high\n').problems).to.deep.equal([
    { at: 'line 2', message: '“high” is no risk; write likelihood × impact such as 4x5' },
  ])
  expect(readMarkdown('# a\n- importance: huge\n- estimate: soon\n1. x').problems.map(({ at }) => at)).to.deep.equal([
    'line 3',
    'line 2',
  ])
})
const plainCaseOf = (each: CaseRead): CaseRead => ({
  ...each,
  title: plainText(each.title),
  objective: plainText(each.objective),
  preconditions: plainText(each.preconditions),
  component: plainText(each.component),
  steps: each.steps.map((step) => ({
    id: null,
    action: plainText(step.action) || 'x',
    expected: plainText(step.expected),
    data: plainText(step.data),
  })),
  custom: {},
})
const plainRequirementOf = (each: RequirementRead): RequirementRead => ({
  ...each,
  title: plainText(each.title),
  text: plainText(each.text),
  component: plainText(each.component),
  reference: plainText(each.reference),
  custom: {},
})
const bare = ({ row: _, ...rest }: { row: number }) => rest
it('gives cases written as Markdown back as they were', () =>
  fc.assert(
    fc.property(caseReads, (written) => {
      const cases = written.map(plainCaseOf).filter(({ objective }) => !/^\d{1,3}[.)]\s|^before:/i.test(objective))
      const text = writeMarkdownCases(cases)
      const again = readMarkdown(text)
      if (cases.length === 0) return
      const key = ({ folder }: CaseRead) => folder.join('\u0000')
      expect(again.problems, text).to.deep.equal([])
      expect(again.cases.map(bare), text).to.deep.equal(
        [...cases].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0)).map(bare),
      )
    }),
    { numRuns: 400 },
  ))
it('gives requirements written as Markdown back as they were', () =>
  fc.assert(
    fc.property(requirementReads, (written) => {
      const requirements = written.map(plainRequirementOf)
      if (requirements.length === 0) return
      const { text } = writeMarkdownRequirements(requirements)
      const again = readMarkdown(text)
      expect(again.problems, text).to.deep.equal([])
      const byId = (all: readonly RequirementRead[]) =>
        new Map(
          all.map((each) => [
            each.id,
            { ...bare(each), parent: typeof each.parent === 'number' ? all[each.parent]?.id : null },
          ]),
        )
      expect([...byId(again.requirements)].sort(), text).to.deep.equal([...byId(requirements)].sort())
    }),
    { numRuns: 400 },
  ))
