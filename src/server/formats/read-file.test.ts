import { expect } from 'chai'
import fc from 'fast-check'
import { strToU8, zipSync } from 'fflate'
import { caseTable, requirementTable } from '#core/formats/write-sheet.ts'
import { writeReqif } from '#core/formats/reqif.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { caseReads, lineText, requirementReads } from '../../../test/arbitrary.ts'
import { odsOf, rezipped, xlsxOf } from '../../../test/workbooks.ts'
import { csvText } from '#server/http/csv-text.ts'
import { csvRows, separatorOf } from './read-csv.ts'
import { formatOf, readFile } from './read-file.ts'
import { lettersOf, readOds, readXlsx } from './read-workbook.ts'
import { readZip } from './zip.ts'

const table = fc.array(fc.array(lineText, { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 8 })
/** Rows as they come back: nothing is kept of what is empty at the end. */
const filled = (rows: readonly { readonly line: number; readonly cells: readonly string[] }[]) =>
  rows
    .map(({ line, cells }) => ({ line, cells: [...cells].slice(0, cells.findLastIndex((cell) => cell !== '') + 1) }))
    .filter(({ cells }) => cells.length > 0)
const expected = (rows: readonly (readonly string[])[]) =>
  filled(rows.map((cells, index) => ({ line: index + 1, cells })))
const refusedOr = async (work: () => Promise<unknown>): Promise<string | null> => {
  try {
    await work()
    return null
  } catch (error) {
    if (error instanceof Refusal) return error.sentence
    throw error
  }
}

it('reads every cell of a workbook where it stands', () =>
  fc.assert(
    fc.asyncProperty(table, async (rows) => {
      const { sheets } = await readXlsx(await xlsxOf({ One: rows, Two: [['x']] }))
      expect(sheets.map(({ name }) => name)).to.deep.equal(['One', 'Two'])
      expect(filled(sheets[0]?.rows ?? [])).to.deep.equal(expected(rows))
    }),
    { numRuns: 40 },
  ))
it('cuts a part into pieces never within a letter', () =>
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), fc.integer({ min: 1, max: 9 }), (text, size) => {
      const part = Buffer.from(text)
      expect([...lettersOf(part, size)].join('')).to.equal(part.toString('utf8'))
    }),
  ))
it('keeps every letter of a large sheet, and every sheet of a workbook that has many', async () => {
  const rows = Array.from({ length: 3000 }, (_, line) => [`Überfähre ${line} — ꦞ ➏ ${'ñ'.repeat(line % 50)}`])
  const names = Array.from({ length: 40 }, (_, at) => `Deck ${at + 1}`)
  const { sheets } = await readXlsx(
    await xlsxOf({ Crossings: rows, ...Object.fromEntries(names.map((name) => [name, [[name]]])) }),
  )
  expect(sheets.map(({ name }) => name)).to.deep.equal(['Crossings', ...names])
  expect(sheets[0]?.rows.map(({ cells }) => cells)).to.deep.equal(rows)
  expect(sheets.slice(1).map(({ rows: [row] }) => row?.cells)).to.deep.equal(names.map((name) => [name]))
})
it('reads sheets in the order of their tabs, whatever their parts are called', async () => {
  const bytes = await xlsxOf({ First: [['1']], Second: [['2']] })
  const { sheets } = await readXlsx(
    rezipped(bytes, {
      'xl/worksheets/sheet1.xml': (text) => ['xl/worksheets/cabin.xml', text],
      'xl/_rels/workbook.xml.rels': (text, name) => [
        name,
        text.replace('"worksheets/sheet1.xml"', '"/xl/worksheets/cabin.xml"'),
      ],
      'xl/workbook.xml': (text, name) => [name, text.replace(/(<sheets>)(<sheet [^>]*>)(<sheet [^>]*>)/, '$1$3$2')],
    }),
  )
  expect(sheets.map(({ name, rows }) => [name, rows[0]?.cells[0]])).to.deep.equal([
    ['Second', '2'],
    ['First', '1'],
  ])
})
it('reads every cell of an OpenDocument workbook where it stands', () =>
  fc.assert(
    fc.asyncProperty(table, async (rows) => {
      const { sheets } = await readOds(odsOf('One', rows))
      expect(filled(sheets[0]?.rows ?? [])).to.deep.equal(expected(rows))
    }),
    { numRuns: 100 },
  ))
it('reads every cell of separated values where it stands, whatever the separator, formulas included', () =>
  fc.assert(
    fc.property(table, fc.constantFrom(',', ';', '\t', '|'), (rows, separator) => {
      const width = Math.max(...rows.map((cells) => cells.length))
      const even = rows.map((cells) => Array.from({ length: width }, (_, index) => cells[index] ?? ''))
      const quoted = even
        .map((cells) =>
          cells
            .map((cell) => `"${(/^[=+\-@\t\r']/.test(cell) ? `'${cell}` : cell).replaceAll('"', '""')}"`)
            .join(separator),
        )
        .join('\n')
      // A file of empty cells only holds no row.
      expect(filled(csvRows(quoted, separator)).map(({ cells }) => cells)).to.deep.equal(
        expected(even).map(({ cells }) => cells),
      )
    }),
    { numRuns: 300 },
  ))
it('finds the separator that the first lines agree on', () => {
  expect([
    separatorOf('a,b\n1,2'),
    separatorOf('a;b\n"1,5";2'),
    separatorOf('a\tb, c\n1\t2'),
    separatorOf('one'),
    separatorOf('a|b|c\n1|2|3'),
  ]).to.deep.equal([',', ';', '\t', ',', '|'])
})
it('reads the same cases from a workbook, an OpenDocument workbook and separated values', () =>
  fc.assert(
    fc.asyncProperty(
      caseReads.filter((cases) => cases.length > 0),
      async (cases) => {
        const rows = caseTable(cases, ['Deck'])
        const options = { custom: ['Deck'] }
        const [xlsx, ods, csv] = [
          await readFile(await xlsxOf({ Cases: rows }), options),
          await readFile(odsOf('Cases', rows), options),
          await readFile(Buffer.from(csvText(rows)), options),
        ]
        expect([xlsx.format, ods.format, csv.format]).to.deep.equal(['xlsx', 'ods', 'csv'])
        expect(ods.read.cases).to.deep.equal(xlsx.read.cases)
        // A line break within a cell makes the lines of a text file more than its rows.
        expect(csv.read.cases.map(({ row: _, ...rest }) => rest)).to.deep.equal(
          cases.map(({ row: _, ...rest }) => rest),
        )
      },
    ),
    { numRuns: 25 },
  ))
it('tells formats by what is in them', async () => {
  const told = async (bytes: Buffer | string) => formatOf(Buffer.from(bytes))
  expect(await told(await xlsxOf({ A: [['x']] }))).to.equal('xlsx')
  expect(await told(odsOf('A', [['x']]))).to.equal('ods')
  expect(await told(Buffer.from(zipSync({ 'a/b.reqif': strToU8('<REQ-IF/>') })))).to.equal('reqif')
  expect(await told('\ufeff<?xml version="1.0"?><REQ-IF/>')).to.equal('reqif')
  expect(await told('# language: no\nEgenskap: ferge\n')).to.equal('gherkin')
  expect(await told('# Fares\n\ntext')).to.equal('markdown')
  expect(await told('title,text\na,b')).to.equal('csv')
})
it('answers any damaged file with a sentence and never with anything else', async function () {
  const rows = [
    ['Case', 'Action', 'Expected'],
    ['Pay', 'Open "it"', '1'],
    ['', 'Pay; then wait', '2'],
  ]
  const sound: readonly (readonly [string, Buffer])[] = [
    ['xlsx', await xlsxOf({ Cases: rows })],
    ['ods', odsOf('Cases', rows)],
    ['csv', Buffer.from(csvText(rows))],
    [
      'reqif',
      Buffer.from(
        writeReqif(fc.sample(requirementReads, { numRuns: 1, seed: 4 })[0] ?? [], [], {
          title: 'x',
          at: '2026-11-23T00:00:00Z',
        }),
      ),
    ],
    ['gherkin', Buffer.from('Feature: a\n  Scenario: b\n    Given c\n      | d | e |\n    Then f\n')],
    ['markdown', Buffer.from('# A\n## B\n1. Open\n   - expected: yes\n')],
  ]
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...sound),
      fc.array(fc.record({ at: fc.nat(1_000_000), to: fc.nat(255) }), { maxLength: 6 }),
      fc.option(fc.nat(1_000_000)),
      async ([, bytes], edits, cut) => {
        const damaged = Buffer.from(cut === null ? bytes : bytes.subarray(0, cut % bytes.length))
        for (const { at, to } of edits) if (damaged.length > 0) damaged[at % damaged.length] = to
        const sentence = await refusedOr(() => readFile(damaged))
        if (sentence !== null) expect(sentence).to.match(/^.{10,600}$/s)
      },
    ),
    { numRuns: 250 },
  )
})
it('unpacks nothing that leads out of the zip, is too large, or is too many', async () => {
  const zip = (entries: Record<string, Uint8Array>) => Buffer.from(zipSync(entries))
  const all = () => true
  expect([...(await readZip(zip({ 'a/b': strToU8('x') }), all)).keys()]).to.deep.equal(['a/b'])
  for (const name of ['../a', '/etc/a', 'a\\b'])
    expect(await refusedOr(() => readZip(zip({ [name]: strToU8('x') }), all)), name).to.match(/leads out of it/)
  expect(
    await refusedOr(() =>
      readZip(zip({ a: new Uint8Array(2000), b: new Uint8Array(2000) }), all, { total: 3000, each: 9000, entries: 9 }),
    ),
  ).to.match(/more than is read/)
  expect(
    await refusedOr(() =>
      readZip(zip({ a: strToU8('1'), b: strToU8('2') }), all, { total: 100, each: 100, entries: 1 }),
    ),
  ).to.match(/more than 1 entries/)
  // A size that lies: the entry unpacks to more than its header says.
  const lying = zip({ a: new Uint8Array(5000).fill(65) })
  for (let at = lying.indexOf(Buffer.from('PK\u0001\u0002')); at >= 0; at = -1) lying.writeUInt32LE(10, at + 24)
  expect(await refusedOr(() => readZip(lying, all))).to.match(/cut off or damaged/)
})
it('gives the requirements of a sheet their parents across two sheets', async () => {
  const [one = [], two = []] = fc.sample(
    requirementReads.filter((all) => all.length > 1),
    { numRuns: 2, seed: 9 },
  )
  const rename = (all: typeof one, mark: string) => all.map((each) => ({ ...each, id: `${mark}${each.id}` }))
  const { read } = await readFile(
    await xlsxOf({ One: requirementTable(rename(one, 'a'), []), Two: requirementTable(rename(two, 'b'), []) }),
  )
  expect(
    read.requirements.map(({ id, parent }) => [id, typeof parent === 'number' ? read.requirements[parent]?.id : null]),
  ).to.deep.equal([
    ...rename(one, 'a').map(({ id, parent }) => [id, typeof parent === 'number' ? `a${one[parent]?.id ?? ''}` : null]),
    ...rename(two, 'b').map(({ id, parent }) => [id, typeof parent === 'number' ? `b${two[parent]?.id ?? ''}` : null]),
  ])
})
it('keeps an apostrophe of the text itself apart from the one that guards a formula', () => {
  const cells = ["'+", "''", "'=1", '=1', "'quoted'", "it's", '-3', "'"]
  expect(csvRows(csvText([cells]), ',')[0]?.cells).to.deep.equal(cells)
})
it('reads no workbook of which a part unpacks to more than it says', async () => {
  const book = await xlsxOf({ A: [['a text that stands among the shared ones'.repeat(50)]] })
  const entry = (signature: string, from: number): number => {
    const at = book.indexOf(Buffer.from(signature, 'latin1'), from)
    return at < 0 || book.toString('latin1', at, at + 120).includes('sharedStrings.xml') ? at : entry(signature, at + 4)
  }
  const at = entry('PK\u0001\u0002', 0)
  expect(at).to.be.above(0)
  book.writeUInt32LE(10, at + 24)
  expect(await refusedOr(() => readXlsx(book))).to.match(/cut off or damaged/)
})
