import fc from 'fast-check'
import { parametersIn } from '#core/cases/steps.ts'
import { plainCase, plainRequirement, type CaseRead, type RequirementRead } from '#core/formats/shapes.ts'

const trimmed = (text: string): string =>
  text
    .replace(
      /[\u0000-\u001f\u007f-\u009f\u00a0\u1680\u2000-\u200b\u2028-\u202f\u205f\u3000\ufeff\ufffe\uffff]|[\ud800-\udfff]/g,
      '',
    )
    .trim()
    .replace(/\s+/g, ' ')
/** One line with letters of many scripts and marks that formats are written with. */
export const lineText = fc
  .oneof(
    { weight: 3, arbitrary: fc.string({ maxLength: 20 }) },
    { weight: 1, arbitrary: fc.string({ unit: 'grapheme', maxLength: 12 }) },
    {
      weight: 2,
      arbitrary: fc.constantFrom(
        'Pay with {card}',
        '| a | b |',
        '# one',
        '<b>&amp;</b>',
        '=1+1',
        '"quoted", said',
        '1. first',
        '* star',
        'Given a place',
        "it's",
        '{a b}',
      ),
    },
  )
  .map(trimmed)
const filled = lineText.filter((text) => text !== '')
const title = fc.tuple(filled, fc.nat(1e6)).map(([text, n]) => `${text} ${n}`)
const name = fc.constantFrom('Money', 'Deck plan', 'Ålesund', 'pets')
const step = fc.record({ id: fc.constant(null), action: filled, expected: lineText, data: lineText })

/** Cases of every field a file of any format may carry, with titles of their own. */
export const caseReads: fc.Arbitrary<CaseRead[]> = fc
  .uniqueArray(
    fc.record({
      title,
      id: fc.constant(''),
      objective: lineText,
      preconditions: lineText,
      importance: fc.constantFrom('Critical', 'High', 'Medium', 'Low'),
      type: fc.constantFrom('', 'Functional', 'Load'),
      component: lineText,
      folder: fc.array(name, { maxLength: 3 }),
      requirements: fc.uniqueArray(fc.constantFrom('RQ-1', 'RQ-20'), { maxLength: 2 }),
      estimate: fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 900 })),
      owner: fc.constantFrom('', 'Mira Kell'),
      automation: fc.constantFrom('Manual', 'Candidate', 'Automated'),
      tags: fc.uniqueArray(fc.constantFrom('smoke', 'night-boat', 'é'), { maxLength: 3 }),
      custom: fc.record({ Deck: lineText }),
      steps: fc.array(step, { maxLength: 4 }),
      rows: fc.array(fc.record({ card: lineText, speed: lineText }), { maxLength: 3 }),
    }),
    { maxLength: 5, selector: (each) => each.title },
  )
  .map((all) =>
    all.map((each, index): CaseRead => ({
      ...plainCase,
      ...each,
      id: `X-${index}`,
      row: index + 1,
      parameters: [...new Set([...parametersIn(each), ...(each.rows.length > 0 ? ['card', 'speed'] : [])])],
    })),
  )
  .map((all) =>
    all.map((each) => ({
      ...each,
      rows: each.rows.map((row) =>
        Object.fromEntries(
          each.parameters.map((parameter) => [parameter, (row as Readonly<Record<string, string>>)[parameter] ?? '']),
        ),
      ),
    })),
  )

/** Requirements in an outline in which parents stand before their children. */
export const requirementReads: fc.Arbitrary<RequirementRead[]> = fc
  .uniqueArray(
    fc.record({
      title,
      text: lineText,
      priority: fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 5 })),
      grades: fc.oneof(fc.constant(null), fc.tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }))),
      release: fc.constantFrom('', '2.4'),
      reference: lineText,
      kind: fc.constantFrom('Function', 'Rule', 'Quality'),
      component: lineText,
      state: fc.constantFrom('Draft', 'Agreed', 'Done', 'Dropped'),
      owner: fc.constantFrom('', 'Mira Kell'),
      tags: fc.uniqueArray(fc.constantFrom('smoke', 'é'), { maxLength: 2 }),
      custom: fc.record({ Deck: lineText }),
      under: fc.nat(20),
    }),
    { maxLength: 6, selector: (each) => each.title },
  )
  .map((all) =>
    all.map(({ grades, under, ...each }, index): RequirementRead => ({
      ...plainRequirement,
      ...each,
      row: index + 1,
      id: `R-${index}`,
      parent: index === 0 || under % 3 === 0 ? null : under % index,
      likelihood: grades?.[0] ?? null,
      impact: grades?.[1] ?? null,
    })),
  )
