import { expect } from 'chai'
import { importFile, keepMapping } from '#core/formats/contract.ts'
import { listCases } from '#core/cases/contract.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import { shop } from '#test/app.ts'
import { xlsxOf } from '#test/workbooks.ts'
import { inspectFile } from './inspect-file.ts'
import { readFile } from './read-file.ts'

type Table = readonly (readonly string[])[]
const csv = (table: Table): Buffer =>
  Buffer.from(table.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')).join('\n'))
/** Cases as `title: action → expected | …`. */
async function said(table: Table): Promise<string[]> {
  const { read } = await readFile(csv(table))
  expect(read.problems).to.deep.equal([])
  return read.cases.map(
    ({ title, steps }) => `${title}: ${steps.map(({ action, expected }) => `${action} → ${expected}`).join(' | ')}`,
  )
}
const refusalOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => '',
    (error: Error) => error.message,
  )

describe('where a case begins', () => {
  it('is where the step numbers begin again, even if the title repeats', async () => {
    const table = [
      ['Title', 'No', 'Action', 'Expected'],
      ['Pay', '1', 'Open the till', 'It is open'],
      ['Pay', '2', 'Tap the card', 'It is paid'],
      ['Pay', '1', 'Open the till again', 'It is open'],
      ['Pay', '2', 'Pay in cash', 'It is paid'],
    ]
    expect(await said(table)).to.deep.equal([
      'Pay: Open the till → It is open | Tap the card → It is paid',
      'Pay: Open the till again → It is open | Pay in cash → It is paid',
    ])
  })
  it('is where the folder changes', async () => {
    const table = [
      ['Folder', 'Title', 'Action'],
      ['Cash', 'Pay', 'Put it down'],
      ['Cards', 'Pay', 'Tap it'],
      ['Cards', 'Pay', 'Wait'],
    ]
    expect(await said(table)).to.deep.equal(['Pay: Put it down → ', 'Pay: Tap it →  | Wait → '])
  })
  it('is where the id changes', async () => {
    const table = [
      ['Id', 'Title', 'Action'],
      ['A-1', 'Pay', 'Tap it'],
      ['A-2', 'Pay', 'Put it down'],
    ]
    expect(await said(table)).to.deep.equal(['Pay: Tap it → ', 'Pay: Put it down → '])
  })
  it('is not where numbers begin again without a word of another case, and that is told', async () => {
    const { read } = await readFile(
      csv([
        ['Title', 'Step no', 'Action'],
        ['Pay', '1', 'Open'],
        ['', '2', 'Tap'],
        ['', '1', 'Look again'],
      ]),
    )
    expect(read.cases.map(({ steps }) => steps.length)).to.deep.equal([3])
    expect(read.notices).to.deep.include({
      at: 'row 4, column B',
      message: 'begins again without a title; it is read as going on with the case above',
    })
  })
})

describe('a row', () => {
  it('of an expected result alone belongs to the step above', async () => {
    const table = [
      ['Title', 'Action', 'Expected'],
      ['Pay', 'Tap it', ''],
      ['', '', 'It is paid'],
      ['', '', 'A receipt comes'],
      ['', 'Go', 'Done'],
    ]
    expect(await said(table)).to.deep.equal(['Pay: Tap it → It is paid\nA receipt comes | Go → Done'])
  })
  it('that makes no sense is named, not joined silently', async () => {
    const { read } = await readFile(
      csv([
        ['Title', 'Action', 'Component'],
        ['Pay', 'Tap it', 'Till'],
        ['', '', 'Gate'],
      ]),
    )
    expect(read.notices).to.deep.equal([
      { at: 'row 3, column B', message: 'holds nothing of a step; nothing is read from it' },
    ])
  })
  it('with an id that stands above already is named', async () => {
    const { read } = await readFile(
      csv([
        ['Id', 'Title', 'Action'],
        ['A-1', 'Pay', 'Tap'],
        ['A-2', 'Go', 'Walk'],
        ['A-1', 'Come', 'Run'],
      ]),
    )
    expect(read.problems).to.deep.equal([{ at: 'row 4, column A', message: '“A-1” is the id of row 2 already' }])
  })
})

describe('steps in one cell', () => {
  const steps = async (action: string, expected: string) =>
    (
      await said([
        ['Title', 'Steps', 'Expected'],
        ['Pay', action, expected],
        ['Go', '1. a\n2. b', ''],
      ])
    )[0]
  it('are parted by their numbers; a decimal is none, and a line without one goes on', async () => {
    expect(await steps('1. Pay\n2.50 € are asked\n2. Wait', '2. Paid')).to.equal(
      'Pay: Pay\n2.50 € are asked →  | Wait → Paid',
    )
  })
  it('get the result of their number, never another one', async () => {
    expect(await steps('1. Open\n2. Pay\n3. Go', '1. Opened\n3. Gone')).to.equal(
      'Pay: Open → Opened | Pay →  | Go → Gone',
    )
  })
  it('keep what stands above the first number', async () => {
    expect(await steps('At the till:\n1. Open\n2. Pay', '')).to.equal('Pay: At the till:\nOpen →  | Pay → ')
  })
  it('are parted where the line breaks were lost', async () => {
    expect(await steps('1. Open 2. Pay 3) Go', '')).to.equal('Pay: Open →  | Pay →  | Go → ')
  })
  it('are parted by bullets, with as many results beside them or one for all', async () => {
    expect(await steps('- Open\n- Pay', '- Opened\n- Paid')).to.equal('Pay: Open → Opened | Pay → Paid')
    expect(await steps('- Open\n- Pay', '- Opened\n- Paid\n- Printed')).to.equal(
      'Pay: Open →  | Pay → - Opened\n- Paid\n- Printed',
    )
  })
  it('say what is expected after an arrow', async () => {
    expect(await steps('1. Open => Opened\n2. Pay => Paid => Printed', '')).to.equal(
      'Pay: Open → Opened | Pay → Paid => Printed',
    )
  })
  it('name a result that no step asks for', async () => {
    const { read } = await readFile(
      csv([
        ['Title', 'Steps', 'Expected'],
        ['Pay', '1. Open\n2. Pay', '1. Opened\n4. Gone'],
      ]),
    )
    expect(read.cases[0]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
      ['Open', 'Opened'],
      ['Pay', ''],
      ['', 'Gone'],
    ])
    expect(read.notices[0]?.message).to.match(/numbered 4, but no step 4/)
  })
})

describe('columns', () => {
  const columns = async (table: Table) => (await inspectFile(csv(table), {})).columns
  it('of step numbers are never the action, whatever they are called', async () => {
    expect(
      await columns([
        ['Step', 'Test case', 'Description of the step', 'Expected'],
        ['1', 'Pay', 'Open the till', 'Opened'],
        ['2', 'Pay', 'Tap the card', 'Paid'],
        ['1', 'Refund', 'Ask for the money', 'It is there'],
      ]),
    ).to.deep.equal({ A: 'number', B: 'title', C: 'action', D: 'expected' })
  })
  it('are told by what stands in them where no header is known, and that is told', async () => {
    const told = await inspectFile(
      csv([
        ['Oca', 'Ilo', 'Sut', 'Ware'],
        ['Hold a seat', '1', 'Choose a free seat on deck 4', 'The seat is held for 20 minutes'],
        ['', '2', 'Wait for twenty-one minutes', 'The seat is free again'],
        ['Cancel a booking', '1', 'Open the booking and cancel it', 'The booking is cancelled'],
      ]),
      {},
    )
    expect(told.columns).to.deep.equal({ A: 'title', B: 'number', C: 'action', D: 'expected' })
    expect([told.cases, told.steps]).to.deep.equal([2, 3])
    expect(told.notices.map(({ message }) => message)).to.deep.include(
      'is taken for “action” by what stands in it, not by its header “Sut”',
    )
  })
  it('called summary or description serve as the title when nothing better is there', async () => {
    expect(
      await columns([
        ['Description', 'Steps'],
        ['Pay', 'Tap'],
      ]),
    ).to.deep.equal({ A: 'title', B: 'action' })
    expect(
      await columns([
        ['Summary', 'Title', 'Steps'],
        ['It is paid', 'Pay', 'Tap'],
      ]),
    ).to.deep.equal({
      A: 'objective',
      B: 'title',
      C: 'action',
    })
  })
  it('of what happened when somebody executed them are never read as what is expected', async () => {
    const told = await inspectFile(
      csv([
        ['Title', 'Steps', 'Actual result', 'Status'],
        ['Pay', 'Tap', 'It was paid', 'ok'],
      ]),
      {},
    )
    expect(told.columns).to.deep.equal({ A: 'title', B: 'action' })
    expect(told.unread).to.deep.equal([
      { sheet: 'csv', column: 'C', header: 'Actual result', cells: 1, values: ['It was paid'] },
      { sheet: 'csv', column: 'D', header: 'Status', cells: 1, values: ['ok'] },
    ])
  })
  const mapping: Mapping = {
    what: 'cases',
    sheets: null,
    header: 1,
    first: 2,
    columns: { A: 'title', B: 'title' },
    layout: 'a row a step',
    begins: 'title',
  }
  it('that are read as one field, or as one there is not, are refused as such', async () => {
    const file = csv([
      ['A', 'B'],
      ['Pay', 'Go'],
    ])
    expect(await refusalOf(readFile(file, { mapping }))).to.equal(
      'Columns A and B are both read as “title”; read one of them as it.',
    )
    const colour = { ...mapping, columns: { A: 'title', B: 'colour' } }
    expect(await refusalOf(readFile(file, { mapping: colour }))).to.match(/“colour”, which is no field of cases/)
    const gone = { ...mapping, columns: { A: 'title', B: 'custom:Deck' } }
    expect(await refusalOf(readFile(file, { mapping: gone, custom: [] }))).to.match(/“custom:Deck”/)
  })
})

describe('words', () => {
  const table = [
    ['Title', 'Importance', 'Automated?', 'Action'],
    ['A', 'P1', 'ja', 'go'],
    ['B', 'sehr hoch', 'Nein', 'go'],
    ['C', '高', 'はい', 'go'],
    ['D', 'Whatever', 'no', 'go'],
    ['E', 'whatever', 'maybe', 'go'],
  ]
  it('of many languages stand for what is known; others are told, and nothing is refused', async () => {
    const { read } = await readFile(csv(table))
    expect(read.cases.map(({ importance, automation }) => `${importance} ${automation}`)).to.deep.equal([
      'Critical Automated',
      'Critical Manual',
      'High Automated',
      'Medium Manual',
      'Medium Manual',
    ])
    expect(read.problems).to.deep.equal([])
    expect(read.unknown.map(({ field, word, rows, usual }) => [field, word, rows, usual])).to.deep.equal([
      ['importance', 'Whatever', 1, 'Medium'],
      ['importance', 'whatever', 1, 'Medium'],
      ['automation', 'maybe', 1, 'Manual'],
    ])
  })
  it('are mapped one by one, and kept with the mapping', async () => {
    const { mapping } = await readFile(csv(table))
    if (!mapping) throw new Error('no mapping')
    const words = { importance: { Whatever: 'Low' }, automation: { maybe: 'Candidate' } }
    const { read } = await readFile(csv(table), { mapping: { ...mapping, words } })
    expect(read.cases.slice(3).map(({ importance, automation }) => `${importance} ${automation}`)).to.deep.equal([
      'Low Manual',
      'Low Candidate',
    ])
    expect(read.unknown).to.deep.equal([])
  })
})

describe('sheets of different columns', () => {
  const book = () =>
    xlsxOf({
      Fares: [
        ['Title', 'Action', 'Expected'],
        ['Adult', 'Book', '12.50 €'],
      ],
      Boarding: [
        ['Boarding, release 2.4'],
        ['No', 'Importance', 'Case', 'Steps'],
        ['1', 'High', 'Close the list', 'Close it'],
        ['2', 'High', 'Close the list', 'Open it again'],
      ],
    })
  const expected = ['Adult: Book', 'Close the list: Close it, Open it again']
  it('keep their own mapping from the guess over the preview to the import', async () => {
    const of = shop()
    const ask = (dry: 'yes' | 'no', mapping?: unknown) =>
      book().then((file) =>
        of.tester.ask(importFile, {
          query: { what: 'cases', dry, ...(mapping ? { mapping: JSON.stringify(mapping) } : {}) } as never,
          file,
        }),
      )
    const looked = await ask('yes')
    const told = (answer: typeof looked) =>
      answer.preview.map(({ title, steps }) => `${title}: ${steps.map(({ action }) => action).join(', ')}`)
    expect(told(looked)).to.deep.equal(expected)
    expect(Object.keys(looked.mapping?.own ?? {})).to.deep.equal(['Boarding'])
    const done = await ask('no', looked.mapping)
    expect([done.cases, done.steps]).to.deep.equal([2, 3])
    const { rows } = await of.viewer.ask(listCases)
    expect(rows.map(({ title, importance }) => `${title} ${importance}`)).to.have.members([
      'Adult Medium',
      'Close the list High',
    ])
  })
})

describe('a file of nothing', () => {
  it('has no cases, plainly', async () => {
    for (const bytes of [Buffer.from(''), Buffer.from('\n\n'), csv([['Title', 'Action']]), await xlsxOf({ A: [] })])
      expect((await inspectFile(bytes, {})).cases).to.equal(0)
  })
})

describe('a kept mapping', () => {
  it('that was made for such a file is proposed', async () => {
    const of = shop()
    const look = (table: Table) => of.tester.ask(importFile, { query: { what: 'cases' }, file: csv(table) })
    const head = ['Title', 'What', 'Then']
    const first = await look([head, ['Pay', 'Tap', 'Paid']])
    expect(first.fits).to.equal(null)
    const made = { ...first.mapping, columns: { A: 'title', B: 'action', C: 'expected' } } as Mapping
    await of.tester.ask(keepMapping, { body: { name: 'The office', mapping: made } })
    expect((await look([head, ['Go', 'Walk', 'Gone']])).fits).to.equal('The office')
    expect(
      (
        await look([
          ['Title', 'Then', 'What'],
          ['Go', 'Walk', 'Gone'],
        ])
      ).fits,
    ).to.equal(null)
  })
})
