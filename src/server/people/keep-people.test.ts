import { expect } from 'chai'
import type { BodyOf } from '#core/lib/contract.ts'
import { listHistory } from '#core/history/contract.ts'
import { inviteMembers, readMember } from '#core/people/members-contract.ts'
import {
  createGroup,
  deleteGroup,
  endSignInsOf,
  listGroups,
  listPeople,
  setRole,
  updateGroup,
  updatePerson,
} from '#core/people/people-contract.ts'
import { listSecurityEvents } from '#core/people/security-contract.ts'
import { readMe } from '#core/people/contract.ts'
import { readProject } from '#core/projects/contract.ts'
import { minute, type Person, shop, type Shop } from '#test/app.ts'
import { makeAdministrator, makeCase, makeDealtRun } from '#test/make.ts'
import { createToken } from './keep-tokens.ts'

describe('the people of the installation', () => {
  let of: Shop
  let admin: Person
  beforeEach(() => {
    of = shop()
    admin = makeAdministrator(of)
  })
  const change = (person: string, of: { body: BodyOf<typeof updatePerson> }) =>
    admin.ask(updatePerson, { params: { person }, ...of })
  const lineOf = async (id: string) =>
    (await admin.ask(listPeople, { query: { limit: 500 } })).rows.find((row) => row.id === id)

  it('are listed by name, found by words, page by page', async () => {
    const all = await admin.ask(listPeople, { query: { limit: 500 } })
    expect(all.rows.map(({ name }) => name)).to.deep.equal(all.rows.map(({ name }) => name).sort())
    const first = await admin.ask(listPeople, { query: { limit: 2 } })
    const second = await admin.ask(listPeople, { query: { limit: 2, cursor: first.next ?? 0 } })
    expect([...first.rows, ...second.rows]).to.deep.equal(all.rows.slice(0, 4))
    const found = await admin.ask(listPeople, { query: { text: 'LEAD shop' } })
    expect([found.total, found.rows[0]?.roles]).to.deep.equal([1, [{ project: 'SHOP', role: 'lead', given: 'lead' }]])
  })
  it('show what each has open', async () => {
    const ref = await makeCase(of.lead, 'Pays')
    await makeDealtRun(of, [ref])
    expect((await lineOf('tester'))?.open).to.deep.equal([{ project: 'SHOP', n: 1 }])
    expect((await lineOf('viewer'))?.open).to.deep.equal([])
  })
  it('come in no more once their access has ended, by sign-in or token, and keep their name on all they did', async () => {
    const ref = await makeCase(of.tester, 'Pays')
    const token = createToken(of.db, { person: 'Tester Person', name: 'CI' })
    await change('tester', { body: { ended: true } })
    expect((await of.tester.send('GET', '/me')).status).to.equal(401)
    expect((await of.ask('GET', '/me', undefined, { authorization: `Bearer ${token}` })).status).to.equal(401)
    const { rows } = await of.lead.ask(listHistory, { query: { ref } })
    expect(rows[0]?.person).to.equal('Tester Person')
    expect((await lineOf('tester'))?.state).to.equal('ended')
    expect((await of.lead.ask(readProject)).people.find(({ id }) => id === 'tester')?.ended).to.equal(true)
  })
  it('come in again with the roles they had, and without the tokens', async () => {
    const token = createToken(of.db, { person: 'Tester Person', name: 'CI' })
    await change('tester', { body: { ended: true } })
    await change('tester', { body: { ended: false } })
    expect((await of.tester.ask(readMe)).projects.map(({ role }) => role)).to.deep.equal(['tester'])
    expect((await of.ask('GET', '/me', undefined, { authorization: `Bearer ${token}` })).status).to.equal(401)
  })
  it('keep one administrator at least', async () => {
    for (const body of [{ administrator: false }, { ended: true }]) {
      const refused = await admin.refused(updatePerson, { params: { person: 'admin' }, body })
      expect([refused.status, refused.detail]).to.deep.equal([
        422,
        'Ada Min is the only administrator; without one nobody could let people in. Make somebody else an administrator first.',
      ])
    }
    await change('lead', { body: { administrator: true } })
    await change('admin', { body: { administrator: false } })
    expect((await of.lead.ask(readMe)).administrator).to.equal(true)
  })
  it('have an address each, in whatever letters it is written', async () => {
    const { status, fields } = await admin.refused(updatePerson, {
      params: { person: 'viewer' },
      body: { email: 'TESTER@shop.example' },
    })
    expect([status, fields]).to.deep.equal([422, ['email']])
    await change('viewer', { body: { email: 'Reader@Shop.example', name: 'Reader Person' } })
    expect((await lineOf('viewer'))?.email).to.equal('reader@shop.example')
  })
  it('are nobody but those there are', async () => {
    for (const contract of [updatePerson, endSignInsOf] as const)
      expect((await admin.refused(contract, { params: { person: 'nobody' }, body: {} })).status).to.equal(404)
    expect(
      (await admin.refused(setRole, { params: { person: 'viewer', key: 'NONE' }, body: { role: 'lead' } })).status,
    ).to.equal(404)
  })
  it('get and lose a role of their own in any project, and both are told', async () => {
    const params = { person: 'stranger', key: 'SHOP' }
    await admin.ask(setRole, { params, body: { role: 'tester' } })
    expect((await of.stranger.ask(readMe)).projects[0]?.role).to.equal('tester')
    await admin.ask(setRole, { params, body: { role: null } })
    expect((await of.stranger.ask(readMe)).projects).to.deep.equal([])
    const told = (await admin.ask(listSecurityEvents, { query: { kind: 'role' } })).rows.map((each) => each.told)
    expect(told).to.deep.equal(['Stranger Person is no longer of SHOP', 'Stranger Person is tester in SHOP'])
    const { rows } = await of.lead.ask(listHistory, { query: { kind: 'project' } })
    expect(rows.map(({ action, person }) => [action, person])).to.deep.equal([
      ['person taken out', 'Ada Min'],
      ['person brought in', 'Ada Min'],
    ])
  })

  describe('in groups', () => {
    const make = async (name = 'Night crew') => (await admin.ask(createGroup, { body: { name } })).id
    const set = (
      group: number,
      body: { people?: string[]; roles?: { project: string; role: 'viewer' | 'tester' | 'lead' }[] },
    ) => admin.ask(updateGroup, { params: { group }, body })
    const roleOf = async (who: Person) => (await who.ask(readMe)).projects[0]?.role ?? null

    it('get what the group gives when they join, and lose it when they leave', async () => {
      const group = await make()
      await set(group, { roles: [{ project: 'SHOP', role: 'tester' }] })
      await set(group, { people: ['stranger'] })
      expect(await roleOf(of.stranger)).to.equal('tester')
      await set(group, { people: [] })
      expect(await roleOf(of.stranger)).to.equal(null)
    })
    it('have the higher of their own role and the group’s', async () => {
      const group = await make()
      await set(group, { people: ['viewer', 'lead'], roles: [{ project: 'SHOP', role: 'tester' }] })
      expect([await roleOf(of.viewer), await roleOf(of.lead)]).to.deep.equal(['tester', 'lead'])
      await admin.ask(deleteGroup, { params: { group } })
      expect([await roleOf(of.viewer), await roleOf(of.lead)]).to.deep.equal(['viewer', 'lead'])
      expect((await admin.ask(listGroups)).rows).to.deep.equal([])
    })
    it('have what is left when one of two groups goes', async () => {
      const [one, other] = [await make('One'), await make('Other')]
      await set(one, { people: ['stranger'], roles: [{ project: 'SHOP', role: 'lead' }] })
      await set(other, { people: ['stranger'], roles: [{ project: 'SHOP', role: 'viewer' }] })
      expect(await roleOf(of.stranger)).to.equal('lead')
      await admin.ask(deleteGroup, { params: { group: one } })
      expect(await roleOf(of.stranger)).to.equal('viewer')
    })
    it('are said to have got, changed and lost a role in the project’s history', async () => {
      const group = await make()
      await set(group, { people: ['stranger', 'viewer'], roles: [{ project: 'SHOP', role: 'tester' }] })
      await set(group, { roles: [] })
      const { rows } = await of.lead.ask(listHistory, { query: { kind: 'project' } })
      expect(rows.map(({ action }) => action).sort()).to.deep.equal(
        ['person brought in', 'person taken out', 'role changed', 'role changed'].sort(),
      )
    })
    it('cannot be called like another, and hold nobody who is not here', async () => {
      const group = await make()
      expect((await admin.refused(createGroup, { body: { name: 'Night crew' } })).fields).to.deep.equal(['name'])
      expect((await admin.refused(updateGroup, { params: { group }, body: { people: ['eve'] } })).status).to.equal(404)
      expect((await admin.refused(updateGroup, { params: { group: group + 1 }, body: {} })).status).to.equal(404)
    })
  })

  describe('and its security events', () => {
    it('are filtered by person, kind and time, newest first, page by page, and read by administrators alone', async () => {
      await of.lead.ask(inviteMembers, { body: { people: [{ name: 'A', email: 'a@shop.example', role: 'tester' }] } })
      of.pass(10 * minute)
      await change('viewer', { body: { ended: true } })
      const { rows } = await admin.ask(listSecurityEvents)
      expect(rows.map(({ told }) => told)).to.deep.equal([
        'The access of Viewer Person was ended',
        'A is tester in SHOP',
        'A (a@shop.example) was invited',
      ])
      expect(rows.map(({ by, project }) => [by, project])).to.deep.equal([
        ['Ada Min', null],
        ['Lead Person', 'SHOP'],
        ['Lead Person', 'SHOP'],
      ])
      const asked = async (query: object) => (await admin.ask(listSecurityEvents, { query })).rows.length
      expect(await asked({ person: 'viewer' })).to.equal(1)
      expect(await asked({ kind: 'role' })).to.equal(1)
      expect([await asked({ from: of.now() }), await asked({ to: of.now() - 1 })]).to.deep.equal([1, 2])
      const first = await admin.ask(listSecurityEvents, { query: { limit: 2 } })
      expect(
        (await admin.ask(listSecurityEvents, { query: { limit: 2, before: first.next ?? 0 } })).rows,
      ).to.have.length(1)
      for (const who of [of.lead, of.tester, of.viewer])
        expect((await who.send('GET', '/security-events')).status).to.not.equal(200)
    })
    it('can be taken away as CSV, which is such an event itself', async () => {
      const { body } = await admin.send('GET', '/security-events.csv')
      expect(String(body).split('\n')[0]).to.equal('When,Kind,Person,By,Project,From,What')
      expect((await admin.ask(listSecurityEvents)).rows[0]?.told).to.equal('The security events were exported')
    })
  })

  it('who lead nothing read nobody’s page', async () => {
    expect((await of.stranger.refused(readMember, { params: { person: 'lead' } })).status).to.equal(404)
  })
})
