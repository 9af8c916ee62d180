import type { Random } from '#core/lib/random.ts'
import type { Tx } from '#db/open.ts'
import { addRelation, keepMapping } from '#db/formats/imports.ts'
import { basis } from './basis/all.ts'
import { addCustomField, setTags, setValues } from '#db/projects/fields.ts'

interface FieldsOf {
  readonly cases: readonly { id: number; title: string }[]
  readonly requirements: ReadonlyMap<string, number>
  readonly people: readonly string[]
  readonly random: Random
  readonly now: number
}

/** Fields and tags that the people of Crossing Desk gave their requirements and cases. */
export function fillFields(tx: Tx, projectId: number, of: FieldsOf): void {
  const fields = defineFields(tx, projectId)
  fillCases(tx, projectId, of, fields)
  fillRequirements(tx, projectId, of, fields)
  tieRequirements(tx, projectId, of)
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

function defineFields(tx: Tx, projectId: number) {
  const plain = { required: false, choices: [], types: [] }
  return {
    vessel: addCustomField(tx, projectId, {
      ...plain,
      owner: 'case',
      name: 'Vessel',
      kind: 'multi-choice',
      choices: ['Tarnsey Maid', 'Skerrin Star', 'Ove'],
    }),
    tide: addCustomField(tx, projectId, {
      ...plain,
      owner: 'case',
      name: 'Needs a tide',
      kind: 'choice',
      choices: ['high', 'low', 'any'],
      types: ['Functional'],
    }),
    agreed: addCustomField(tx, projectId, { ...plain, owner: 'requirement', name: 'Agreed with', kind: 'person' }),
    since: addCustomField(tx, projectId, { ...plain, owner: 'requirement', name: 'In force since', kind: 'date' }),
    risk: addCustomField(tx, projectId, { ...plain, owner: 'requirement', name: 'Why this risk', kind: 'text' }),
  }
}
type Fields = ReturnType<typeof defineFields>

const words: readonly (readonly [RegExp, string])[] = [
  [/pay|voucher|refund|fare/i, 'money'],
  [/hold|book|sailing/i, 'booking'],
  [/deck|vehicle|length|height/i, 'deck'],
  [/language|screen|keyboard/i, 'access'],
  [/cancel|weather/i, 'weather'],
]
const tagsFor = (title: string): string[] => words.filter(([pattern]) => pattern.test(title)).map(([, tag]) => tag)

function fillCases(tx: Tx, projectId: number, { cases, random }: FieldsOf, { vessel, tide }: Fields): void {
  for (const { id, title } of cases) {
    const tags = [...tagsFor(title), ...(random() < 0.18 ? ['smoke'] : [])]
    if (tags.length > 0) setTags(tx, projectId, 'case', id, tags)
    if (random() < 0.4) {
      const vessels = random() < 0.5 ? ['Tarnsey Maid'] : ['Skerrin Star', 'Ove']
      setValues(tx, { id: vessel, kind: 'multi-choice' }, id, vessels)
    }
    if (random() < 0.15) setValues(tx, { id: tide, kind: 'choice' }, id, [random() < 0.5 ? 'high' : 'low'])
  }
}

function fillRequirements(tx: Tx, projectId: number, of: FieldsOf, { agreed, since, risk }: Fields): void {
  const { requirements, people, random } = of
  for (const [title, id] of requirements) {
    const tags = tagsFor(title)
    if (tags.length > 0) setTags(tx, projectId, 'requirement', id, tags)
    if (random() < 0.5)
      setValues(tx, { id: agreed, kind: 'person' }, id, [people[Math.floor(random() * people.length)] ?? ''])
    const why = basis.requirements.find((each) => each.title === title)?.risk ?? ''
    if (why !== '') setValues(tx, { id: risk, kind: 'text' }, id, [why])
    if (random() < 0.3) setValues(tx, { id: since, kind: 'date' }, id, ['2026-04-01'])
  }
}

const ties: readonly (readonly [from: string, to: string, kind: string])[] = [
  ['Vouchers, in whole or part', 'Pets and bicycles on board', 'refers to'],
]

function tieRequirements(tx: Tx, projectId: number, { requirements, now }: FieldsOf): void {
  const named = (title: string): number => requirements.get(title) ?? 0
  for (const [from, to, kind] of ties)
    if (named(from) > 0 && named(to) > 0)
      addRelation(tx, { projectId, fromId: named(from), toId: named(to), kind, now })
}
