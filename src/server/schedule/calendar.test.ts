import { expect } from 'chai'
import { setHolidays } from '#core/projects/contract.ts'
import { changeItems } from '#core/runs/contract.ts'
import {
  createCalendarAddress,
  listCalendarAddresses,
  listDayItems,
  readCalendar,
  revokeCalendarAddress,
} from '#core/schedule/calendar-contract.ts'
import { moveOnDays, readLine } from '#core/schedule/contract.ts'
import { removeMember } from '#core/people/members-contract.ts'
import { addToken } from '#db/people/tokens.ts'
import { hashOf } from '#server/http/secret.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeProving, makeRun } from '#test/make.ts'

describe('the calendar', () => {
  let of: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    of = shop()
    const cases = await makeProving(of.lead, 'Card', 'Cash', 'Voucher, half; "used"')
    run = await makeRun(of, cases)
  })
  const shown = () => of.viewer.ask(readCalendar, { query: { from: '2026-11-23' } })
  const ids = () => run.items.map(({ id }) => id)
  const place = (some: number[], day: string, person = 'tester') =>
    of.lead.ask(moveOnDays, { params: { ref: run.key }, body: { ids: some, to: { person, day } } })

  it('tells what is on whose day, run by run, with what is done of it', async () => {
    await place(ids().slice(0, 2), '2026-11-24')
    await execute(of, ids()[0] ?? 0, 'Passed')
    const told = await shown()
    expect(told.loads).to.have.length(1)
    expect(told.loads[0]).to.include({
      person: 'tester',
      day: '2026-11-24',
      run: run.key,
      items: 1,
      pinned: 1,
      done: 1,
    })
    expect([told.days.length, told.days.filter(({ working }) => working).length]).to.deep.equal([14, 10])
    // The team of the run and who else may execute; the viewer has no day here.
    expect(told.people.map(({ id }) => id))
      .to.include.members(['tester', 'second'])
      .and.to.not.include('viewer')
    expect(told.runs[0]).to.include({ key: run.key, items: 2, placed: 1, all: 3 })
    const { rows, total } = await of.viewer.ask(listDayItems, { query: { person: 'tester', day: '2026-11-24' } })
    expect([rows.map(({ id }) => id), total]).to.deep.equal([ids().slice(0, 2), 2])
  })

  it('knows days by builds, releases, iterations, milestones, holidays, and what is due', async () => {
    await of.lead.ask(changeItems, { params: { ref: run.key }, body: { ids: ids(), set: { dueOn: '2026-11-26' } } })
    await of.lead.ask(setHolidays, { body: { days: [{ day: '2026-11-25', name: 'Harbour day' }] } })
    const told = await shown()
    expect(told.marks).to.deep.include({ day: '2026-11-26', kind: 'due', words: '3 items due', key: run.key })
    expect(told.days[2]).to.deep.equal({ day: '2026-11-25', working: false, holiday: 'Harbour day' })
    const before = await of.viewer.ask(readCalendar, { query: { from: '2026-11-16' } })
    expect(before.marks.map(({ words }) => words))
      .to.include('1.0.0')
      .and.to.include('1.0.1')
    const weeks = await of.viewer.ask(readCalendar, { query: { from: '2026-11-23', days: 56 } })
    expect(weeks.marks).to.deep.include({ day: '2026-12-15', kind: 'release', words: '1.0 due', key: null })
    expect(weeks.people[0]?.minutes).to.have.length(56)
  })

  it('takes a person’s day for what is planned in other projects, without a name', async () => {
    const told = await shown()
    expect(told.people.every(({ busy }) => busy.every((each) => each === 0))).to.equal(true)
  })

  // Whoever has the address asks without signing in.
  const file = async (path: string) => {
    const { status, headers, body } = await of.ask('GET', path.replace('/api/v1', ''))
    return { status, type: headers.get('content-type'), text: String(body) }
  }

  it('is read at an address nobody can guess: one’s own days, each a whole day, with what is on them', async () => {
    await place(ids(), '2026-11-24')
    const { path } = await of.tester.ask(createCalendarAddress, { body: { run: null } })
    expect(path).to.match(/^\/api\/v1\/calendar\.ics\?of=rvc_[\w-]{32}$/)
    const { text, type } = await file(path)
    expect(type).to.equal('text/calendar; charset=utf-8')
    const lines = text.replaceAll('\r\n ', '').split('\r\n')
    expect(lines).to.include.members([
      'BEGIN:VCALENDAR',
      'DTSTART;VALUE=DATE:20261124',
      'DTEND;VALUE=DATE:20261125',
      'SUMMARY:The run: 3 items\\, 12 min',
    ])
    // What has a meaning in the file is escaped.
    expect(lines.find((each) => each.startsWith('DESCRIPTION'))).to.include('Voucher\\, half\\; "used"')
  })

  it('has the same days whatever the clock of the server shows', async () => {
    await place(ids(), '2026-11-24')
    const { path } = await of.tester.ask(createCalendarAddress, { body: { run: null } })
    const before = process.env['TZ']
    const texts: string[] = []
    for (const zone of ['UTC', 'Pacific/Kiritimati', 'America/Adak']) {
      process.env['TZ'] = zone
      texts.push((await file(path)).text)
    }
    if (before === undefined) delete process.env['TZ']
    else process.env['TZ'] = before
    expect(texts[1]).to.equal(texts[0])
    expect(texts[2]).to.equal(texts[0])
  })

  it('tells a run by its days, people and due days', async () => {
    await place(ids().slice(0, 1), '2026-11-24')
    await of.lead.ask(changeItems, { params: { ref: run.key }, body: { ids: ids(), set: { dueOn: '2026-11-26' } } })
    const { path } = await of.viewer.ask(createCalendarAddress, { body: { run: run.key } })
    const { text } = await file(path)
    expect(text.match(/^SUMMARY:.*$/gm)?.map((line) => line.trim())).to.deep.equal([
      `SUMMARY:${run.key} The run`,
      'SUMMARY:Tester Person: 1 item\\, 4 min',
      'SUMMARY:Due: 3 items of The run',
    ])
    expect(text).to.include('DTSTART;VALUE=DATE:20261123').and.to.include('DTEND;VALUE=DATE:20261201')
  })

  it('tells nothing any more once it is revoked, or its person has left; and nothing to who guesses', async () => {
    const made = async () => (await of.tester.ask(createCalendarAddress, { body: { run: null } })).path
    const [first, second] = [await made(), await made()]
    of.pass(minute)
    await file(first)
    const { rows } = await of.tester.ask(listCalendarAddresses)
    expect(rows.map(({ readAt }) => readAt === null)).to.deep.equal([true, false])
    // Nobody else's are seen or revoked.
    expect((await of.lead.ask(listCalendarAddresses)).rows).to.deep.equal([])
    const id = rows[1]?.id ?? 0
    expect((await of.lead.refused(revokeCalendarAddress, { params: { id } })).status).to.equal(404)
    await of.tester.ask(revokeCalendarAddress, { params: { id } })
    expect((await file(first)).status).to.equal(404)
    expect((await file(second)).status).to.equal(200)
    expect((await file(`/calendar.ics?of=${'x'.repeat(36)}`)).status).to.equal(404)
    await of.lead.ask(removeMember, { params: { person: 'tester' } })
    expect((await file(second)).status).to.equal(404)
  })

  it('is not made with a token, which it would outlive, and falls silent once its person may not come in any more', async () => {
    const token = `rvt_test`
    addToken(of.db, {
      personId: 'tester',
      projectId: null,
      name: 'For scripts',
      hash: hashOf(token),
      scope: 'write',
      createdAt: of.now(),
      endsAt: null,
    })
    const asked = await of.ask(
      'POST',
      '/projects/SHOP/calendar/addresses',
      { run: null },
      { authorization: `Bearer ${token}` },
    )
    expect(asked.status).to.be.within(400, 499)
    const { path } = await of.tester.ask(createCalendarAddress, { body: { run: null } })
    expect((await file(path)).status).to.equal(200)
    of.db.$client.prepare(`update person set ended_at = 1 where id = 'tester'`).run()
    expect((await file(path)).status).to.equal(404)
  })

  it('keeps of an address nothing it could be told from', async () => {
    const { path } = await of.tester.ask(createCalendarAddress, { body: { run: null } })
    const secret = path.split('=')[1] ?? ''
    const tables = of.db.$client.serialize().toString('latin1')
    expect([secret.length > 30, tables.includes(secret)]).to.deep.equal([true, false])
  })

  it('says of what slipped where it was, on the line of its run', async () => {
    await place(ids().slice(0, 1), '2026-11-23')
    of.pass(24 * 60 * minute)
    const line = await of.viewer.ask(readLine, { params: { ref: run.key } })
    expect(line.slipped).to.deep.equal([{ item: ids()[0], person: 'tester', day: '2026-11-23' }])
    expect((await shown()).loads[0]).to.include({ day: '2026-11-23', items: 1 })
  })
})
