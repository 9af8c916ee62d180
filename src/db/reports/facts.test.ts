import { expect } from 'chai'
import fc from 'fast-check'
import { finalVerdicts } from '#core/lib/verdict.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, idOf, makeCase, makeDefect, makeRun, requirement, makeRequirements } from '#test/make.ts'
import { defectFacts, lastEvent, standingFacts, standingFromAttempts, standingSince } from './facts.ts'

const places = (all: readonly { caseId: number; environmentId: number; buildId: number }[]) =>
  all.map(({ caseId, environmentId, buildId }) => `${buildId}:${caseId}:${environmentId}`).sort()

describe('facts that reports are computed from', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })

  it('the kept standing results are those of the attempts, after whatever was executed in whatever order', async () => {
    const cases = [await makeCase(own.lead, 'Pay by card'), await makeCase(own.lead, 'Hold a place')]
    const runs = await Promise.all(
      own.builds.map((build) => makeRun(own, cases, { build, environments: own.environments })),
    )
    const items = runs.flatMap((run) => run.items.map(({ id }) => id))
    const steps = fc.array(fc.tuple(fc.constantFrom(...items), fc.constantFrom(...finalVerdicts)), { maxLength: 6 })
    await fc.assert(
      fc.asyncProperty(steps, async (script) => {
        for (const [item, verdict] of script) {
          own.pass(minute)
          await execute(own, item, verdict)
        }
        const kept = standingFacts(own.db, own.builds, null)
        const told = standingFromAttempts(own.db, { builds: own.builds }).map(({ disputedBy: _, ...fact }) => fact)
        expect(kept).to.have.deep.members(told)
      }),
      { numRuns: 12 },
    )
  })

  it('a day in the past knows nothing of what was executed after it', async () => {
    const { items } = await makeRun(own, [await makeCase(own.lead, 'Pay by card')])
    await execute(own, items[0]?.id ?? 0, 'Failed')
    const then = own.now()
    own.pass(minute)
    await execute(own, items[0]?.id ?? 0, 'Passed')
    const at = (asOf: number | null) => standingFacts(own.db, own.builds, asOf).map(({ verdict }) => verdict)
    expect([at(then - 1), at(then), at(null)]).to.deep.equal([[], ['Failed'], ['Passed']])
  })

  it('tells only the places that an event has touched since', async () => {
    const cases = [await makeCase(own.lead, 'Pay by card'), await makeCase(own.lead, 'Hold a place')]
    const { items } = await makeRun(own, cases)
    await execute(own, items[0]?.id ?? 0, 'Passed')
    const seen = lastEvent(own.db)
    expect(standingSince(own.db, own.project().id, seen)).to.deep.equal([])
    own.pass(minute)
    await execute(own, items[1]?.id ?? 0, 'Failed')
    const touched = standingSince(own.db, own.project().id, seen)
    expect(touched.map(({ fact }) => fact?.verdict)).to.deep.equal(['Failed'])
    expect(places(touched)).to.deep.equal([
      `${own.builds[1]}:${await idOf(own.lead, cases[1] ?? '')}:${own.environments[0]}`,
    ])
    expect(standingSince(own.db, own.project().id + 1, seen)).to.deep.equal([])
  })

  it('a defect names the case, the attempt and the requirement it was found at', async () => {
    const [proved = ''] = await makeRequirements(own.lead, 'Payment')
    const key = await makeCase(own.lead, 'Pay by card', { proves: proved })
    const { items } = await makeRun(own, [key])
    const attempt = await execute(own, items[0]?.id ?? 0, 'Failed')
    await makeDefect(own, attempt)
    const [fact] = defectFacts(own.db, own.project().id)
    expect(fact).to.deep.include({
      number: 1,
      state: 'Reported',
      cases: String(await idOf(own.lead, key)),
      attempts: String(attempt.id),
      requirements: String((await requirement(own.lead, proved)).id),
    })
  })
})
