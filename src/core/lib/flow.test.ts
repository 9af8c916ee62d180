import { expect } from 'chai'
import fc from 'fast-check'
import { type Arc, cheapestFlow, closedWalk } from './flow.ts'

const cost = (arcs: readonly Arc[], flow: Float64Array): number =>
  arcs.reduce((sum, arc, at) => sum + arc.cost * flow[at]!, 0)

/** What each node gives out beyond what it takes in. */
const given = (nodes: number, arcs: readonly Arc[], flow: Float64Array): number[] => {
  const sums = new Array<number>(nodes).fill(0)
  arcs.forEach(({ from, to }, at) => {
    sums[from]! += flow[at]!
    sums[to]! -= flow[at]!
  })
  return sums
}

const networks = fc
  .tuple(
    fc.array(fc.record({ from: fc.nat(4), to: fc.nat(4), cost: fc.nat(9) }), { minLength: 1, maxLength: 14 }),
    fc.array(fc.nat(3), { minLength: 4, maxLength: 4 }),
  )
  .map(([arcs, gives]) => {
    const supply = [...gives, 0]
    supply[4] = 0 - gives.reduce((sum, each) => sum + each, 0)
    return { arcs: arcs.filter(({ from, to }) => from !== to), supply }
  })

describe('flow of least cost', () => {
  it('takes the cheaper way, and both where one alone is not enough to begin at', () => {
    const arcs = [
      { from: 0, to: 1, cost: 1 },
      { from: 1, to: 2, cost: 1 },
      { from: 0, to: 2, cost: 3 },
    ]
    expect([...cheapestFlow(3, arcs, [2, 0, -2])!]).to.deep.equal([2, 2, 0])
  })
  it('takes back what an earlier way used, when that is cheaper in the end', () => {
    const arcs = [
      { from: 0, to: 2, cost: 1 },
      { from: 0, to: 3, cost: 2 },
      { from: 1, to: 2, cost: 2 },
      { from: 1, to: 3, cost: 9 },
    ]
    const flow = cheapestFlow(4, arcs, [1, 1, -1, -1])!
    expect([...flow]).to.deep.equal([0, 1, 1, 0])
    expect(cost(arcs, flow)).to.equal(4)
  })
  it('is none where some of it cannot get there', () => {
    expect(cheapestFlow(3, [{ from: 0, to: 1, cost: 1 }], [1, 0, -1])).to.equal(null)
    expect([...cheapestFlow(2, [], [0, 0])!]).to.deep.equal([])
  })
  it('brings every supply where it is wanted', () => {
    fc.assert(
      fc.property(networks, ({ arcs, supply }) => {
        const flow = cheapestFlow(5, arcs, supply)
        if (flow) expect(given(5, arcs, flow)).to.deep.equal(supply)
      }),
    )
  })
  it('has no cheaper way round: every circle over it that could be turned costs at least nothing', () => {
    fc.assert(
      fc.property(networks, ({ arcs, supply }) => {
        const flow = cheapestFlow(5, arcs, supply)
        if (!flow) return
        // Bellman and Ford over what could still be changed: a circle of negative cost would make it cheaper.
        const left = arcs.flatMap(({ from, to, cost: own }, at) => [
          { from, to, cost: own },
          ...(flow[at]! > 0 ? [{ from: to, to: from, cost: -own }] : []),
        ])
        const distance = new Array<number>(5).fill(0)
        for (let round = 0; round < 5; round++)
          for (const arc of left) distance[arc.to] = Math.min(distance[arc.to]!, distance[arc.from]! + arc.cost)
        for (const arc of left) expect(distance[arc.to]!).to.be.at.most(distance[arc.from]! + arc.cost)
      }),
    )
  })
})

describe('a closed walk', () => {
  it('uses each arc as often as it is listed, one after the other', () => {
    const arcs = [
      { from: 0, to: 1, times: 2 },
      { from: 1, to: 0, times: 1 },
      { from: 1, to: 2, times: 1 },
      { from: 2, to: 0, times: 1 },
    ]
    const walk = closedWalk(0, arcs)
    expect([...walk].sort()).to.deep.equal([0, 0, 1, 2, 3])
    walk.forEach((arc, at) => expect(arcs[arc]!.from).to.equal(at === 0 ? 0 : arcs[walk[at - 1]!]!.to))
    expect(arcs[walk.at(-1)!]!.to).to.equal(0)
  })
  it('is of nothing where there is nothing to walk', () => {
    expect(closedWalk(0, [])).to.deep.equal([])
  })
})
