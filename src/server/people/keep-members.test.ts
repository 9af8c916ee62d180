import { expect } from 'chai'
import { createDefect } from '#core/defects/contract.ts'
import { listHistory } from '#core/history/contract.ts'
import {
  addAbsence,
  dropAbsence,
  handOver,
  readMember,
  removeMember,
  updateHours,
  updateMember,
} from '#core/people/members-contract.ts'
import { createGroup, updateGroup } from '#core/people/people-contract.ts'
import { changeCases, readCase } from '#core/cases/contract.ts'
import { changeDefects, readDefect } from '#core/defects/contract.ts'
import { readProject, readToday } from '#core/projects/contract.ts'
import { changeRequirements } from '#core/requirements/contract.ts'
import { listItems, readRun } from '#core/runs/contract.ts'
import { day, shop, type Shop } from '#test/app.ts'
import { idOf, makeAdministrator, makeCase, makeDealtRun, makeRequirements, requirement } from '#test/make.ts'

describe('the people of a project', () => {
  let of: Shop
  beforeEach(() => {
    of = shop()
  })
  const member = (person: string, by = of.lead) => by.ask(readMember, { params: { person } })
  const params = (person: string) => ({ params: { person } })

  it('have a role, a share and skills that a lead changes, which the history tells', async () => {
    await of.lead.ask(updateMember, {
      ...params('tester'),
      body: { role: 'viewer', sharePercent: 50, skills: ['card'] },
    })
    const { role, sharePercent, skills } = await member('tester')
    expect([role, sharePercent, skills]).to.deep.equal(['viewer', 50, ['card']])
    const { rows } = await of.lead.ask(listHistory, { query: { kind: 'project' } })
    expect(rows.map(({ action }) => action)).to.deep.equal(['hours changed', 'role changed'])
    expect(rows[0]?.detail).to.deep.equal({
      'Tester Person, share': [100, 50],
      'Tester Person, skills': ['', 'card'],
    })
    for (const who of [of.tester, of.viewer])
      expect((await who.refused(updateMember, { ...params('viewer'), body: { role: 'lead' } })).status).to.equal(403)
  })
  it('cannot take the role of lead from themselves, but another lead can', async () => {
    expect((await of.lead.refused(updateMember, { ...params('lead'), body: { role: 'tester' } })).detail).to.match(
      /could not give it back/,
    )
    expect((await of.lead.refused(removeMember, params('lead'))).status).to.equal(422)
    await of.as('second').ask(updateMember, { ...params('lead'), body: { role: 'tester' } })
    expect((await member('lead')).role).to.equal('tester')
  })
  it('have at least what their group gives, and say so', async () => {
    const admin = makeAdministrator(of)
    const { id } = await admin.ask(createGroup, { body: { name: 'Crew' } })
    await admin.ask(updateGroup, {
      params: { group: id },
      body: { people: ['viewer'], roles: [{ project: 'SHOP', role: 'tester' }] },
    })
    expect((await of.lead.refused(updateMember, { ...params('viewer'), body: { role: 'viewer' } })).detail).to.match(
      /^A group gives Viewer Person the role tester/,
    )
    expect((await of.lead.refused(removeMember, params('viewer'))).detail).to.match(/^A group gives them/)
    const { role, givenRole, groups } = await member('viewer')
    expect([role, givenRole, groups]).to.deep.equal(['tester', 'viewer', ['Crew']])
  })
  it('are taken out only with nothing open, and brought back with what they did in their name', async () => {
    const ref = await makeCase(of.tester, 'Pays')
    await makeDealtRun(of, [ref])
    expect((await of.lead.refused(removeMember, params('tester'))).detail).to.equal(
      'Tester Person still has 1 open items and defects here. Hand them over first, then take them out.',
    )
    await of.lead.ask(handOver, { ...params('tester'), body: { to: 'lead' } })
    await of.lead.ask(removeMember, params('tester'))
    expect((await of.tester.send('GET', '/projects/SHOP')).status).to.equal(404)
    const { rows } = await of.lead.ask(listHistory, { query: { ref } })
    expect(rows.at(-1)?.person).to.equal('Tester Person')
  })

  describe('handing work over', () => {
    it('moves what is open and what is owned, leaves what is done, and can be given back', async () => {
      const [rq = ''] = await makeRequirements(of.lead, 'Tickets', 'Others')
      const owned = await makeCase(of.lead, 'Pays')
      const run = await makeDealtRun(of, [owned, await makeCase(of.lead, 'Refunds')])
      const defect = await of.tester.ask(createDefect, { body: { title: 'Wrong sum', severity: 'Major' } })
      const own = { ownerId: 'tester' }
      await of.lead.ask(changeRequirements, { body: { ids: [(await requirement(of.lead, rq)).id], set: own } })
      await of.lead.ask(changeCases, { body: { ids: [await idOf(of.lead, owned)], set: own } })
      const read = await of.lead.ask(readDefect, { params: { ref: defect.key } })
      await of.lead.ask(changeDefects, { body: { ids: [read.id], set: own } })

      const done = await of.lead.ask(handOver, { ...params('tester'), body: { to: 'second' } })
      expect(done.moved).to.equal(5)
      const { work } = await member('second')
      expect([work.itemsTotal, work.requirements, work.cases, work.defects.map(({ title }) => title)]).to.deep.equal([
        2,
        1,
        1,
        ['Wrong sum'],
      ])
      expect((await of.lead.ask(readRun, { params: { ref: run.key } })).team.map(({ id }) => id)).to.include('second')
      const versions = async () => (await of.lead.ask(readCase, { params: { ref: owned } })).version
      const before = await versions()
      await of.lead.ask(changeCases, { body: { ids: done.cases, set: own } })
      expect([(await member('tester')).work.cases, await versions()]).to.deep.equal([1, before + 1])
    })
    it('goes to nobody who may not execute, and not to the same person', async () => {
      for (const to of ['viewer', 'tester'])
        expect((await of.lead.refused(handOver, { ...params('tester'), body: { to } })).status, to).to.equal(400)
      expect((await of.lead.refused(handOver, { ...params('tester'), body: { to: 'stranger' } })).status).to.equal(400)
      expect((await of.tester.refused(handOver, { ...params('lead'), body: { to: 'tester' } })).status).to.equal(403)
    })
    it('leaves what was executed with who executed it', async () => {
      const ref = await makeCase(of.lead, 'Pays')
      const run = await makeDealtRun(of, [ref])
      of.db.$client.prepare("update item set verdict = 'Passed'").run()
      expect((await of.lead.ask(handOver, { ...params('tester'), body: { to: 'lead' } })).moved).to.equal(0)
      const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
      expect(rows[0]?.assigneeId).to.equal('tester')
    })
  })

  describe('and their time', () => {
    const today = '2026-11-23'
    const minutes = async (on: string) => (await member('tester')).days.find((each) => each.day === on)?.minutes
    it('follows their hours, share and absences, day by day', async () => {
      expect((await member('tester')).days.map((each) => each.day).slice(0, 2)).to.deep.equal([today, '2026-11-24'])
      await of.tester.ask(updateHours, { ...params('tester'), body: { workingMinutes: 400, freePercent: 75 } })
      expect(await minutes(today)).to.equal(300)
      await of.lead.ask(updateMember, { ...params('tester'), body: { sharePercent: 50 } })
      expect(await minutes(today)).to.equal(150)
      const { id } = await of.tester.ask(addAbsence, {
        ...params('tester'),
        body: { startOn: today, endOn: '2026-11-24', reason: 'holiday' },
      })
      expect([await minutes(today), await minutes('2026-11-24'), await minutes('2026-11-25')]).to.deep.equal([
        0, 0, 150,
      ])
      await of.tester.ask(dropAbsence, { params: { person: 'tester', id } })
      expect(await minutes(today)).to.equal(150)
      expect(await minutes('2026-11-28')).to.equal(0)
    })
    it('is what Today counts against, on the day itself', async () => {
      const capacity = async () => (await of.tester.ask(readToday)).capacityMinutes
      expect(await capacity()).to.equal(288)
      await of.tester.ask(addAbsence, { ...params('tester'), body: { startOn: today, endOn: today, minutes: 240 } })
      expect(await capacity()).to.equal(144)
      of.pass(5 * day)
      expect(await capacity()).to.equal(0)
    })
    it('is theirs and their leads’ to say', async () => {
      const body = { workingMinutes: 100 }
      expect((await of.tester.refused(updateHours, { ...params('viewer'), body })).status).to.equal(403)
      expect(
        (await of.viewer.refused(addAbsence, { ...params('tester'), body: { startOn: today, endOn: today } })).status,
      ).to.equal(403)
      await of.lead.ask(updateHours, { ...params('viewer'), body })
      expect((await member('viewer')).workingMinutes).to.equal(100)
    })
    it('refuses an absence that ends before it begins, and one of somebody else', async () => {
      const wrong = await of.tester.refused(addAbsence, {
        ...params('tester'),
        body: { startOn: '2026-11-25', endOn: '2026-11-24' },
      })
      expect([wrong.status, wrong.fields]).to.deep.equal([400, ['endOn']])
      const { id } = await of.tester.ask(addAbsence, { ...params('tester'), body: { startOn: today, endOn: today } })
      expect((await of.lead.refused(dropAbsence, { params: { person: 'viewer', id } })).status).to.equal(404)
    })
    it('tells of other projects only those the asker may read', async () => {
      of.db.$client
        .prepare(
          "insert into project (key, name, product, time_zone, created_at) values ('DEPOT', 'Depot', 'D', 'UTC', 1)",
        )
        .run()
      const depot = of.project('DEPOT').id
      of.db.$client
        .prepare(
          "insert into membership (project_id, person_id, role, share_percent) values (?, 'tester', 'tester', 40)",
        )
        .run(depot)
      expect((await member('tester')).elsewhere).to.deep.equal([])
      expect((await member('tester', of.tester)).elsewhere).to.deep.equal([
        { key: 'DEPOT', name: 'Depot', sharePercent: 40 },
      ])
    })
  })
  it('of the project alone have a page in it', async () => {
    for (const person of ['stranger', 'nobody'])
      expect((await of.lead.refused(readMember, params(person))).status).to.equal(404)
    expect((await of.lead.ask(readProject)).people.map(({ id }) => id)).to.not.include('stranger')
  })
})
