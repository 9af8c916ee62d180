import { expect } from 'chai'
import { seeded } from '#core/lib/random.ts'
import { dayIn, weekdayOf } from '#core/lib/days.ts'
import { day, hour } from '../../standins/crossing-desk/clock.ts'
import { builds } from '../../standins/crossing-desk/builds.ts'
import { faults, isIn } from '../../standins/crossing-desk/faults.ts'
import { basis } from '../basis/all.ts'
import { type Happened, happenings, reasons, testers, unreliable } from './attempts.ts'
import { instantAt, lengthOf, workingTime, zone } from './calendar.ts'
import { type DefectStory, defectStories } from './defects.ts'
import { metBy } from './looking.ts'
import { offered, type RunCase, runStories } from './runs.ts'

const cases = basis.cases
  .filter(({ draft }) => !draft)
  .map((own): RunCase => {
    const of = basis.requirements.find(({ title }) => title === own.requirement)
    return { ...own, release: of?.release ?? '', iteration: of?.iteration ?? 0 }
  })
const told = (now: number) => {
  const runs = happenings(cases, { now, random: seeded(24) })
  const attempts = runs.flatMap((run) => run.attempts)
  return { runs, attempts, defects: defectStories(attempts, now) }
}
/** A Wednesday at noon, a Saturday, and a Monday at night: whenever somebody begins. */
const instants = ['2026-11-25T12:00:00Z', '2026-11-28T09:30:00Z', '2026-11-30T00:20:00Z'].map((at) => Date.parse(at))

for (const now of instants)
  describe(`what happened to Crossing Desk, told on ${new Date(now).toISOString()}`, () => {
    const { runs, attempts, defects } = told(now)
    const at = (fault: keyof typeof faults): DefectStory | undefined =>
      defects.find((each) => each.title === faults[fault].defect)

    it('is six runs in both releases and about 1,500 attempts over two months', () => {
      expect(runs.map(({ story }) => story.state)).to.deep.equal([
        'Closed',
        'Closed',
        'Closed',
        'Closed',
        'Open',
        'Planned',
      ])
      expect(attempts.length).to.be.within(1300, 1700)
      expect(Math.min(...attempts.map(({ startedAt }) => startedAt))).to.be.within(now - 64 * day, now - 55 * day)
      expect(Math.max(...attempts.map(({ finishedAt }) => finishedAt))).to.be.at.most(now)
    })

    it('contradicts the table of faults nowhere without a named reason', () => {
      const wrong = attempts.filter((each) => {
        const met = metBy(each.own, each.build, each.environment)
        if (each.reason === 'as the build is')
          return met
            ? each.verdict !== 'Failed' || each.fault !== met.fault || each.step !== met.step
            : each.verdict !== 'Passed'
        return !reasons.includes(each.reason)
      })
      expect(wrong.map(({ own, build }) => `${own.title} on ${build}`)).to.deep.equal([])
    })
    it('has each human reason, and none of them often', () => {
      const count = new Map(reasons.map((reason) => [reason, attempts.filter((each) => each.reason === reason).length]))
      for (const [reason, n] of count)
        if (reason !== 'as the build is')
          expect([reason, n > 0 && n < attempts.length / 15]).to.deep.equal([reason, true])
    })
    it('stops the phones for one day, and nothing else', () => {
      const stopped = attempts.filter(({ reason }) => reason === 'no network on the phones')
      expect(new Set(stopped.map(({ finishedAt }) => dayIn(zone, finishedAt))).size).to.equal(1)
      expect(new Set(stopped.map(({ environment }) => environment))).to.deep.equal(new Set(['WebKit, phone']))
    })
    it('has one case that is unreliable: it fails and passes on the same build', () => {
      const own = attempts.filter(({ own: { title } }) => title === unreliable)
      expect(new Set(own.map(({ verdict }) => verdict)).size).to.be.at.least(2)
    })
    it('gives nobody two things at once, and one of them needs longer than the others', () => {
      const pace = new Map<string, number>()
      for (const person of testers) {
        const own = attempts.filter((each) => each.person === person).sort((a, b) => a.startedAt - b.startedAt)
        const twice = own.filter(
          (each, place) =>
            place > 0 &&
            each.startedAt < own[place - 1]!.finishedAt - 60_000 &&
            each.own.title !== own[place - 1]!.own.title,
        )
        expect(twice.length, person).to.be.at.most(2)
        pace.set(person, own.reduce((sum, { startedAt, finishedAt }) => sum + finishedAt - startedAt, 0) / own.length)
      }
      expect([...pace].sort((a, b) => b[1] - a[1])[0]?.[0]).to.equal('tobin')
    })
    it('is done in working hours', () => {
      const night = attempts.filter(({ startedAt }) => {
        const time = Number(
          new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: 'numeric', hourCycle: 'h23' }).format(startedAt),
        )
        return time < 8 || time > 16
      })
      expect(night).to.deep.equal([])
    })
    it('executes nothing on a build before that was offered', () =>
      expect(attempts.filter(({ build, startedAt }) => startedAt < now + offered[build] * day)).to.deep.equal([]))

    it('logs each fault that a case failed by, once, from the first failure', () => {
      const met = new Set(attempts.flatMap(({ fault }) => fault ?? []))
      for (const fault of met) {
        const story = at(fault)
        const first = attempts.find((each) => each.fault === fault)
        expect([fault, story?.foundIn]).to.deep.equal([fault, first?.build])
        expect(story?.states[0]?.at, fault).to.be.within(first!.finishedAt, first!.finishedAt + hour)
        expect(story?.failing.length, fault).to.equal(attempts.filter((each) => each.fault === fault).length)
      }
      expect(defects.length).to.be.within(40, 55)
    })
    it('closes a defect by a retest that passed in a build with its repair, and in no other way', () => {
      for (const { title, fault, states } of defects)
        for (const [place, { state, at: then, fixedIn }] of states.entries()) {
          expect(then, title).to.be.at.least(states[place - 1]?.at ?? 0)
          expect(then, title).to.be.at.most(now)
          if (state !== 'Closed' || fault === null) continue
          expect(fixedIn !== null && !isIn(fixedIn, fault), title).to.equal(true)
          expect(
            attempts.some(
              (each: Happened) =>
                each.verdict === 'Passed' &&
                Math.abs(each.finishedAt - then) < hour &&
                builds.indexOf(each.build) >= builds.indexOf(fixedIn ?? '2.3.0'),
            ),
            title,
          ).to.equal(true)
        }
    })
    it('has defects in every state, one that came back, two told twice', () => {
      expect(new Set(defects.map(({ states }) => states.at(-1)?.state))).to.deep.equal(
        new Set(['Reported', 'Confirmed', 'In repair', 'Ready to retest', 'Closed', 'Rejected']),
      )
      const back = defects.filter(({ states }) =>
        states.some(({ state }, place) => place > 0 && states[place - 1]?.state === 'Closed' && state === 'Confirmed'),
      )
      expect(back.map(({ title }) => title)).to.include('Declined card frees the place')
      const faultsTold = defects.flatMap(({ fault }) => fault ?? [])
      expect(faultsTold.length - new Set(faultsTold).size).to.equal(2)
    })
    it('is the same every time', () => expect(told(now)).to.deep.equal({ runs, attempts, defects }))
  })

describe('working time of the story', () => {
  it('ends now, and leaves out the week-end unless hardly anything else is left', () => {
    for (const now of instants) {
      const time = workingTime(now, -9, 0)
      expect(time.every(({ to }) => to <= now)).to.equal(true)
      const free = time.filter(({ from }) => weekdayOf(dayIn(zone, from)) > 5 && dayIn(zone, from) !== dayIn(zone, now))
      expect(free).to.deep.equal(weekdayOf(dayIn(zone, now)) === 6 ? free : [])
      expect(lengthOf(workingTime(now, -2, 0)) >= 4 * hour).to.equal(true)
      expect([instantAt(time, 0), instantAt(time, 1)]).to.deep.equal([time[0]?.from, time.at(-1)?.to])
    }
  })
  it('has a phase for each build but the one that was refused', () =>
    expect(new Set(runStories.flatMap(({ phases }) => phases.map(({ build }) => build)))).to.deep.equal(
      new Set(builds.slice(0, -1)),
    ))
})
