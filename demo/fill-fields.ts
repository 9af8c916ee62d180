import type { Random } from '#core/lib/random.ts'
import type { Tx } from '#db/open.ts'
import { addRelation, keepMapping } from '#db/formats/imports.ts'
import { addCustomField, setTags, setValues } from '#db/projects/fields.ts'

/** Fields and tags that the people of Crossing Desk gave their requirements and cases. */
export function fillFields(
  tx: Tx,
  projectId: number,
  of: {
    readonly cases: readonly { id: number; title: string }[]
    readonly requirements: readonly { id: number; title: string }[]
    readonly people: readonly string[]
    readonly random: Random
    readonly now: number
  },
): void {
  const vessel = addCustomField(tx, projectId, {
    owner: 'case',
    name: 'Vessel',
    kind: 'multi-choice',
    required: false,
    choices: ['Tarnsey Maid', 'Skerrin Star', 'Ove'],
    types: [],
  })
  const cabin = addCustomField(tx, projectId, {
    owner: 'case',
    name: 'Needs a tide',
    kind: 'choice',
    required: false,
    choices: ['high', 'low', 'any'],
    types: ['Functional'],
  })
  const source = addCustomField(tx, projectId, {
    owner: 'requirement',
    name: 'Agreed with',
    kind: 'person',
    required: false,
    choices: [],
    types: [],
  })
  const since = addCustomField(tx, projectId, {
    owner: 'requirement',
    name: 'In force since',
    kind: 'date',
    required: false,
    choices: [],
    types: [],
  })
  const { random } = of
  const words: readonly (readonly [RegExp, string])[] = [
    [/pay|voucher|refund|fare/i, 'money'],
    [/hold|book|sailing/i, 'booking'],
    [/deck|vehicle|length|height/i, 'deck'],
    [/language|screen|keyboard/i, 'access'],
    [/cancel|weather/i, 'weather'],
  ]
  for (const { id, title } of of.cases) {
    const tags = [
      ...words.filter(([pattern]) => pattern.test(title)).map(([, tag]) => tag),
      ...(random() < 0.18 ? ['smoke'] : []),
    ]
    if (tags.length > 0) setTags(tx, projectId, 'case', id, tags)
    if (random() < 0.4)
      setValues(
        tx,
        { id: vessel, kind: 'multi-choice' },
        id,
        random() < 0.5 ? ['Tarnsey Maid'] : ['Skerrin Star', 'Ove'],
      )
    if (random() < 0.15) setValues(tx, { id: cabin, kind: 'choice' }, id, [random() < 0.5 ? 'high' : 'low'])
  }
  for (const { id, title } of of.requirements) {
    const tags = words.filter(([pattern]) => pattern.test(title)).map(([, tag]) => tag)
    if (tags.length > 0) setTags(tx, projectId, 'requirement', id, tags)
    if (random() < 0.5)
      setValues(tx, { id: source, kind: 'person' }, id, [of.people[Math.floor(random() * of.people.length)] ?? ''])
    if (random() < 0.3) setValues(tx, { id: since, kind: 'date' }, id, ['2026-04-01'])
  }
  const named = (title: string): number => of.requirements.find((each) => each.title === title)?.id ?? 0
  const ties: readonly (readonly [string, string, string])[] = [
    ['Vouchers, in whole or part', 'Pets and bicycles on board', 'refers to'],
  ]
  for (const [from, to, kind] of ties)
    if (named(from) > 0 && named(to) > 0)
      addRelation(tx, { projectId, fromId: named(from), toId: named(to), kind, now: of.now })
  keepMapping(tx, {
    projectId,
    name: 'Harbour office list',
    personId: 'ansa',
    at: of.now,
    mapping: JSON.stringify({
      what: 'cases',
      sheets: null,
      header: 2,
      first: 3,
      columns: { A: 'id', B: 'title', C: 'action', D: 'expected', F: 'importance' },
      layout: 'a row a step',
      begins: 'id',
    }),
  })
}
