import { expect } from 'chai'
import fc from 'fast-check'
import type { Verdict } from '#core/lib/verdict.ts'
import { coverage, type CoverageNode, type LinkedCase, type SlotResult } from './coverage.ts'

const slot = (verdict: Verdict, confidence = 1): SlotResult => ({
  verdict,
  confidence,
  reasons: confidence === 1 ? [] : ['older build'],
})
const linked = (id: number, ...slots: SlotResult[]): LinkedCase => ({ case: id, designed: true, slots })
const node = (id: number, parent: number | null, risk: number | null, ...cases: LinkedCase[]): CoverageNode => ({
  id,
  parent,
  risk,
  cases,
})

it('gives the three figures over one denominator', () => {
  const { total } = coverage([
    node(1, null, 10, linked(1, slot('Passed'), slot('Passed', 0.5)), linked(2, slot('Failed'), slot('Not run'))),
  ])
  expect(total.figures.passing.plain).to.deep.equal({ recorded: 0.5, current: 0.25, confident: 0.375 })
  expect(total.figures.executed.plain.recorded).to.equal(0.75)
})
it('weighs by risk leaf by leaf, an uncovered leaf counting as nothing passed', () => {
  const { total } = coverage([
    node(1, null, 20, linked(1, slot('Passed'))),
    node(2, null, 5, linked(2, slot('Failed'))),
    node(3, null, null),
  ])
  // (20 · 1 + 5 · 0 + 9 · 0) / (20 + 5 + 9)
  expect(total.figures.passing.byRisk.recorded).to.be.closeTo(20 / 34, 1e-12)
  expect(total.figures.uncovered).to.equal(1)
})
it('calls a requirement uncovered with no live case, and drafted when its only case has no step', () => {
  const { byId } = coverage([node(1, null, 5), node(2, null, 5, { case: 1, designed: false, slots: [] })])
  expect([byId.get(1)?.state, byId.get(2)?.state, byId.get(2)?.figures.drafted]).to.deep.equal([
    'uncovered',
    'uncovered',
    1,
  ])
  expect(byId.get(1)?.figures.passing.plain.recorded).to.equal(null)
})
it('lets a parent’s own links make one extra leaf with its own risk', () => {
  const { byId } = coverage([node(1, null, 4, linked(1, slot('Passed'))), node(2, 1, 6, linked(2, slot('Failed')))])
  expect(byId.get(1)?.figures).to.deep.include({ leaves: 2, risk: 10, slots: 2 })
  expect(byId.get(1)?.state).to.equal('Failed')
})
it('counts a case once under a parent, with the least confidence its links leave it', () => {
  const shared = (confidence: number) => linked(7, slot('Passed', confidence))
  const { byId } = coverage([node(1, null, 4), node(2, 1, 4, shared(1)), node(3, 1, 4, shared(0.6))])
  expect(byId.get(1)?.figures).to.deep.include({ cases: 1, slots: 1 })
  expect(byId.get(1)?.figures.passing.plain).to.deep.equal({ recorded: 1, current: 0, confident: 0.6 })
})
it('is fully passing only where every slot of a leaf passed, Skipped counting as Not run', () => {
  const { total } = coverage([
    node(1, null, 1, linked(1, slot('Passed'), slot('Passed'))),
    node(2, null, 1, linked(2, slot('Passed'), slot('Skipped'))),
    node(3, null, 2, linked(3, slot('Passed', 0.5))),
  ])
  expect(total.figures.fullyPassing.plain).to.deep.equal({ recorded: 2 / 3, current: 1 / 3, confident: 1.5 / 3 })
  expect(total.figures.fullyPassing.byRisk.recorded).to.equal(3 / 4)
})
it('keeps a branch with an uncovered leaf from reading Passed', () => {
  expect(
    coverage([node(1, null, 1), node(2, 1, 1, linked(1, slot('Passed'))), node(3, 1, 1)]).byId.get(1)?.state,
  ).to.equal('In progress')
})
it('holds nothing to count as null, never 0', () => {
  const { total } = coverage([])
  expect(total.figures.passing).to.deep.equal({
    plain: { recorded: null, current: null, confident: null },
    byRisk: { recorded: null, current: null, confident: null },
  })
  expect(total.figures.designed.plain).to.equal(null)
})

const anyTree = fc
  .array(
    fc.record({
      parent: fc.nat(20),
      risk: fc.option(fc.integer({ min: 1, max: 25 })),
      cases: fc.array(
        fc.tuple(
          fc.nat(12),
          fc.constantFrom<Verdict>('Passed', 'Failed', 'Blocked', 'Not run', 'Skipped', 'Inconclusive'),
          fc.constantFrom(1, 0.85, 0.5, 0),
        ),
        { maxLength: 4 },
      ),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map((rows) =>
    rows.map((row, index): CoverageNode =>
      node(
        index + 1,
        row.parent <= index && row.parent > 0 ? row.parent : null,
        row.risk,
        ...new Map(row.cases.map(([id, verdict, confidence]) => [id, linked(id, slot(verdict, confidence))])).values(),
      ),
    ),
  )

it('never has current above recorded, nor confident outside them, anywhere in any tree', () => {
  fc.assert(
    fc.property(anyTree, (nodes) => {
      for (const { figures } of coverage(nodes).byId.values())
        for (const { plain, byRisk } of [figures.passing, figures.executed, figures.fullyPassing])
          for (const { recorded, current, confident } of [plain, byRisk]) {
            if (recorded === null || current === null || confident === null) continue
            expect(current).to.be.at.most(confident + 1e-9)
            expect(confident).to.be.at.most(recorded + 1e-9)
            expect(recorded).to.be.within(0, 1 + 1e-9)
          }
    }),
  )
})
it('agrees with the plain formula over the leaves of any tree', () => {
  fc.assert(
    fc.property(anyTree, (nodes) => {
      const parents = new Set(nodes.map(({ parent }) => parent))
      const leaves = nodes.filter(({ id, cases }) => !parents.has(id) || cases.length > 0)
      const risk = leaves.reduce((sum, leaf) => sum + (leaf.risk ?? 9), 0)
      const weighted = leaves.reduce((sum, leaf) => {
        const slots = leaf.cases.flatMap(({ slots: own }) => own)
        return (
          sum +
          (slots.length === 0
            ? 0
            : ((leaf.risk ?? 9) * slots.filter(({ verdict }) => verdict === 'Passed').length) / slots.length)
        )
      }, 0)
      const { total } = coverage(nodes)
      expect(total.figures.risk).to.equal(risk)
      if (total.figures.slots > 0) expect(total.figures.passing.byRisk.recorded).to.be.closeTo(weighted / risk, 1e-9)
    }),
  )
})
