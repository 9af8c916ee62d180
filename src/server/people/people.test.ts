import { expect } from 'chai'
import { addMember } from '#db/people/members.ts'
import { addPerson } from '#db/people/people.ts'
import { addProject } from '#db/projects/projects.ts'
import { readMe } from '#core/people/contract.ts'
import { eventHub } from '#server/http/events.ts'
import { hashPassword, signInLibrary } from '#server/http/sign-in.ts'
import { memoryApp, shop, startOfTests } from '#test/app.ts'
import { memoryDb } from '#test/memory.ts'
import { createToken, dropToken } from './keep-tokens.ts'

/** The server with its real sign-in, and one person who has a password. */
async function withSignIn() {
  const db = memoryDb()
  const app = memoryApp(db)
  const passwordHash = await hashPassword('right enough')
  addPerson(
    db,
    { id: 'ada', name: 'Ada Min', email: 'ada@shop.example', administrator: false, passwordHash },
    startOfTests,
  )
  const project = addProject(db, { key: 'SHOP', name: 'Shop', product: 'Till', createdAt: startOfTests })
  addMember(db, project, 'ada', { role: 'tester' })
  Object.assign(app.services, {
    signIn: signInLibrary(db, { secret: 'x'.repeat(64), secure: false }),
    events: eventHub(),
  })
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
it('takes no cookie that was made up', async () => {
  const app = await withSignIn()
  expect((await app.ask('GET', '/me', undefined, { cookie: 'rovant.session_token=abc.def' })).status).to.equal(401)
})
it('lets a token act as its person until it is revoked, and keeps only its hash', async () => {
  const of = shop()
  const token = createToken(of.db, { person: 'Tester Person', name: 'CI' })
  const as = { authorization: `Bearer ${token}` }
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
  addPerson(
    of.db,
    { id: 'admin', name: 'Ada Min', email: 'a@x.example', administrator: true, passwordHash: 'x' },
    of.now(),
  )
  expect((await of.as('admin').ask(readMe)).projects.map(({ role }) => role)).to.deep.equal(['lead'])
  expect((await of.stranger.ask(readMe)).projects).to.deep.equal([])
})
