import { expect } from 'chai'
import type { Role } from '#core/lib/rights.ts'
import { inviteMembers } from '#core/people/members-contract.ts'
import {
  createGroup,
  updateGroup,
  invitePeople,
  listPeople,
  makeLink,
  setRole,
  updatePerson,
} from '#core/people/people-contract.ts'
import { readProject } from '#core/projects/contract.ts'
import { passwordOf } from '#db/people/people.ts'
import { addProject } from '#db/projects/projects.ts'
import { isPassword } from '#server/http/sign-in.ts'
import { day, minute, shop, type Shop } from '#test/app.ts'
import { secretIn, withMail } from '#test/letters.ts'
import { makeAdministrator } from '#test/make.ts'

const good = 'nine green ferries'
interface Newcomer {
  readonly name: string
  readonly email: string
  readonly role: Role
}
const lene: Newcomer = { name: 'Lene Aas', email: 'lene@shop.example', role: 'tester' }

describe('invitations', () => {
  let of: Shop
  beforeEach(() => {
    of = shop()
  })
  const invite = async (people: readonly Newcomer[] = [lene]) =>
    (await of.lead.ask(inviteMembers, { body: { people: [...people] } })).rows
  const open = (path: string, body: unknown) => of.ask('POST', path, body)
  const choose = (link: string, password = good) => open('/password', { link, password })
  const events = (): string[] =>
    of.db.$client.prepare('select told from security_event order by id').pluck().all().map(String)
  const stored = (table: string): string => JSON.stringify(of.db.$client.prepare(`select * from ${table}`).all())

  it('bring somebody in who nobody knew, with a link that is told once and kept as a hash', async () => {
    const [made] = await invite()
    expect([made?.was, made?.mailed]).to.deep.equal(['invited', false])
    expect(made?.link).to.match(/^https:\/\/rovant\.test\/password#[\w-]{32}$/)
    expect(stored('password_link') + stored('security_event') + stored('change')).to.not.contain(secretIn(made?.link))
    const member = (await of.lead.ask(readProject)).people.find(({ name }) => name === lene.name)
    expect([member?.role, member?.ended]).to.deep.equal(['tester', false])
    expect(events()).to.deep.equal(['Lene Aas (lene@shop.example) was invited', 'Lene Aas is tester in SHOP'])
  })
  it('let a person choose a password once, and come in with it', async () => {
    const secret = secretIn((await invite())[0]?.link)
    const look = await open('/password/link', { link: secret })
    expect([look.body.name, look.body.purpose]).to.deep.equal(['Lene Aas', 'invitation'])
    expect((await choose(secret)).status).to.equal(200)
    const { rows } = await makeAdministrator(of).ask(listPeople, { query: { text: 'lene' } })
    expect(rows[0]?.state).to.equal('active')
    expect(await isPassword(passwordOf(of.db, rows[0]?.id ?? '') ?? '', good)).to.equal(true)
    const again = await choose(secret)
    expect([again.status, again.body.detail]).to.deep.equal([
      404,
      'This link does not work: it was used, a newer one was made, or its time is over. Ask for another one.',
    ])
  })
  it('end after seven days, and when a newer one is made', async () => {
    const first = secretIn((await invite())[0]?.link)
    const second = secretIn((await invite())[0]?.link)
    expect((await open('/password/link', { link: first })).status).to.equal(404)
    of.pass(7 * day - minute)
    expect((await open('/password/link', { link: second })).status).to.equal(200)
    of.pass(minute)
    expect((await open('/password/link', { link: second })).status).to.equal(404)
    expect((await choose(second)).status).to.equal(404)
  })
  it('take no password that is short, is on the list of common ones, or repeats itself', async () => {
    const secret = secretIn((await invite())[0]?.link)
    expect((await choose(secret, 'short enough')).status).to.equal(200)
    const other = secretIn((await invite([{ ...lene, email: 'other@shop.example' }]))[0]?.link)
    expect((await choose(other, 'eleven char')).body.field).to.deep.equal([
      { field: 'password', message: 'has fewer than 12 characters' },
    ])
    for (const weak of ['1q2w3e4r5t6y', 'passwordpassword', 'abcabcabcabcabc', 'Qwertyuiop123'])
      expect((await choose(other, weak)).body.detail, weak).to.equal(
        'Many people use this password, so it is the first to be guessed. Choose another one.',
      )
    expect((await choose(other)).status).to.equal(200)
  })
  it('go out by mail where there is any, and are handed over where the mail server does not take them', async () => {
    const { letters, refuse } = withMail(of)
    const [sent] = await invite()
    expect([sent?.mailed, sent?.link, letters.length]).to.deep.equal([true, null, 1])
    expect(letters[0]?.to).to.deep.equal({ name: 'Lene Aas', address: 'lene@shop.example' })
    expect((await open('/password/link', { link: secretIn(letters[0]?.text) })).body.name).to.equal('Lene Aas')
    refuse(true)
    const [handed] = await invite([{ ...lene, email: 'third@shop.example' }])
    expect([handed?.mailed, secretIn(handed?.link).length]).to.deep.equal([false, 32])
  })
  it('give somebody who is known the role alone, and never a lower one than they have', async () => {
    const rows = await invite([
      { name: 'Whoever', email: 'stranger@shop.example', role: 'viewer' },
      { name: 'Whoever', email: 'lead@shop.example', role: 'tester' },
    ])
    expect(rows.map(({ was, link, name }) => [was, link, name])).to.deep.equal([
      ['known', null, 'Stranger Person'],
      ['known', null, 'Lead Person'],
    ])
    const { people } = await of.lead.ask(readProject)
    expect(
      people
        .filter(({ id }) => ['stranger', 'lead'].includes(id))
        .map(({ role }) => role)
        .sort(),
    ).to.deep.equal(['lead', 'viewer'])
  })
  it('give a new link to who invited them and to administrators, and to no other lead: with it one is them', async () => {
    await invite()
    const admin = makeAdministrator(of)
    await admin.ask(invitePeople, {
      body: {
        people: [{ name: 'Second Lead', email: 'second@shop.example' }],
        projects: [{ key: 'SHOP', role: 'lead' }],
      },
    })
    const second = of.db.$client.prepare("select id from person where email = 'second@shop.example'").pluck().get()
    const by = of.as(String(second))
    expect((await by.ask(inviteMembers, { body: { people: [lene] } })).rows[0]?.link).to.equal(null)
    const id = of.db.$client.prepare("select id from person where email = 'lene@shop.example'").pluck().get()
    expect((await admin.ask(makeLink, { params: { person: String(id) } })).link).to.match(/#/)
    expect((await by.refused(makeLink, { params: { person: String(id) } })).status).to.equal(403)
  })
  it('give no lead a link any more to somebody who may do elsewhere what that lead does not lead', async () => {
    const again = async () => (await invite())[0]?.link ?? null
    await invite()
    expect(await again()).to.not.equal(null)
    addProject(of.db, { key: 'DEPOT', name: 'Depot', product: 'Store', createdAt: 1 })
    const id = String(of.db.$client.prepare("select id from person where email = 'lene@shop.example'").pluck().get())
    await makeAdministrator(of).ask(setRole, { params: { person: id, key: 'DEPOT' }, body: { role: 'tester' } })
    expect(await again()).to.equal(null)
  })
  it('wait for a mail server that does not answer once, and hand the other links over', async () => {
    let tries = 0
    Object.assign(of.services, {
      mail: {
        isSetUp: true,
        send: async () => {
          tries += 1
          throw new Error('no answer')
        },
      },
    })
    const rows = await invite(['x', 'y', 'z'].map((name) => ({ ...lene, email: `${name}@shop.example` })))
    expect([tries, rows.filter(({ link }) => link !== null).length]).to.deep.equal([1, 3])
  })
  it('are refused for somebody whose access was ended, and then bring nobody else in', async () => {
    const admin = makeAdministrator(of)
    await admin.ask(updatePerson, { params: { person: 'stranger' }, body: { ended: true } })
    const before = stored('person')
    const { detail } = await of.lead.refused(inviteMembers, {
      body: { people: [lene, { name: 'S', email: 'stranger@shop.example', role: 'tester' }] },
    })
    expect(detail).to.match(/Stranger Person .* has no access any more; .* Nobody was invited\.$/)
    expect(stored('person')).to.equal(before)
  })
  it('are made by leads and administrators alone', async () => {
    for (const who of [of.tester, of.viewer])
      expect((await who.refused(inviteMembers, { body: { people: [lene] } })).status).to.equal(403)
    expect((await of.lead.refused(invitePeople, { body: { people: [lene] } })).status).to.equal(403)
  })
  it('of an administrator give roles in projects and groups to several at once', async () => {
    const admin = makeAdministrator(of)
    const { id } = await admin.ask(createGroup, { body: { name: 'Night crew' } })
    await admin.ask(updateGroup, { params: { group: id }, body: { roles: [{ project: 'SHOP', role: 'tester' }] } })
    const people = ['a', 'b', 'c'].map((name) => ({ name, email: `${name}@shop.example` }))
    await admin.ask(invitePeople, { body: { people, projects: [{ key: 'SHOP', role: 'viewer' }], groups: [id] } })
    const { rows } = await admin.ask(listPeople, { query: { state: 'invited' } })
    expect(rows.map(({ name, groups, roles }) => [name, groups, roles])).to.deep.equal(
      ['a', 'b', 'c'].map((name) => [name, ['Night crew'], [{ project: 'SHOP', role: 'tester', given: 'viewer' }]]),
    )
    // By the project and, higher, by the group: both are told, of each of them.
    for (const name of people.map((each) => each.name))
      expect(events()).to.include.members([`${name} is viewer in SHOP`, `${name} is tester in SHOP, was viewer`])
    expect((await admin.refused(invitePeople, { body: { people, groups: [id + 1] } })).status).to.equal(400)
  })

  describe('of a forgotten password', () => {
    const ask = (email: string) => open('/password/forgotten', { email })
    it('answers the same whoever asks, and sends a link to who is here', async () => {
      const { letters } = withMail(of)
      const [known, unknown] = [await ask('tester@shop.example'), await ask('nobody@shop.example')]
      expect(known.body).to.deep.equal(unknown.body)
      expect(letters.map(({ to }) => to.address)).to.deep.equal(['tester@shop.example'])
      const secret = secretIn(letters[0]?.text)
      of.pass(2 * 60 * minute)
      expect((await open('/password/link', { link: secret })).status).to.equal(404)
    })
    it('sends nothing to who has no access, and says where no mail leaves', async () => {
      await makeAdministrator(of).ask(updatePerson, { params: { person: 'tester' }, body: { ended: true } })
      const without = await ask('tester@shop.example')
      expect(without.body.told).to.match(/^No mail leaves this installation/)
      const { letters } = withMail(of)
      await ask('tester@shop.example')
      expect(letters).to.deep.equal([])
    })
    it('lets nobody ask again and again', async () => {
      withMail(of)
      const statuses: number[] = []
      for (let n = 0; n < 14; n++) statuses.push((await ask(`p${n}@shop.example`)).status)
      expect(statuses.filter((status) => status === 200)).to.have.length(10)
      expect(statuses.at(-1)).to.equal(429)
    })
  })
})
