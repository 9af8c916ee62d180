import { expect } from 'chai'
import { importFile } from '#core/formats/contract.ts'
import { listCases, readCase } from '#core/cases/contract.ts'
import type { CaseRead } from '#core/formats/shapes.ts'
import { shop } from '#test/app.ts'
import { type CorpusFile, corpus, type Truth } from '#test/corpus/files.ts'
import { makeRequirements } from '#test/make.ts'
import { readFile } from './read-file.ts'

const meant = ({ folder = '', ...rest }: Truth) => ({
  folder,
  title: rest.title,
  importance: rest.importance,
  tags: [...rest.tags].sort(),
  links: [...rest.links],
  steps: rest.steps.map(([action, expected]) => ({ action, expected })),
})
const inspected = (each: CaseRead) => ({
  folder: each.folder.join(' / '),
  title: each.title,
  importance: each.importance,
  tags: [...each.tags].sort(),
  links: [...each.requirements],
  steps: each.steps.map(({ action, expected }) => ({ action, expected })),
})

/** What is in the project after the import of a file. */
async function stored({ bytes }: CorpusFile) {
  const of = shop()
  await makeRequirements(of.tester, 'One', 'Two', 'Three')
  const answer = await of.tester.ask(importFile, { query: { what: 'cases', dry: 'no' }, file: await bytes() })
  const { rows } = await of.viewer.ask(listCases, { query: { limit: 100, sort: 'number' } })
  const sheets = await Promise.all(rows.map(({ key }) => of.viewer.ask(readCase, { params: { ref: key } })))
  return { answer, sheets }
}

for (const file of corpus)
  it(`reads ${file.name} word by word`, async () => {
    const truth = file.cases.map(meant)
    const { read } = await readFile(await file.bytes())
    expect(read.problems).to.deep.equal([])
    expect(read.cases.map(inspected)).to.deep.equal(truth)
    expect(read.unread).to.deep.equal([])
    const { answer, sheets } = await stored(file)
    expect([answer.counts.new, answer.steps]).to.deep.equal([
      truth.length,
      truth.reduce((sum, { steps }) => sum + steps.length, 0),
    ])
    expect(
      sheets.map((each) => ({
        title: each.title,
        importance: each.importance,
        tags: [...each.tags].sort(),
        links: each.links.map(({ key }) => key),
        steps: each.content.steps.map(({ action, expected }) => ({ action, expected })),
      })),
    ).to.deep.equal(truth.map(({ folder: _, ...rest }) => rest))
  })
