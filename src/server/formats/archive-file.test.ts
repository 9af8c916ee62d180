import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { readRequirement, updateRequirement } from '#core/requirements/contract.ts'
import { createTemplate } from '#core/reuse/template-contract.ts'
import { addComment } from '#core/talk/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { createDefect } from '#core/defects/contract.ts'
import { changeItems, listItems, readRun } from '#core/runs/contract.ts'
import { tagRuns } from '#core/runs/shape-contract.ts'
import { waitFor } from '#core/runs/waits-contract.ts'
import { makeCase, makeDealtRun, makeRequirements } from '#test/make.ts'
import { readArchive, writeArchive } from './archive-file.ts'

type Row = Record<string, unknown>
const script = '<p>Pay<img src=x onerror="alert(1)"></p><script>alert(2)</script><a href="javascript:alert(3)">here</a>'

/** A project with a bit of everything, as an archive whose tables somebody has had in hand. */
async function tampered(of: Shop, change: Readonly<Record<string, (row: Row) => Row>>): Promise<Buffer> {
  const out = join(of.services.data, 'shop.zip')
  await writeArchive({ db: of.db, close: () => undefined }, of.services.data, 'SHOP', out)
  const entries = unzipSync(readFileSync(out))
  for (const [table, edit] of Object.entries(change)) {
    const name = `tables/${table}.jsonl`
    const rows = strFromU8(entries[name] ?? new Uint8Array())
      .trim()
      .split('\n')
    entries[name] = strToU8(rows.map((row) => `${JSON.stringify(edit(JSON.parse(row)))}\n`).join(''))
  }
  return Buffer.from(zipSync(entries))
}
async function filled(): Promise<Shop> {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  await of.tester.ask(updateRequirement, { params: { ref: key }, body: { text: '<p>By card</p>' }, version: 1 })
  await makeCase(of.tester, 'Pays', { proves: key })
  await of.tester.ask(addComment, { body: { ref: key, text: 'Which card?' } })
  return of
}
const load = (of: Shop, bytes: Buffer) =>
  readArchive({ db: of.db, close: () => undefined }, of.services.data, 'COPY', bytes)
const refusalOf = async (work: Promise<unknown>): Promise<string> => {
  try {
    await work
    return 'done'
  } catch (error) {
    return error instanceof Error ? error.message : String(error)
  }
}

it('cleans the rich text of an archive like what people write', async () => {
  const of = await filled()
  await load(
    of,
    await tampered(of, {
      requirement: (row) => ({ ...row, text: script }),
      version_step: (row) => ({ ...row, action: script, use_values: JSON.stringify({ card: script }) }),
      comment: (row) => ({ ...row, text: script }),
    }),
  )
  const everything = JSON.stringify(
    ['requirement', 'version_step', 'comment'].map((table) => of.db.$client.prepare(`select * from ${table}`).all()),
  )
  expect(everything)
    .to.contain('<p>Pay</p>')
    .and.not.match(/onerror|<script|javascript:/)
  expect((await of.lead.ask(readRequirement, { params: { key: 'COPY', ref: 'RQ-1' } })).text).to.contain('<p>Pay</p>')
})
it('leaves plain text of an archive as it is, also beside rich text in one column', async () => {
  const of = await filled()
  await of.tester.ask(createTemplate, { body: { name: 'Fish & <chips>', case: 'TC-1' } })
  const content = { objective: script, steps: [], rows: [{ meal: 'Fish & <chips>' }] }
  await load(of, await tampered(of, { case_template: (row) => ({ ...row, content: JSON.stringify(content) }) }))
  const [name, kept] = of.db.$client
    .prepare('select name, content from case_template order by id desc limit 1')
    .raw()
    .get() as string[]
  expect([name, JSON.parse(kept ?? '').rows]).to.deep.equal(['Fish & <chips>', [{ meal: 'Fish & <chips>' }]])
  expect(kept).to.not.match(/onerror|<script/)
})
it('lets nothing of an archive point outside it: no number that is negative, none that is another project’s', async () => {
  for (const number of [-1, 0, 77, 1.5, '1 or 1=1']) {
    const of = await filled()
    const before = of.db.$client.prepare('select count(*) from link').pluck().get()
    const told = await refusalOf(
      load(of, await tampered(of, { link: (row) => ({ ...row, case_id: number, requirement_id: number }) })),
    )
    expect(told, String(number)).to.match(/does not hold together .*nothing was imported/)
    expect(of.db.$client.prepare('select count(*) from link').pluck().get()).to.equal(before)
    expect(of.db.$client.prepare(`select count(*) from project where key = 'COPY'`).pluck().get()).to.equal(0)
  }
  const of = await filled()
  await load(of, await tampered(of, { comment: (row) => ({ ...row, owner_id: -5, person_id: 1 }) }))
  const owners = of.db.$client.prepare('select owner_id from comment order by id').pluck().all()
  expect(owners.slice(1)).to.deep.equal([0])
})

it('takes along what items wait for, by how many people they are judged, tags of runs, and used rows, each to its own', async () => {
  const of = await filled()
  await makeCase(of.lead, 'Boards')
  const run = await makeDealtRun(of, ['TC-1', 'TC-2'])
  const [first = 0, second = 0] = run.items.map(({ id }) => id)
  await of.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
  const params = { ref: run.key }
  await of.lead.ask(waitFor, { params, body: { ids: [first], for: 'DF-1' } })
  await of.lead.ask(waitFor, { params, body: { ids: [first], for: 'TC-2' } })
  await of.lead.ask(changeItems, { params, body: { ids: [second], set: { people: 3, passes: 2 } } })
  await of.lead.ask(tagRuns, { body: { ids: [run.id], add: ['night'] } })
  await load(of, await tampered(of, {}))
  const there = { key: 'COPY', ref: 'RN-1' }
  of.db.$client
    .prepare(
      `insert into membership (project_id, person_id, role) select id, 'viewer', 'viewer' from project where key = 'COPY' on conflict do nothing`,
    )
    .run()
  const { rows } = await of.viewer.ask(listItems, { params: there })
  expect(rows.map(({ waits }) => waits.map(({ key, kind }) => `${kind} ${key}`))).to.deep.equal([
    ['defect DF-1', 'item TC-2'],
    [],
  ])
  expect(rows[1]?.several).to.deep.equal({ people: 3, passes: 2, said: [] })
  expect((await of.viewer.ask(readRun, { params: there })).tags).to.deep.equal(['night'])
  const waits = of.db.$client
    .prepare(`select item_id, other_item_id from item_wait where other_item_id is not null order by id`)
    .all()
  expect(waits).to.have.length(2)
  // The copy waits for the copy, not for what it was copied of.
  expect(waits[1]).to.deep.equal({ item_id: rows[0]?.id, other_item_id: rows[1]?.id })
})
