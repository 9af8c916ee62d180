import { expect } from 'chai'
import fc from 'fast-check'
import { z } from 'zod'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import type { Contract } from '#core/lib/contract.ts'
import { idsIn, type NamedId, owned } from '#core/lib/owned.ts'
import { prefixes } from '#core/lib/key.ts'
import { markedIn } from '#core/lib/marked.ts'
import { isRecord } from '#core/lib/record.ts'
import type { Db } from '#db/open.ts'
import { contracts } from '#server/app/routes.ts'
import { type App, memoryApp, shop, startOfTests } from '#test/app.ts'
import { caseOf, makeCase } from '#test/make.ts'
import { fromSchema, type Schema } from '#test/from-schema.ts'
import { demoDb } from '#test/memory.ts'

// Ids of FERRY, of every kind there is, asked for in DEPOT by somebody who leads both: nothing may be answered and nothing changed.

const inProject = contracts.filter(({ path }) => path.startsWith('/projects/:key'))

/** The schema as JSON, in which an id is the one that is given for its kind. */
const schemaOf = (schema: z.ZodType, idFor: IdFor): Schema =>
  JSON.parse(JSON.stringify(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })), (_, part: unknown) =>
    isRecord(part) && typeof part['x-owned'] === 'string' ? { const: idFor(part['x-owned']) } : part,
  )

/** Requests of the shape the contract describes, with ids of the other project wherever an id may stand. */
function requestsOf(contract: Contract, foreign: IdFor, key: string) {
  const part = (schema: z.ZodType) => fromSchema(schemaOf(schema, foreign))
  const shapes = fc.record({ params: part(contract.params), query: part(contract.query), body: part(contract.body) })
  return fc.sample(shapes, { numRuns: 60, seed: 20261123 }).map(({ params, query, body }) => ({
    params: { ...Object(params), key },
    query: Object(query),
    body: contract.method === 'GET' || contract.raw ? undefined : Object(body),
  }))
}
type Asked = ReturnType<typeof requestsOf>[number]
type IdFor = (kind: string) => unknown

const placesOf = (contract: Contract, { params, query, body }: Asked): NamedId[] => [
  ...idsIn(contract.params, params, ['params']),
  ...idsIn(contract.query, query, ['query']),
  ...(body === undefined ? [] : idsIn(contract.body, body)),
]

const fits = ({ params, query, body, raw }: Contract, asked: Asked): boolean =>
  // No text may hold this sign, whatever the schema of the field.
  !JSON.stringify(asked).includes('\\u0000') &&
  params.safeParse(asked.params).success &&
  query.safeParse(asked.query).success &&
  (raw === true || body.safeParse(asked.body).success)

const pathOf = (contract: Contract, { params, query }: Asked): string => {
  const path = contract.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])))
  const search = new URLSearchParams(
    Object.entries(query).map(([name, value]) => [name, typeof value === 'string' ? value : JSON.stringify(value)]),
  )
  return search.size === 0 ? path : `${path}?${search}`
}

/** One id of FERRY for each kind; the demo has no view, no import and no calendar address, which are made here. */
function idsOfFerry(db: Db): IdFor {
  const { $client: sqlite } = db
  const ferry = sqlite.prepare(`select id from project where key = 'FERRY'`).pluck().get()
  sqlite
    .prepare(`insert into saved_view (project_id, list, name, owner_id, query) values (?, 'cases', 'Mine', 'ansa', '')`)
    .run(ferry)
  sqlite
    .prepare(
      `insert into import_act (project_id, at, source, what, made, changed) values (?, 0, 'x', 'cases', '{}', '[]')`,
    )
    .run(ferry)
  sqlite
    .prepare(`insert into calendar_address (project_id, person_id, hash, created_at) values (?, 'ansa', 'x', 0)`)
    .run(ferry)
  const ids = new Map<string, unknown>(
    Object.keys(owned).map((kind) => [kind, sqlite.prepare(`select min(id) from ${kind}`).pluck().get()]),
  )
  for (const [kind, id] of ids) expect(id, kind).to.be.a('number')
  ids.set('person', 'ansa')
  return (kind) => ids.get(kind)
}

const everything = ({ $client: sqlite }: Db): string =>
  JSON.stringify(
    sqlite
      .prepare(`select name from sqlite_schema where type = 'table' and sql not like '%virtual%' order by name`)
      .pluck()
      .all()
      .map((table) => [
        table,
        sqlite
          .prepare(`select * from "${String(table)}"`)
          .raw()
          .all(),
      ]),
  )

let app: App
let foreign: IdFor
before(async function () {
  this.timeout(120_000)
  app = memoryApp(await demoDb(startOfTests))
  foreign = idsOfFerry(app.db)
})

const ask = (contract: Contract, asked: Asked) =>
  app.as('mira').send(contract.method, pathOf(contract, asked), asked.body, { 'if-match': '1' })

it('refuses ids of another project wherever a contract has one, names each, and changes nothing', async function () {
  this.timeout(120_000)
  const before = everything(app.db)
  const seen = new Set<string>()
  let answered = 0
  for (const contract of inProject)
    for (const asked of requestsOf(contract, foreign, 'DEPOT')) {
      const places = placesOf(contract, asked)
      if (places.length === 0 || !fits(contract, asked)) continue
      const { status, body } = await ask(contract, asked)
      if (status < 400) answered += 1
      const named = (body.field ?? []).map(({ field }: { field: string }) => field)
      expect(named, `${contract.name}: ${JSON.stringify(body)}`).to.have.members(places.map(({ at }) => at))
      for (const { of } of places) seen.add(`${contract.name} ${of}`)
    }
  expect(answered, 'answered').to.equal(0)
  expect(everything(app.db) === before, 'nothing changed').to.equal(true)
  expect(seen.size).to.be.greaterThan(90)
  const kinds = new Set([...seen].map((each) => each.split(' ')[1]))
  expect(Object.keys(owned).filter((kind) => !kinds.has(kind))).to.deep.equal([])
})

it('changes nothing by an edit that says nothing, and does not break over it', async () => {
  const edits = inProject.filter(({ method, body }) => method === 'PATCH' && body.safeParse({}).success)
  expect(edits.length).to.be.greaterThan(8)
  const answered = new Set<string>()
  for (const contract of edits) {
    const station = /^\/projects\/:key\/(\w+)s\//.exec(contract.path)?.[1] ?? ''
    const kind = Object.entries(prefixes).find(([name]) => name === station)?.[1] ?? ''
    const kinds = markedIn(contract.params, { key: 'FERRY', id: 1 }, 'x-owned')
    const path = contract.path
      .replace(':key', 'FERRY')
      .replace(':ref', `${kind}-1`)
      .replace(':id', String(foreign(kinds[0]?.said ?? '')))
      .replace(':person', String(foreign('person')))
    const edit = (version: number) => app.as('mira').send('PATCH', path, {}, { 'if-match': String(version) })
    const first = await edit(1)
    const { status } = first.status === 412 ? await edit(Number(first.body.current.version)) : first
    if (status === 200) answered.add(contract.name)
    expect(status, `${contract.name} at ${path}`).to.be.oneOf([200, 400])
  }
  expect([...answered]).to.include.members(['tickChecklist', 'updateModel', 'updateFolder', 'updateCase', 'updateRun'])
})
it('answers none of them in a list that is asked for by ids', async () => {
  const lists = contracts.filter(
    ({ method, query, output }) =>
      method === 'GET' &&
      query instanceof z.ZodObject &&
      'ids' in query.shape &&
      output instanceof z.ZodObject &&
      'rows' in output.shape,
  )
  expect(lists.length).to.be.greaterThan(5)
  const rowsAt = async (address: string): Promise<readonly object[]> =>
    (await app.as('mira').send('GET', address)).body.rows ?? []
  for (const { name, path } of lists) {
    const address = (key: string, ref: string) => path.replace(':key', key).replace(':ref', ref)
    const ferry = await rowsAt(`${address('FERRY', 'RN-3')}?limit=400`)
    const ids = ferry.map((row) => String(Object(row).id)).join(',')
    expect(ids, name).to.not.equal('')
    expect(await rowsAt(`${address('DEPOT', 'RN-1')}?ids=${ids}`), name).to.deep.equal([])
    if (path.includes(':ref')) expect(await rowsAt(`${address('FERRY', 'RN-2')}?ids=${ids}`), name).to.deep.equal([])
  }
})
it('stores no step under the identity of another case’s step, and none twice', async () => {
  const of = shop()
  const [a, b] = [await makeCase(of.tester, 'Pays'), await makeCase(of.tester, 'Pays too')]
  const other = (await caseOf(of.tester, b)).content.steps[0]?.id ?? null
  const { content, contentStamp } = await caseOf(of.tester, a)
  const own = content.steps[0]?.id ?? null
  const step = (id: number | null) => ({ id, action: 'Do', expected: '', data: '' })
  for (const ids of [[other], [own, own]]) {
    const body = { content: { ...content, steps: ids.map(step) }, stamp: contentStamp }
    expect((await of.tester.refused(storeWorkingCopy, { params: { ref: a }, body })).detail).to.match(
      /another case, or/,
    )
  }
})
