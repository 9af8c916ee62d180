import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { signalsOf } from '#core/cases/signals.ts'
import type { Sample } from '#core/projects/contract.ts'
import { dayIn } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { outsideReferences } from '#db/requirements/outside.ts'
import { int, rowsOf, text } from '#db/rows.ts'
import { type App, day, memoryApp, startOfTests } from '#test/app.ts'
import { demoDb } from '#test/memory.ts'
import { expectSound } from '#test/sound.ts'
import { buildNamed } from '../standins/crossing-desk/builds.ts'
import { faults } from '../standins/crossing-desk/faults.ts'
import { basis } from './basis/all.ts'
import { oddCases } from './basis/odd.ts'
import { contentOf } from './fill-basis.ts'
import { nameDesk } from './fill.ts'
import { sights } from './sights.ts'
import { zone } from './story/calendar.ts'
import { unreliable } from './story/attempts.ts'
import { metBy } from './story/looking.ts'
import { trackerIssues } from './tracker-issues.ts'

// Read back from what is stored, as somebody who looks around would, and not from what was meant to be stored.
describe('the sample project as it is stored', () => {
  let app: App
  let sample: Sample
  before(async () => {
    app = memoryApp(await demoDb(startOfTests))
    sample = await get('sample')
  })
  const get = async (path: string) => {
    const { status, body } = await app.as('mira').send('GET', `/projects/FERRY/${path}`)
    expect([path, status]).to.deep.equal([path, 200])
    return body
  }
  it('has learned what its attempts teach', () => {
    expectSound(app)
    expect(rowsOf(app.db, { n: int }, sql`select count(*) as n from minutes_model`)[0]?.n).to.be.above(0)
  })
  const folders: Readonly<Record<string, string>> = {
    TS: 'suites',
    PL: 'plans',
    RQ: 'requirements',
    TC: 'cases',
    DF: 'defects',
    RN: 'runs',
    RT: 'routines',
  }
  const at = (sight: keyof typeof sights): string =>
    sample.sights.find(({ title }) => title === sights[sight].title)?.place ?? ''
  const read = (sight: keyof typeof sights) => {
    const [place = ''] = at(sight).split('/')
    return get(`${folders[place.slice(0, 2)]}/${place}`)
  }

  it('is of the size that the scenario tells', async () => {
    const counted = async (list: string) => (await get(`${list}?limit=1`)).total
    expect(await counted('requirements')).to.be.within(55, 65)
    expect(await counted('cases')).to.be.within(230, 265)
    expect(await counted('runs')).to.equal(6)
    expect(await counted('defects')).to.be.within(40, 55)
    const { body } = await app.as('mira').send('GET', '/projects/DEPOT/cases?limit=1')
    expect(body.total).to.equal(30)
  })

  it('tells no verdict that the table of faults contradicts, without somebody saying why', () => {
    const told = rowsOf(
      app.db,
      { title: text, build: text, environment: text, verdict: text, said: text },
      sql`
        select c.title, b.name as build, e.name as environment, a.verdict,
          coalesce((select group_concat(s.comment, ' ') from attempt_step s where s.attempt_id = a.id), '') as said
        from attempt a
        join test_case c on c.id = a.case_id
        join build b on b.id = a.build_id
        join environment e on e.id = a.environment_id`,
    )
    expect(told.length).to.be.within(1300, 1700)
    const passedAll: string[] = []
    for (const { title, build, environment, verdict, said } of told) {
      const own = basis.cases.find((each) => each.title === title)
      const met = own ? metBy(own, buildNamed(build) ?? '2.3.4', environment) : null
      const where = `${title}, ${build}, ${environment}`
      if (verdict === 'Passed' && met) passedAll.push(where)
      else if (verdict === 'Failed')
        expect(met ? said.includes(faults[met.fault].see) : said.includes('clock stood still'), where).to.equal(true)
      else if (verdict !== 'Passed') expect(said.trim(), where).to.not.equal('')
    }
    const overlooked = passedAll.filter((where) => !/^Bow limit moves freight aft, .*phone$/.test(where))
    expect([overlooked, passedAll.length > 0]).to.deep.equal([[], true])
  })

  it('marks the failing step where the fault is met, and none behind it', () => {
    const wrong = rowsOf(
      app.db,
      { id: int },
      sql`
        select a.id
        from attempt a
        where a.verdict = 'Failed'
          and (select count(*) from attempt_step s where s.attempt_id = a.id and s.verdict = 'Failed') = 0`,
    )
    expect(wrong).to.deep.equal([])
  })

  it('has no filler: what is done stands in few cases, outside routines', () => {
    const counts = rowsOf(
      app.db,
      { action: text, n: int },
      sql`
        select s.action, count(distinct v.case_id) as n
        from version_step s
        join case_version v on v.id = s.version_id and v.major is null
        where s.use_routine_version_id is null and s.use_case_version_id is null
        group by s.action
        having n > 4`,
    )
    expect(counts).to.deep.equal([])
  })

  it('has preconditions, parameters with rows, and routines where a tester would use them', () => {
    const of = (what: (own: (typeof basis.cases)[number]) => boolean) => basis.cases.filter(what).length
    expect(of(({ before }) => before !== '')).to.be.at.least(15)
    expect(of(({ rows }) => rows.length > 1)).to.be.at.least(35)
    expect(of(({ steps }) => steps.some((step) => 'routine' in step))).to.be.at.least(90)
  })

  it('has ten accepted cases from each technique', () => {
    const counts = rowsOf(
      app.db,
      { technique: text, n: int },
      sql`
        select m.technique, count(*) as n
        from draft_row r
        join draft_model m on m.id = r.model_id
        where r.decision = 'accepted'
        group by m.technique`,
    )
    expect(counts.map(({ technique }) => technique)).to.have.members(['boundaries', 'combos', 'decisions', 'paths'])
    for (const { technique, n } of counts) expect([technique, n >= 10]).to.deep.equal([technique, true])
  })

  it('has a reason for the risk of each requirement, and two issues outside that say something else', async () => {
    const { rows } = await get('requirements?limit=100')
    const [field] = (await get('requirements/RQ-2')).fields.filter(
      ({ name }: { name: string }) => name === 'Why this risk',
    )
    const leaves = rows.filter(({ hasChildren }: { hasChildren: boolean }) => !hasChildren)
    expect(
      leaves.filter(({ custom }: { custom: Record<string, string[]> }) => !custom[String(field.id)]?.[0]),
    ).to.deep.equal([])
    const here = new Map(outsideReferences(app.db, 'FERRY').map((own) => [own.ref, own]))
    const other = trackerIssues(app.db, 'FERRY').filter(
      ({ ref, title, body }) => title !== here.get(ref)?.title || body !== plainText(here.get(ref)?.text ?? ''),
    )
    expect(here.size).to.be.greaterThan(20)
    expect(other.map(({ ref }) => ref)).to.have.members(['HARB-231', 'HARB-127'])
  })

  describe('what is told of it', () => {
    it('leads somewhere, each time to another place', () => {
      const places = sample.sights.map(({ place }) => place)
      expect(new Set(places).size).to.equal(places.length)
      expect(sample.sights.length).to.be.at.least(15)
    })
    it('a project of one’s own tells nothing', async () => {
      const { status, body } = await app.as('mira').send('GET', '/projects/DEPOT/sample')
      expect([status, body.detail]).to.deep.equal([404, 'DEPOT is no sample project.'])
    })
    it('a defect came back: closed, and open again after it', async () => {
      const states = (await read('came back')).states.map(({ state }: { state: string }) => state)
      expect(states.indexOf('Confirmed')).to.equal(states.indexOf('Closed') + 1)
    })
    it('a requirement is uncovered, agreed, and no small risk', async () => {
      const own = await read('uncovered')
      expect([own.cases, own.state, own.risk >= 12]).to.deep.equal([0, 'Agreed', true])
      expect((await get('reports/gaps')).requirementsWithoutCase[0].key).to.equal(own.key)
    })
    it('links are suspect', async () => expect((await read('suspect')).suspect).to.be.greaterThan(0))
    it('the issue outside has another title', async () => {
      const own = await read('outside')
      const issue = trackerIssues(app.db, 'FERRY').find(({ ref }) => ref === own.outside)
      expect(issue?.title).to.match(/30 for a group/)
    })
    it('a case was changed after its last result', async () =>
      expect((await read('changed')).slots.flatMap(({ reasons }: { reasons: string[] }) => reasons)).to.include(
        'case changed',
      ))
    it('a repair waits for its retest', async () => {
      const own = await read('not retested')
      expect([own.state, own.fixedIn]).to.deep.equal(['Ready to retest', '2.4.0-rc1'])
    })
    it('a review goes on', async () => {
      const own = await read('review')
      expect([own.state, own.suggestions.length > 0]).to.deep.equal(['In review', true])
      expect((await get(`comments?ref=${own.key}`)).rows.length).to.be.greaterThan(0)
    })
    it('three cases are badly written, each in a way that the signals name', async () => {
      expect(signalsOf((await read('vague')).content).map(({ kind }) => kind)).to.deep.equal(['no expected result'])
      const bad = oddCases.slice(0, 3).map((own) => signalsOf(contentOf(own, new Map(), 'new')).map(({ kind }) => kind))
      expect(bad).to.deep.equal([['no expected result'], ['several actions'], ['several actions', 'missing value']])
    })
    it('a case repeats another nearly word for word', async () => {
      const words = ({ content }: { content: { steps: { action: string }[] } }) =>
        new Set(content.steps.flatMap(({ action }) => plainText(action).split(/\W+/)))
      const own = words(await read('twice'))
      const other = basis.cases.find(({ title }) => title === 'Card is charged once on a double tap')
      const found = await get(`cases?text=${encodeURIComponent('double tap')}&limit=5`)
      const twin = found.rows.find(({ title }: { title: string }) => title === other?.title)
      const theirs = words(await get(`cases/${twin.key}`))
      const shared = [...own].filter((word) => theirs.has(word)).length
      expect(shared / Math.max(own.size, theirs.size)).to.be.greaterThan(0.7)
    })
    it('a suite has grown since its last run, by a rule', async () => {
      const own = await read('grown')
      expect([own.made, own.exclusions.length]).to.deep.equal(['1 rule', 1])
      const { run, came } = await get(`suites/${own.key}/changes`)
      expect([run.title, came.length, came[0].by]).to.deep.equal(['Rc2 regression', 3, 'Mira Kell'])
      expect(own.news).to.equal(3)
    })
    it('a smoke suite stays within an hour, and says what each case adds', async () => {
      const own = await read('smoke')
      expect(own.minutes).to.be.within(45, 60)
      for (const { why } of own.members) expect(why).to.match(/^adds RQ-\d+.* of risk in \d+ min$/)
    })
    it('two exit criteria are not met and one is waived, and there is a way to go', async () => {
      const [place = ''] = at('enough').split('?')
      const { exit, criteria } = await get(`plans/${place}/criteria`)
      expect(exit).to.deep.equal({ met: 5, of: 8, waived: 1 })
      const open = criteria.filter(({ outcome }: { outcome: string }) => outcome === 'not met')
      expect(open.length).to.equal(2)
      for (const { missing } of open) expect(missing.total).to.be.greaterThan(0)
      expect((await get(`plans/${place}/shortest-way`)).total).to.be.greaterThan(10)
      const { risks, people, milestones, parts } = await get(`plans/${place}`)
      expect([risks.length, people.length, milestones.length]).to.deep.equal([4, 4, 2])
      for (const part of ['why', 'what', 'where', 'when']) expect(parts[part], part).to.not.equal('')
    })
    it('a plan was sent back, signed, and has changed since; another waits for a signature', async () => {
      const { signed, frozen } = await get(`plans/${at('signed').split('?')[0]}`)
      expect([signed.version, signed.by.length, frozen]).to.deep.equal([2, 3, null])
      expect([signed.changes, signed.came]).to.satisfy((n: number[]) => n.every((each) => each > 0))
      const { rows } = await get(`plans/${at('signed').split('?')[0]}/versions`)
      expect(rows.map(({ state }: { state: string }) => state)).to.deep.equal(['Signed off', 'Sent back'])
      const { asked } = await get(`plans/${at('asked').split('?')[0]}`)
      expect([asked.version, asked.changes, asked.signatures.length]).to.deep.equal([1, 0, 2])
      expect((await get('today')).reviews[0].version).to.equal('1')
    })
    it('a closed plan is told by the version that was signed', async () => {
      const { frozen, signed, state } = await get(`plans/${at('carried').split('?')[0]}`)
      expect([state, frozen, signed.changes, signed.went]).to.deep.equal(['Closed', 1, 0, 0])
    })
    it('a plan is worth carrying over: groups to decide about, and what is new and unproved', async () => {
      const { build, groups, uncovered } = await get(`plans/${at('carried').split('?')[0]}/carry`)
      const totals = new Map(groups.map(({ group, total }: { group: string; total: number }) => [group, total]))
      for (const group of ['retired', 'failing', 'not executed', 'basis changed', 'still holds'])
        expect(totals.get(group), group).to.be.greaterThan(0)
      expect([build, uncovered.length > 0]).to.deep.equal(['2.3.4', true])
    })
    it('a plan asks in several ways, and a tablet is out of use', async () => {
      const [place = ''] = at('matrix').split('?')
      const { columns, figures } = await get(`plans/${place}/matrix`)
      expect(columns.map(({ outage }: { outage: string | null }) => outage).filter(Boolean)).to.deep.equal([
        'Mast down on the quay',
      ])
      for (const what of ['empty', 'stale', 'failing']) expect(figures[what], what).to.be.greaterThan(0)
      const { asks } = await get(`plans/${place}`)
      expect(new Set(asks.map(({ way }: { way: string }) => way)).size).to.equal(3)
      const { rows } = await get('environments')
      const dark = rows.flatMap(({ outages }: { outages: { attempts: number }[] }) => outages)
      expect(dark.some(({ attempts }: { attempts: number }) => attempts > 10)).to.equal(true)
    })
    it('one bench is behind: another build stands there than is offered', async () => {
      const { rows } = await get('environments')
      const stands = rows.flatMap(({ name, installed }: { name: string; installed: { build: string } | null }) =>
        installed && installed.build !== '2.4.0-rc2' ? [[name, installed.build]] : [],
      )
      expect(stands).to.deep.equal([['Gecko, desk', '2.4.0-rc1']])
    })
    it('a build is in intake, and says what it touches', async () => {
      const { builds } = await get('')
      const own = builds.find(({ state }: { state: string }) => state === 'Intake')
      const { effect, smoke, touches } = await get(`builds/${own.id}`)
      expect(touches.components).to.deep.equal(['Platform', 'Weather'])
      expect([effect.stale > 0, effect.spared > effect.stale, smoke.passed]).to.deep.equal([true, true, 0])
    })
    it('users of a routine are behind', async () => expect((await read('behind')).behind).to.be.greaterThan(0))
    it('a case passed and failed on one build', async () => {
      const own = await read('unreliable')
      expect(own.title).to.equal(unreliable)
      const verdicts = own.attempts.map(
        ({ verdict, build }: { verdict: string; build: string }) => `${build} ${verdict}`,
      )
      const builds = new Set(own.attempts.map(({ build }: { build: string }) => build))
      expect(
        [...builds].some((build) => verdicts.includes(`${build} Passed`) && verdicts.includes(`${build} Failed`)),
      ).to.equal(true)
    })
    it('a day is blocked', async () => expect((await read('outage')).verdicts.Blocked).to.be.greaterThan(5))
    it('one fault is told twice', async () => {
      const own = await read('told twice')
      const other = (await get(`defects?text=${encodeURIComponent('4.51')}&limit=5`)).rows
      expect(other.map(({ title }: { title: string }) => title)).to.include(faults['band-cut-to-decimetres'].defect)
      expect([own.results, own.state]).to.deep.equal([0, 'Reported'])
    })
    it('a build was refused', async () => {
      const { builds } = await get('')
      expect(builds.find(({ name }: { name: string }) => name === '2.4.0-rc3').state).to.equal('Refused')
      expect((await read('refused')).foundIn).to.equal('2.4.0-rc3')
    })
    it('drafting tables are there, partly answered', async () => {
      for (const sight of ['table', 'graph'] as const) {
        const [place = ''] = at(sight).split('/')
        const { models } = await get(`requirements/${place}/drafting`)
        expect(models[0].rows.length, sight).to.be.within(4, 12)
      }
    })
    it('a failure has its picture', async () => expect((await read('picture')).evidence.length).to.be.greaterThan(0))
    it('half of a run is left, more than its people have in the days to its end', async () => {
      const own = await read('hours')
      expect(own.state).to.equal('Open')
      expect(own.done / own.items).to.be.within(0.4, 0.65)
    })
    it('items wait for repairs, some of which have come; whoever has them was told', async () => {
      const [ref = ''] = at('freed').split('?')
      const by = async (value: string) =>
        (
          await get(
            `runs/${ref}/items?filter=${encodeURIComponent(JSON.stringify({ field: 'waits', op: 'is', values: [value] }))}`,
          )
        ).rows
      const [freed, waiting] = [await by('freed'), await by('waiting')]
      expect([freed.length > 0, waiting.length > 0]).to.deep.equal([true, true])
      for (const { waits } of freed) expect(waits.every(({ over }: { over: boolean }) => over)).to.equal(true)
      const { tags } = await get(`runs/${ref}`)
      expect(tags).to.deep.equal(['regression', 'release'])
      const { rows } = await get(`runs/${ref}/items?limit=500`)
      const some = (holds: (row: { several: object | null; quarantine: string | null }) => boolean) => rows.some(holds)
      expect([some(({ several }) => several !== null), some(({ quarantine }) => quarantine !== null)]).to.deep.equal([
        true,
        true,
      ])
    })
    it('a closed run was amended by a lead, and says so', async () => {
      const { state, amendedCount, afterClose } = await read('amended')
      expect([state, amendedCount]).to.deep.equal(['Closed', 1])
      expect(
        afterClose.map(({ person, verdict, counts }: (typeof afterClose)[number]) => [person, verdict, counts]),
      ).to.deep.equal([['Mira Kell', 'Passed', true]])
    })
    it('verdicts of its own are in use, and reasons', async () => {
      const { verdictKinds, reasons } = await get('')
      expect(verdictKinds.map(({ word }: { word: string }) => word)).to.deep.equal([
        'With a remark',
        'To be seen aboard',
      ])
      expect(reasons.length).to.be.greaterThan(4)
      expect((await read('hours')).words).to.deep.equal({ 'With a remark': 3 })
    })
    it('a run has rules of its own', async () => {
      const { ownPolicy, policy } = await read('rules')
      expect([ownPolicy, policy.closes, policy.asked.Failed]).to.deep.equal([
        true,
        'when all is executed',
        ['a defect'],
      ])
    })
    it('names the application it tests for as long as that runs', async () => {
      expect(sample.desk).to.equal(null)
      nameDesk(app.db, 'http://127.0.0.1:4322')
      expect((await get('sample')).desk).to.equal('http://127.0.0.1:4322')
      nameDesk(app.db, null)
      expect(await get('sample')).to.deep.equal(sample)
    })
    it('says when it was filled', () => expect(sample.filledAt).to.be.within(startOfTests - day, startOfTests))
  })
})

describe('the sample project, whenever it is begun', () => {
  // Before a week-end, on a day of it, and in the hour in which a machine’s clock and the project’s tell different days.
  for (const at of ['2026-11-27T10:00Z', '2026-11-28T10:00Z', '2026-11-29T23:30Z'])
    it(`has two days with hours that do not fit, somebody with too much on one, and what slipped: ${at}`, async () => {
      const now = Date.parse(at)
      const app = memoryApp(await demoDb(now))
      app.pass(now - startOfTests)
      const { body } = await app.as('mira').send('GET', '/projects/FERRY/runs/RN-5/line')
      const { days, hands, hours, above, ids, slipped, criteria } = body as LineAnswer
      expect(days[0]).to.equal(dayIn(zone, now))
      const free = days.map((_, day) => sumOf(hands, ({ minutes }) => minutes[day] ?? 0))
      expect(free).to.deep.equal([hours / 2, hours / 2, 0])
      expect(above / ids.length).to.be.within(0.8, 0.9)
      expect([slipped.length, criteria.stake.length]).to.deep.equal([2, 1])
      const over = hands.filter(({ placed, minutes }) => placed.some((own, day) => own > minutes[day]!))
      expect(over.map(({ name }) => name)).to.deep.equal(['Yusra Dahl'])
    })
})
