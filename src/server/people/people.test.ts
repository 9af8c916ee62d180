import { expect } from 'chai'
import { addMember } from '#db/people/members.ts'
import { addPerson } from '#db/people/people.ts'
import { addProject } from '#db/projects/projects.ts'
import { readMe } from '#core/people/contract.ts'
import { hashPassword, signInLibrary } from '#server/http/sign-in.ts'
import { contracts } from '#server/app/routes.ts'
import { day, minute, shop, startOfTests } from '#test/app.ts'
import { caseOf, makeCase, makeAdministrator } from '#test/make.ts'
import { memoryDb } from '#test/memory.ts'
import { appWithSignIn } from '#test/signed-in.ts'
import { createToken, dropToken } from './keep-tokens.ts'

const bearer = (token: string) => ({ authorization: `Bearer ${token}` })

/** The server with its real sign-in, and one person who has a password. */
async function withSignIn() {
  const app = await appWithSignIn('right enough', [{ id: 'ada', name: 'Ada Min', administrator: false }])
  const signIn = (email: string, password: string) => app.ask('POST', '/sign-in', { email, password })
  return { ...app, signIn }
}

it('signs a person in by their password, keeps them in by a cookie, and out again', async () => {
  const app = await withSignIn()
  const answer = await app.signIn('ada@shop.example', 'right enough')
  expect([answer.status, answer.body.name]).to.deep.equal([200, 'Ada Min'])
  const cookie = answer.headers
    .getSetCookie()
    .map((each) => each.split(';')[0])
    .join('; ')
  expect(answer.headers.getSetCookie()[0]).to.match(/HttpOnly/i)
  expect((await app.ask('GET', '/me', undefined, { cookie })).body.id).to.equal('ada')
  await app.ask('DELETE', '/sign-in', {}, { cookie })
  expect((await app.ask('GET', '/me', undefined, { cookie })).status).to.equal(401)
})
it('says the same of a wrong password and of an address that nobody has', async () => {
  const app = await withSignIn()
  const [wrong, nobody] = [
    await app.signIn('ada@shop.example', 'wrong enough'),
    await app.signIn('eve@shop.example', 'right enough'),
  ]
  expect([wrong.status, nobody.status, wrong.body.detail === nobody.body.detail]).to.deep.equal([401, 401, true])
})
it('does the same work for a wrong password, somebody invited, and an address of nobody', async () => {
  const db = memoryDb()
  const person = { administrator: false, passwordHash: await hashPassword('right enough') }
  addPerson(db, { ...person, id: 'ada', name: 'Ada Min', email: 'ada@shop.example' }, startOfTests)
  addPerson(db, { ...person, id: 'ben', name: 'Ben Ak', email: 'ben@shop.example', passwordHash: null }, startOfTests)
  const worked: string[] = []
  const passwords = {
    hash: async () => {
      worked.push('hashed')
      return 'some hash'
    },
    verify: async () => {
      worked.push('hashed')
      return false
    },
  }
  const library = signInLibrary(db, { secret: 'x'.repeat(64), secure: false, passwords })
  for (const who of ['ada', 'ben', 'eve']) {
    const { ok } = await library.tryPassword(`${who}@shop.example`, 'wrong enough', {
      address: '192.0.2.1',
      device: '',
    })
    expect([ok, worked.splice(0)], who).to.deep.equal([false, ['hashed']])
  }
})
it('takes no cookie that was made up', async () => {
  const app = await withSignIn()
  expect((await app.ask('GET', '/me', undefined, { cookie: 'rovant.session_token=abc.def' })).status).to.equal(401)
})
it('lets a token act as its person until it is revoked, and keeps only its hash', async () => {
  const of = shop()
  const token = createToken(of.db, { person: 'Tester Person', name: 'CI' })
  const as = bearer(token)
  expect((await of.ask('GET', '/me', undefined, as)).body.id).to.equal('tester')
  expect(JSON.stringify(of.db.$client.prepare('select * from api_token').all())).to.not.contain(token)
  dropToken(of.db, { person: 'Tester Person', name: 'CI' })
  expect((await of.ask('GET', '/me', undefined, as)).status).to.equal(401)
})
it('makes no token for nobody, or for a project that is not there, and drops none that is not', () => {
  const of = shop()
  expect(() => createToken(of.db, { person: 'Eve', name: 'CI' })).to.throw('There is nobody called Eve here.')
  expect(() => createToken(of.db, { person: 'Tester Person', name: 'CI', project: 'NONE' })).to.throw('no project NONE')
  expect(() => dropToken(of.db, { person: 'Tester Person', name: 'CI' })).to.throw('no token called “CI”')
})
it('tells a person their projects and roles; an administrator leads them all', async () => {
  const of = shop()
  expect((await of.tester.ask(readMe)).projects).to.deep.equal([
    { key: 'SHOP', name: 'Shop', product: 'Till', role: 'tester' },
  ])
  const admin = makeAdministrator(of)
  expect((await admin.ask(readMe)).projects.map(({ role }) => role)).to.deep.equal(['lead'])
  expect((await of.stranger.ask(readMe)).projects).to.deep.equal([])
})
it('lets a token for one project work there alone: not by another address, in a body, a stream, or for the installation', async () => {
  const of = shop()
  const other = addProject(of.db, { key: 'DEPOT', name: 'Depot', product: 'Store', createdAt: startOfTests })
  addMember(of.db, other, 'lead', { role: 'lead' })
  const ref = await makeCase(of.tester, 'Pays')
  const { id } = await caseOf(of.tester, ref)
  const as = bearer(createToken(of.db, { person: 'Lead Person', name: 'CI', project: 'SHOP' }))
  expect((await of.ask('GET', '/projects/SHOP', undefined, as)).status).to.equal(200)
  expect((await of.ask('GET', '/me', undefined, as)).body.projects).to.have.length(1)
  const there = { ...as, 'if-match': '1' }
  for (const contract of contracts.filter(({ path }) => path.startsWith('/projects/:key'))) {
    const path = contract.path.replace(':key', 'DEPOT').replace(/:\w+/g, '1')
    const { status } = await of.ask(contract.method, path, contract.method === 'GET' ? undefined : {}, there)
    expect(status, contract.name).to.equal(404)
  }
  expect((await of.ask('GET', '/events?project=DEPOT', undefined, as)).status).to.equal(404)
  const sent = await of.ask('POST', '/projects/SHOP/cases/send', { ids: [id], project: 'DEPOT', move: false }, as)
  expect([sent.status, sent.body.detail]).to.deep.equal([
    404,
    'There is no project DEPOT in which you may write; nothing was changed.',
  ])
  expect(of.db.$client.prepare('select count(*) from test_case').pluck().get()).to.equal(1)
})
it('keeps a token for reading from writing, and one for results from both', async () => {
  const of = shop()
  const [reads, results] = (['read', 'results'] as const).map((scope) =>
    bearer(createToken(of.db, { person: 'Lead Person', name: scope, scope })),
  )
  for (const contract of contracts.filter(({ path }) => path.startsWith('/projects/:key'))) {
    const path = contract.path.replace(':key', 'SHOP').replace(/:\w+/g, '1')
    const body = contract.method === 'GET' ? undefined : {}
    const status = async (as = {}) => (await of.ask(contract.method, path, body, { ...as, 'if-match': '1' })).status
    if (contract.method === 'GET') expect(await status(reads), contract.name).to.not.be.oneOf([401, 403])
    else expect(await status(reads), contract.name).to.equal(403)
    expect(await status(results), contract.name).to.equal(contract.takesResults ? 400 : 403)
  }
})
it('ends a token on its day, and notes when it was used, once a minute', async () => {
  const of = shop()
  const as = bearer(createToken(of.db, { person: 'Tester Person', name: 'CI', days: 1 }))
  const endsAt = Number(of.db.$client.prepare('select ends_at from api_token').pluck().get())
  const used = () => of.db.$client.prepare('select last_used_at from api_token').pluck().get()
  of.pass(endsAt - day - of.now())
  const first = of.now()
  await of.ask('GET', '/me', undefined, as)
  of.pass(minute / 2)
  await of.ask('GET', '/me', undefined, as)
  expect(used()).to.equal(first)
  of.pass(minute)
  await of.ask('GET', '/me', undefined, as)
  expect(used()).to.equal(of.now())
  of.pass(day)
  const ended = await of.ask('GET', '/me', undefined, as)
  expect([ended.status, ended.body.detail]).to.deep.equal([
    401,
    'This token does not work: it was revoked, has ended, or never was one of here.',
  ])
})
