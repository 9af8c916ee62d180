import { expect } from 'chai'
import { usualWeights } from '#core/projects/weights.ts'
import { assumedRisk } from '#core/reports/coverage.ts'
import { readLine } from '#core/schedule/contract.ts'
import { endLinks } from '#core/cases/link-contract.ts'
import { acceptRows, createModel, readDrafting, updateModel } from '#core/techniques/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, makeCase, makeRequirements, makeRun } from '#test/make.ts'

const fares = (adult: number) => ({
  technique: 'boundaries' as const,
  body: {
    inputs: {
      age: { type: 'integer' as const, partitions: [{ name: 'adult', from: adult, to: 64, valid: true }] },
      bags: { type: 'integer' as const, partitions: [{ name: 'free', from: 0, to: 2, valid: true }] },
    },
    values: 2 as const,
  },
})
const all = 8
const importance = usualWeights.Medium

/** A requirement with eight drafting targets: two cases answer one each and one together, and a third proves it by hand. */
async function drafted(of: Shop) {
  const [ref = ''] = await makeRequirements(of.tester, 'Adults pay')
  const { id } = await of.tester.ask(createModel, { params: { ref }, body: { name: 'Fares', model: fares(16) } })
  const rows = ['16', '64'].map((age) => ({
    row: { age, bags: '0' },
    title: `Age ${age}`,
    steps: [{ action: `Enter ${age}`, expected: 'Taken' }],
  }))
  const { keys } = await of.tester.ask(acceptRows, { params: { id }, body: { as: 'cases', rows, revision: 1 } })
  const cases = [...keys, await makeCase(of.tester, 'A fare by hand', { steps: ['One'], proves: ref })]
  return { ref, model: id, cases, run: await makeRun(of, cases) }
}

describe('what an item is worth', () => {
  let of: Shop
  let made: Awaited<ReturnType<typeof drafted>>
  beforeEach(async () => {
    of = shop()
    made = await drafted(of)
  })
  const told = async () => {
    const line = await of.viewer.ask(readLine, { params: { ref: made.run.key } })
    const at = (key: string) => line.keys.indexOf(key)
    return {
      line,
      shares: made.cases.map((key) => line.shares[at(key)]!),
      targets: made.cases.map((key) => line.targets[at(key)]),
    }
  }

  it('follows the drafting targets its case answers, not the number of cases', async () => {
    const { shares, targets } = await told()
    const each = assumedRisk / all
    expect(targets).to.deep.equal([2, 2, 0])
    expect(shares[0]).to.be.closeTo(importance + 2 * each, 1e-9)
    expect(shares[1]).to.be.closeTo(importance + 2 * each, 1e-9)
    expect(shares[2]).to.equal(importance)
  })

  it('counts a target that two items answer once', async () => {
    const { line } = await told()
    const both = made.cases.slice(0, 2).map((key) => line.keys.indexOf(key))
    const [first = 0, second = 0] = both.sort((a, b) => a - b)
    expect(line.adds[first]).to.be.closeTo(line.worth[first]!, 1e-9)
    const share = (assumedRisk / all) * (line.worth[second]! / line.shares[second]!)
    expect(line.adds[second]).to.be.closeTo(line.worth[second]! - share, 1e-9)
    expect(line.risk[second]).to.be.closeTo(line.shares[second]! - assumedRisk / all, 1e-9)
  })

  it('is told anew when the model changes, and answers nothing the model no longer asks for', async () => {
    const change = async (adult: number) => {
      const { models } = await of.viewer.ask(readDrafting, { params: { ref: made.ref } })
      const version = models[0]?.version ?? 0
      await of.tester.ask(updateModel, { params: { id: made.model }, body: { model: fares(adult) }, version })
    }
    await change(14)
    // 16 is no boundary any more: its case still answers that there are no bags.
    expect((await told()).targets).to.deep.equal([1, 2, 0])
    await change(18)
    // And now it says that 16 is accepted, which is wrong.
    expect((await told()).targets).to.deep.equal([0, 2, 0])
  })

  it('is no part of the risk of a requirement that its case does not prove any more', async () => {
    const [first = ''] = made.cases
    const { links } = await caseOf(of.tester, first)
    await of.tester.ask(endLinks, { body: { ids: links.map(({ id }) => id) } })
    const { shares, targets } = await told()
    expect(targets).to.deep.equal([0, 2, 0])
    expect(shares[0]).to.equal(importance)
  })
})
