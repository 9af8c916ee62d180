import { expect } from 'chai'
import fc from 'fast-check'
import { type BuildAt, buildsInScope, offeredAfter, type StandingAttempt, standingOnBuild } from './standing.ts'
import type { FinalVerdict, Verdict } from '#core/lib/verdict.ts'

const whole = (verdict: FinalVerdict): ReadonlyMap<number, Verdict> => new Map([[1, verdict]])
const attempt = (id: number, verdict: FinalVerdict, of: Partial<StandingAttempt> = {}): StandingAttempt => ({
  id,
  verdict,
  finishedAt: id * 10,
  byMachine: false,
  openDefect: false,
  version: 1,
  versionRows: 1,
  rows: whole(verdict),
  ...of,
})

it('takes the newest by finishing time, then by id', () => {
  expect(
    standingOnBuild([attempt(1, 'Failed', { finishedAt: 50 }), attempt(2, 'Passed', { finishedAt: 40 })])?.attempt.id,
  ).to.equal(1)
  expect(
    standingOnBuild([attempt(1, 'Failed', { finishedAt: 50 }), attempt(2, 'Passed', { finishedAt: 50 })])?.attempt.id,
  ).to.equal(2)
  expect(standingOnBuild([])).to.equal(null)
})
it('needs every row of the version over the attempts of a build', () => {
  const first = attempt(1, 'Passed', {
    versionRows: 3,
    rows: new Map([
      [1, 'Passed'],
      [2, 'Passed'],
    ]),
  })
  expect(standingOnBuild([first])).to.equal(null)
  const second = attempt(2, 'Failed', { versionRows: 3, rows: new Map([[3, 'Failed']]) })
  expect(standingOnBuild([first, second])).to.deep.include({ verdict: 'Failed' })
  const otherVersion = attempt(3, 'Passed', {
    version: 2,
    versionRows: 3,
    rows: new Map([
      [1, 'Passed'],
      [2, 'Passed'],
      [3, 'Passed'],
    ]),
  })
  expect(standingOnBuild([first, second, otherVersion])?.attempt.id).to.equal(3)
})
it('counts the newest verdict of a row that was done twice', () => {
  const first = attempt(1, 'Failed', { versionRows: 2, rows: new Map([[1, 'Failed']]) })
  const again = attempt(2, 'Passed', { versionRows: 2, rows: new Map([[1, 'Passed']]) })
  const rest = attempt(3, 'Passed', { versionRows: 2, rows: new Map([[2, 'Passed']]) })
  expect(standingOnBuild([first, again, rest])?.verdict).to.equal('Passed')
})
it('lets no machine’s Passed supersede a person’s Failed while its defect is open, and shows the dispute', () => {
  const person = attempt(1, 'Failed', { openDefect: true })
  const machine = attempt(2, 'Passed', { byMachine: true })
  expect(standingOnBuild([person, machine])).to.deep.include({ verdict: 'Failed', disputedBy: 2 })
  expect(standingOnBuild([{ ...person, openDefect: false }, machine])).to.deep.include({
    verdict: 'Passed',
    disputedBy: null,
  })
  expect(standingOnBuild([person, machine, attempt(3, 'Passed')])).to.deep.include({
    verdict: 'Passed',
    disputedBy: null,
  })
})
it('does not depend on the order attempts are given in', () => {
  const some = fc.uniqueArray(
    fc.record({
      id: fc.integer({ min: 1, max: 40 }),
      at: fc.integer({ min: 1, max: 5 }),
      machine: fc.boolean(),
      open: fc.boolean(),
      verdict: fc.constantFrom<FinalVerdict>('Passed', 'Failed', 'Blocked'),
    }),
    { selector: ({ id }) => id, maxLength: 8 },
  )
  fc.assert(
    fc.property(some, (all) => {
      const attempts = all.map((each) =>
        attempt(each.id, each.verdict, { finishedAt: each.at, byMachine: each.machine, openDefect: each.open }),
      )
      expect(standingOnBuild([...attempts].reverse())).to.deep.equal(standingOnBuild(attempts))
    }),
  )
})

const builds: BuildAt[] = [
  { id: 1, release: 1, position: 1, state: 'Offered' },
  { id: 2, release: 2, position: 2, state: 'Offered' },
  { id: 3, release: 2, position: 3, state: 'Withdrawn' },
  { id: 4, release: 2, position: 4, state: 'Refused' },
  { id: 5, release: 2, position: 5, state: 'Offered' },
]
it('keeps to the builds of the release up to one, less the withdrawn', () => {
  expect(buildsInScope(builds, 2, 4).map(({ id }) => id)).to.deep.equal([2, 4])
  expect(buildsInScope(builds, null, null).map(({ id }) => id)).to.deep.equal([1, 2, 4, 5])
})
it('counts only builds offered for testing as later ones', () =>
  expect(offeredAfter(buildsInScope(builds, 2, null), 2)).to.equal(1))
