import { expect } from 'chai'
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { listCases, updateCase } from '#core/cases/contract.ts'
import {
  dropMapping,
  dropStanding,
  exportFile,
  importFile,
  keepMapping,
  keepStanding,
  listImports,
  listMappings,
  listStanding,
  replaceText,
  runStanding,
  undoImport,
} from '#core/formats/contract.ts'
import { listRequirements } from '#core/requirements/contract.ts'
import { minute, type Shop, shop } from '#test/app.ts'
import { caseOf, makeCase, makeRequirements, makeRun } from '#test/make.ts'
import { importDue } from './standing-imports.ts'

const sheet = 'Title,Action,Expected,Importance\nPays,Insert the card,It is read,High\n,Take it,,\nLeaves,Go,Gone,Low\n'
const bring = (of: Shop, file: string, query: object = {}) =>
  of.tester.ask(importFile, { query: { what: 'cases', dry: 'no', ...query }, file, mime: 'text/csv' })
const titles = async (of: Shop) => (await of.viewer.ask(listCases)).rows.map(({ title }) => title)
const written = async (of: Shop, query: string) => (await of.viewer.send('GET', `/projects/SHOP/export?${query}`)).body

it('shows what a file would bring, and stores nothing of it', async () => {
  const of = shop()
  const told = await bring(of, sheet, { dry: 'yes' })
  expect([told.format, told.preview.map(({ title }) => title)]).to.deep.equal(['csv', ['Pays', 'Leaves']])
  expect(await titles(of)).to.deep.equal([])
})
it('brings cases with their steps, finds them again, and changes what changed', async () => {
  const of = shop()
  await bring(of, sheet, { source: 'plan.csv' })
  expect((await caseOf(of.viewer, 'TC-1')).content.steps.map(({ action }) => action)).to.deep.equal([
    'Insert the card',
    'Take it',
  ])
  const keyed = 'Key,Title,Action,Expected,Importance\nTC-1,Pays at once,Insert the card,It is read,High\n'
  const again = await bring(of, keyed)
  expect([again.counts?.new, again.counts?.changed]).to.deep.equal([0, 1])
  expect(await titles(of)).to.deep.equal(['Pays at once', 'Leaves'])
})
it('takes an import back whole, but for what was touched since', async () => {
  const of = shop()
  await bring(of, sheet)
  const [act] = (await of.viewer.ask(listImports)).rows
  expect(act).to.include({ what: 'case', made: 2 })
  const done = await of.tester.ask(undoImport, { params: { id: act?.id ?? 0 } })
  expect([done.deleted, await titles(of)]).to.deep.equal([2, []])
  expect((await of.tester.refused(undoImport, { params: { id: act?.id ?? 0 } })).status).to.be.oneOf([404, 422])
  expect((await of.tester.refused(undoImport, { params: { id: 99 } })).status).to.equal(404)
})
it('lets a tester take back their own import alone, and of it only what nobody else works with', async () => {
  const of = shop()
  await bring(of, sheet)
  const [act] = (await of.viewer.ask(listImports)).rows
  const undo = { params: { id: act?.id ?? 0 } }
  of.db.$client
    .prepare("insert into membership (project_id, person_id, role) values (?, 'stranger', 'tester')")
    .run(of.project().id)
  const other = await of.stranger.refused(undoImport, undo)
  expect([other.status, other.detail]).to.deep.equal([
    403,
    'This import is somebody else’s; they or a lead can take it back.',
  ])
  const [executed = ''] = (await makeRun(of, ['TC-2'])).items.map((item) => item.case)
  const done = await of.tester.ask(undoImport, undo)
  expect([done.deleted, done.kept, await titles(of)]).to.deep.equal([1, [executed], ['Leaves']])
})
it('keeps for a tester what somebody else changed of their import; a lead takes all of it back', async () => {
  for (const [who, left] of [
    ['tester', ['Pays quickly']],
    ['lead', []],
  ] as const) {
    const of = shop()
    await bring(of, sheet)
    const { id, version } = await caseOf(of.lead, 'TC-1')
    expect(id).to.be.greaterThan(0)
    of.pass(minute)
    await of.lead.ask(updateCase, { params: { ref: 'TC-1' }, body: { title: 'Pays quickly' }, version })
    const [act] = (await of.viewer.ask(listImports)).rows
    await of[who].ask(undoImport, { params: { id: act?.id ?? 0 } })
    expect(await titles(of), who).to.deep.equal(left)
  }
})
it('brings nothing of a file with a fault, and names the place', async () => {
  const of = shop()
  const bad = sheet.replace('Importance', 'Minutes').replace('High', 'Enormous').replace('Low', '5')
  const refused = await of.tester.refused(importFile, {
    query: { what: 'cases', dry: 'no' },
    file: bad,
    mime: 'text/csv',
  })
  expect(refused.detail).to.match(/row 2.*Enormous/s)
  expect(await titles(of)).to.deep.equal([])
})
it('brings requirements of a feature-less text as an outline', async () => {
  const of = shop()
  const text = '# Pay\n\n## By card\n\n## In cash\n'
  await of.tester.ask(importFile, {
    query: { what: 'requirements', format: 'markdown', dry: 'no' },
    file: text,
    mime: 'text/markdown',
  })
  const { rows } = await of.viewer.ask(listRequirements)
  expect(rows.map(({ title, depth }) => `${depth} ${title}`)).to.deep.equal(['0 Pay', '1 By card', '1 In cash'])
})
it('keeps a mapping under a name, replaces it, and takes it away', async () => {
  const of = shop()
  const told = await bring(of, sheet, { dry: 'yes' })
  if (!told.mapping) throw new Error('no mapping was guessed')
  const { id } = await of.tester.ask(keepMapping, { body: { name: 'Ours', mapping: told.mapping } })
  await of.tester.ask(keepMapping, { body: { name: 'Ours', mapping: { ...told.mapping, begins: 'title' } } })
  expect((await of.tester.ask(listMappings)).rows.map(({ name }) => name)).to.deep.equal(['Ours'])
  await bring(of, sheet, { named: 'Ours' })
  expect(await titles(of)).to.deep.equal(['Pays', 'Leaves'])
  await of.tester.ask(dropMapping, { params: { id } })
  expect((await of.tester.refused(dropMapping, { params: { id } })).status).to.equal(404)
})
for (const format of ['csv', 'gherkin', 'markdown'] as const)
  it(`writes ${format} that it reads again as the very same`, async () => {
    const of = shop()
    await makeRequirements(of.tester, 'Pay')
    await makeCase(of.tester, 'Pays', { steps: ['Insert the card => It is read'], proves: 'RQ-1' })
    const text = String(await written(of, `format=${format}&what=cases`))
    expect(text).to.contain('Insert the card')
    const told = await bring(of, text, { format })
    expect(told.counts).to.include({ new: 0, changed: 0, unchanged: 1 })
  })
it('writes only what is chosen, and takes the start of a formula out of cells', async () => {
  const of = shop()
  await makeCase(of.tester, '=SUM(1)')
  const key = await makeCase(of.tester, 'Pays')
  const { id } = await caseOf(of.viewer, key)
  expect(String(await written(of, 'format=csv&what=cases'))).to.contain("'=SUM(1)")
  expect(String(await written(of, `format=csv&what=cases&ids=${id}`))).to.not.contain('SUM')
})
it('refuses to write a format that has no place for it', async () => {
  const of = shop()
  expect((await of.viewer.refused(exportFile, { query: { format: 'reqif', what: 'cases' } })).status).to.be.oneOf([
    400, 422,
  ])
})
it('finds and replaces: first as a count, then for good, as an act that is taken back', async () => {
  const of = shop()
  await makeCase(of.tester, 'Insert the card', { steps: ['Insert the card => The card is read'] })
  const ask = { find: 'card', put: 'ticket', fields: ['title' as const, 'action' as const, 'expected' as const] }
  const dry = await of.tester.ask(replaceText, { body: ask })
  expect([dry.cases, dry.places, dry.act]).to.deep.equal([1, 3, null])
  const done = await of.tester.ask(replaceText, { body: { ...ask, dry: false, seen: dry.places } })
  expect(await titles(of)).to.deep.equal(['Insert the ticket'])
  await of.tester.ask(undoImport, { params: { id: done.act ?? 0 } })
  expect(await titles(of)).to.deep.equal(['Insert the card'])
})
it('replaces nothing when there are other places by now than were seen', async () => {
  const of = shop()
  await makeCase(of.tester, 'Insert the card')
  const body = { find: 'card', put: 'x', fields: ['title' as const], dry: false, seen: 5 }
  expect((await of.tester.refused(replaceText, { body })).status).to.be.oneOf([409, 412, 422])
  expect(await titles(of)).to.deep.equal(['Insert the card'])
})

const standing = async (of: Shop, everyMinutes: number | null = null) => {
  mkdirSync(join(of.services.data, 'incoming'), { recursive: true })
  writeFileSync(join(of.services.data, 'incoming', 'plan.csv'), sheet)
  return of.lead.ask(keepStanding, { body: { name: 'Nightly', file: 'plan.csv', what: 'cases', everyMinutes } })
}
it('imports a standing file again by one key, and leaves one alone that has not changed', async () => {
  const of = shop()
  const { id } = await standing(of)
  expect((await of.tester.ask(runStanding, { params: { id } })).told).to.match(/^2 new/)
  expect((await of.tester.ask(runStanding, { params: { id } })).told).to.match(/has not changed/)
  expect((await of.viewer.ask(listStanding)).rows[0]?.lastTold).to.match(/has not changed/)
  await of.lead.ask(dropStanding, { params: { id } })
  expect((await of.tester.refused(runStanding, { params: { id } })).status).to.equal(404)
  const back = { params: { id }, query: { undo: 'yes' as const } }
  await of.lead.ask(dropStanding, back)
  expect((await of.tester.ask(runStanding, { params: { id } })).told).to.match(/has not changed/)
  expect((await of.lead.refused(dropStanding, back)).status).to.equal(404)
  await of.lead.ask(dropStanding, { params: { id } })
  await standing(of)
  expect((await of.lead.refused(dropStanding, back)).detail).to.match(/called Nightly already/)
})
it('imports what is due by itself, and not before', async () => {
  const of = shop()
  await standing(of, 30)
  expect(await importDue(of.services)).to.equal(1)
  expect(await importDue(of.services)).to.equal(0)
  of.pass(31 * 60_000)
  expect([await importDue(of.services), await titles(of)]).to.deep.equal([1, ['Pays', 'Leaves']])
})
it('takes only the name of a file, and says when it is not there', async () => {
  const of = shop()
  const body = { name: 'Out', file: '../secret', what: 'cases' as const }
  expect((await of.lead.refused(keepStanding, { body })).fields).to.deep.equal(['file'])
  const { id } = await of.lead.ask(keepStanding, { body: { ...body, file: 'none.csv' } })
  expect((await of.tester.refused(runStanding, { params: { id } })).detail).to.match(/There is no file none.csv/)
})
