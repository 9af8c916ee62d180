import { expect } from 'chai'
import {
  acceptRows,
  createModel,
  decideRows,
  deleteModel,
  exportModel,
  listModelRevisions,
  readDesigned,
  readDrafting,
  restoreModel,
  tickChecklist,
  updateModel,
  writeChecklist,
} from '#core/techniques/contract.ts'
import { changeCases } from '#core/cases/contract.ts'
import { deleteRequirements, updateRequirement } from '#core/requirements/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, idsOf, makeCase, makeRequirements, requirement } from '#test/make.ts'

const age = {
  technique: 'boundaries' as const,
  body: {
    inputs: { age: { type: 'integer' as const, partitions: [{ name: 'adult', from: 16, to: 64, valid: true }] } },
    values: 2 as const,
  },
}
const older = {
  ...age,
  body: {
    ...age.body,
    inputs: { age: { type: 'integer' as const, partitions: [{ name: 'adult', from: 18, to: 64, valid: true }] } },
  },
}
const drafting = (of: Shop, ref = 'RQ-1') => of.viewer.ask(readDrafting, { params: { ref } })
async function model(of: Shop) {
  await makeRequirements(of.tester, 'Adults pay')
  const { id } = await of.tester.ask(createModel, { params: { ref: 'RQ-1' }, body: { name: 'Ages', model: age } })
  return id
}
const row = (value: string) => ({
  row: { age: value },
  title: `Age ${value}`,
  steps: [{ action: `Enter ${value}`, expected: 'Taken' }],
})
const accept = async (of: Shop, id: number, ...values: string[]) =>
  of.tester.ask(acceptRows, {
    params: { id },
    body: { as: 'cases', rows: values.map(row), revision: (await drafting(of)).models[0]?.revision ?? 0 },
  })

it('keeps a model with its revisions, and the lines it was typed in', async () => {
  const of = shop()
  const id = await model(of)
  const { models } = await drafting(of)
  expect([models[0]?.name, models[0]?.revision]).to.deep.equal(['Ages', 1])
  await of.tester.ask(updateModel, { params: { id }, body: { model: older }, version: models[0]?.version ?? 0 })
  const { rows } = await of.viewer.ask(listModelRevisions, { params: { id } })
  expect(rows.length).to.be.at.least(1)
  expect(await of.viewer.ask(exportModel, { params: { id } })).to.deep.equal(older.body)
})
it('refuses a model that cannot be one, an edit over a newer one, and one of a requirement that is not there', async () => {
  const of = shop()
  const id = await model(of)
  const wrong = { technique: 'boundaries' as const, body: { inputs: { age: { type: 'colour' } } } }
  const body = { name: 'x', model: wrong }
  const refused = await of.tester.send('POST', '/projects/SHOP/requirements/RQ-1/models', body)
  expect(refused.status).to.equal(400)
  expect((await of.tester.refused(updateModel, { params: { id }, body: { name: 'y' }, version: 99 })).status).to.equal(
    412,
  )
  const none = { params: { ref: 'RQ-9' }, body: { name: 'x', model: age } }
  expect((await of.tester.refused(createModel, none)).status).to.equal(404)
})
it('makes cases of accepted rows, linked to the requirement, and counts what they answer', async () => {
  const of = shop()
  const id = await model(of)
  const done = await accept(of, id, '16', '15')
  expect(done.keys).to.deep.equal(['TC-1', 'TC-2'])
  const made = await caseOf(of.viewer, 'TC-1')
  expect([made.title, made.links.map(({ key }) => key)]).to.deep.equal(['Age 16', ['RQ-1']])
  const designed = await of.viewer.ask(readDesigned, { query: { ref: 'RQ-1' } })
  expect([designed.targets, designed.answered]).to.deep.equal([4, 2])
})
it('accepts nothing proposed by an older model, and no row twice', async () => {
  const of = shop()
  const id = await model(of)
  const body = { as: 'cases' as const, rows: [row('16')], revision: 99 }
  expect((await of.tester.refused(acceptRows, { params: { id }, body })).status).to.equal(412)
  await accept(of, id, '16')
  const again = await of.tester.refused(acceptRows, { params: { id }, body: { ...body, revision: 1 } })
  expect(again.status).to.be.oneOf([412, 422])
})
it('makes one case of rows as data, or adds them to one that is there', async () => {
  const of = shop()
  const id = await model(of)
  const data = await of.tester.ask(acceptRows, {
    params: { id },
    body: { as: 'data rows', rows: [row('16'), row('64')], title: 'Ages of adults', revision: 1 },
  })
  expect((await caseOf(of.viewer, data.keys[0] ?? '')).content.rows.map((each) => each['age'])).to.deep.equal([
    '16',
    '64',
  ])
  const into = await makeCase(of.tester, 'Fifteen pays less')
  await of.tester.ask(acceptRows, { params: { id }, body: { as: 'existing', rows: [row('15')], into, revision: 1 } })
  expect((await caseOf(of.viewer, into)).links.map(({ key }) => key)).to.deep.equal(['RQ-1'])
})
it('leaves rows out, and takes that back', async () => {
  const of = shop()
  const id = await model(of)
  const done = await of.tester.ask(decideRows, { params: { id }, body: { leaveOut: [{ age: '65' }] } })
  expect((await drafting(of)).models[0]?.rows.map(({ decision }) => decision)).to.deep.equal(['left out'])
  await of.tester.ask(decideRows, { params: { id }, body: { end: done.rows } })
  expect((await drafting(of)).models[0]?.rows).to.deep.equal([])
  expect((await of.tester.refused(decideRows, { params: { id }, body: { end: [999] } })).status).to.be.oneOf([
    400, 404, 422,
  ])
})
it('retires the case of a row that a changed model no longer asks for, and makes it live again', async () => {
  const of = shop()
  const id = await model(of)
  await accept(of, id, '16')
  const rows = (await drafting(of)).models[0]?.rows.map((each) => each.id) ?? []
  const done = await of.tester.ask(decideRows, { params: { id }, body: { end: rows, retire: true } })
  expect(done.retired).to.deep.equal(['TC-1'])
  expect((await caseOf(of.viewer, 'TC-1')).retired).to.equal(true)
  await of.tester.ask(decideRows, { params: { id }, body: { again: rows } })
  expect((await caseOf(of.viewer, 'TC-1')).retired).to.equal(false)
})
it('takes a model away and brings it back with its rows', async () => {
  const of = shop()
  const id = await model(of)
  await accept(of, id, '16')
  await of.tester.ask(deleteModel, { params: { id } })
  expect((await drafting(of)).models).to.deep.equal([])
  await of.tester.ask(restoreModel, { params: { id } })
  expect((await drafting(of)).models[0]?.rows).to.have.length(1)
})
it('says when the requirement changed since the model was made for it', async () => {
  const of = shop()
  const id = await model(of)
  const { version } = await requirement(of.tester, 'RQ-1')
  await of.tester.ask(updateRequirement, { params: { ref: 'RQ-1' }, body: { title: 'Grown-ups pay' }, version })
  const after = await drafting(of)
  expect([after.models[0]?.requirementRevision, after.requirement.revision]).to.deep.equal([1, 2])
  await of.tester.ask(updateModel, { params: { id }, body: { fits: true }, version: after.models[0]?.version ?? 0 })
  expect((await drafting(of)).models[0]?.requirementRevision).to.equal(2)
})
it('counts a row’s case only while it is live', async () => {
  const of = shop()
  const id = await model(of)
  await accept(of, id, '16')
  const answered = async () => (await of.viewer.ask(readDesigned)).answered
  expect(await answered()).to.equal(1)
  await of.tester.ask(changeCases, { body: { ids: await idsOf(of.tester, ['TC-1']), set: { retired: true } } })
  expect(await answered()).to.equal(0)
})
it('keeps a checklist, ticks what is done and by which case', async () => {
  const of = shop()
  await makeRequirements(of.tester, 'Adults pay')
  const key = await makeCase(of.tester, 'By keyboard')
  const { ids } = await of.tester.ask(writeChecklist, { params: { ref: 'RQ-1' }, body: { lines: 'Keyboard\nPrint' } })
  await of.tester.ask(tickChecklist, { params: { id: ids[0] ?? 0 }, body: { done: true, case: key } })
  await of.tester.ask(tickChecklist, { params: { id: ids[1] ?? 0 }, body: { deleted: true } })
  expect((await drafting(of)).checklist.map(({ text, done, case: by }) => [text, done, by])).to.deep.equal([
    ['Keyboard', true, key],
  ])
  expect((await of.tester.refused(tickChecklist, { params: { id: 99 }, body: { done: true } })).status).to.equal(404)
  expect((await of.tester.refused(writeChecklist, { params: { ref: 'RQ-1' }, body: { lines: ' ' } })).status).to.equal(
    400,
  )
})
it('designs nothing for a requirement that is deleted', async () => {
  const of = shop()
  await model(of)
  await of.lead.ask(deleteRequirements, { body: { ids: [(await requirement(of.lead, 'RQ-1')).id] } })
  expect((await of.viewer.ask(readDesigned)).rows).to.deep.equal([])
  expect((await of.viewer.refused(readDrafting, { params: { ref: 'RQ-1' } })).status).to.equal(410)
})
