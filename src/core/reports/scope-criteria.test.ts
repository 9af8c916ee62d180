import { expect } from 'chai'
import fc from 'fast-check'
import { importances } from '#core/cases/case.ts'
import { severities } from '#core/defects/state.ts'
import { type CriterionRule, evaluate } from '#core/plans/criteria.ts'
import { finalVerdicts } from '#core/lib/verdict.ts'
import { coverage, type CoverageNode } from './coverage.ts'
import { type CriteriaOf, criteriaFacts } from './scope-criteria.ts'
import type { AnsweredSlot } from './scope-coverage.ts'
import { suspected } from './scope-coverage.ts'
import { asPassed, shortestWayTo, type WayOf } from './shortest-way.ts'
import { defaultFreshness } from '#core/runs/freshness.ts'

const day = 86_400_000
const asOf = 100 * day
const [oldBuild, newBuild] = [1, 2]

/** A slot's last attempt as it was made; `null`: none. */
const attempt = fc.option(
  fc.record({
    verdict: fc.constantFrom(...finalVerdicts),
    build: fc.constantFrom(oldBuild, newBuild),
    days: fc.integer({ min: 0, max: 20 }),
    told: fc.boolean(),
  }),
  { nil: null, freq: 4 },
)
const world = fc.record({
  /** Requirements 1…5: 1 and 2 stand below 4, 3 alone, 5 has nothing. */
  risks: fc.array(fc.option(fc.integer({ min: 1, max: 25 }), { nil: null }), { minLength: 5, maxLength: 5 }),
  cases: fc.array(
    fc.record({
      importance: fc.constantFrom(...importances),
      approved: fc.boolean(),
      minutes: fc.integer({ min: 1, max: 30 }),
      attempts: fc.array(attempt, { minLength: 1, maxLength: 2 }),
      proves: fc.uniqueArray(fc.record({ requirement: fc.integer({ min: 1, max: 4 }), suspect: fc.boolean() }), {
        selector: ({ requirement }) => requirement,
        minLength: 1,
        maxLength: 2,
      }),
    }),
    { minLength: 1, maxLength: 6 },
  ),
  defects: fc.array(fc.constantFrom(...severities), { maxLength: 4 }),
  openRuns: fc.integer({ min: 0, max: 2 }),
})
type World = typeof world extends fc.Arbitrary<infer W> ? W : never
type Made = NonNullable<World['cases'][number]['attempts'][number]>

const parents: Readonly<Record<number, number | null>> = { 1: 4, 2: 4, 3: null, 4: null, 5: null }
const isStale = ({ build, days }: Made): boolean => build === oldBuild || days > 14
const confidenceOf = ({ build, days }: Made): number =>
  (build === oldBuild ? 0.85 : 1) * (days > 14 ? 0.5 ** ((days - 14) / 14) : 1)

function slotOf(made: Made | null, id: number, environment: number): AnsweredSlot {
  if (made === null) return { verdict: 'Not run', confidence: 1, reasons: [], environment, standing: null }
  return {
    verdict: made.verdict,
    confidence: confidenceOf(made),
    reasons: [
      ...(made.build === oldBuild ? ['older build' as const] : []),
      ...(made.days > 14 ? ['too old' as const] : []),
    ],
    environment,
    standing: {
      caseId: id,
      environmentId: environment,
      buildId: made.build,
      attemptId: id * 10 + environment,
      verdict: made.verdict,
      finishedAt: asOf - made.days * day,
      fingerprint: '',
    },
  }
}

/** The world as coverage knows it. */
function known(of: World): CriteriaOf {
  const slots = new Map(of.cases.map((own, at) => [at + 1, own.attempts.map((made, n) => slotOf(made, at + 1, n + 1))]))
  const nodes: CoverageNode[] = [1, 2, 3, 4, 5].map((id) => ({
    id,
    parent: parents[id] ?? null,
    risk: of.risks[id - 1] ?? null,
    cases: of.cases.flatMap(({ proves }, at) =>
      proves
        .filter(({ requirement }) => requirement === id)
        .map(({ suspect }) => ({
          case: at + 1,
          designed: true,
          slots: (slots.get(at + 1) ?? []).map((slot) => (suspect ? suspected(slot, defaultFreshness) : slot)),
        })),
    ),
  }))
  return {
    nodes,
    whole: () => coverage(nodes),
    slots,
    cases: of.cases.map(({ importance, approved }, at) => ({ id: at + 1, importance, approved })),
    asked: new Set(),
    newestBuild: newBuild,
    asOf,
    told: new Set(
      of.cases.flatMap((own, at) => own.attempts.flatMap((made, n) => (made?.told ? [(at + 1) * 10 + n + 1] : []))),
    ),
    defects: of.defects.map((severity, at) => ({ id: at + 1, severity })),
    suspect: of.cases.flatMap(({ proves }, at) =>
      proves.filter(({ suspect }) => suspect).map(({ requirement }) => ({ requirement, case: at + 1 })),
    ),
    openRuns: Array.from({ length: of.openRuns }, (_, at) => at + 1),
    branches: null,
  }
}

const percentage = fc.integer({ min: 0, max: 100 })
const rule: fc.Arbitrary<CriterionRule> = fc.oneof(
  fc.record({
    kind: fc.constant('share' as const),
    measure: fc.constantFrom('designed' as const, 'executed' as const, 'passing' as const, 'fully passing' as const),
    basis: fc.constantFrom('recorded' as const, 'current' as const),
    byRisk: fc.boolean(),
    branch: fc.constantFrom(null, 4, 3, 5),
    atLeast: percentage,
  }),
  fc.record({ kind: fc.constant('defects' as const), severity: fc.constantFrom(...severities), atMost: fc.nat(3) }),
  fc.record({
    kind: fc.constant('important' as const),
    importance: fc.constantFrom(...importances),
    days: fc.constantFrom(null, 7),
  }),
  fc.record({ kind: fc.constant('untold' as const), atMost: fc.nat(2) }),
  fc.record({ kind: fc.constant('suspect' as const), atMost: fc.nat(3) }),
  fc.record({ kind: fc.constant('approved' as const), atLeast: percentage }),
  fc.record({ kind: fc.constant('items' as const), atLeast: percentage }),
  fc.record({ kind: fc.constant('runs' as const) }),
)

const executed = (made: Made | null): made is Made =>
  made !== null && ['Passed', 'Failed', 'Inconclusive'].includes(made.verdict)

/** A criterion's figure straight from the attempts, by the words of the rule. */
function figureOf(asked: CriterionRule, of: World): number | null {
  const attempts = of.cases.flatMap((own) => own.attempts.map((made) => ({ own, made })))
  const shareOf = (all: readonly unknown[], some: readonly unknown[]) =>
    all.length === 0 ? null : some.length / all.length
  switch (asked.kind) {
    case 'defects':
      return of.defects.filter((each) => severities.indexOf(each) <= severities.indexOf(asked.severity)).length
    case 'runs':
      return of.openRuns
    case 'suspect':
      return of.cases.flatMap(({ proves }) => proves.filter(({ suspect }) => suspect)).length
    case 'untold':
      return attempts.filter(({ made }) => made?.verdict === 'Failed' && !made.told).length
    case 'approved':
      return shareOf(
        of.cases,
        of.cases.filter(({ approved }) => approved),
      )
    case 'items':
      return shareOf(
        attempts,
        attempts.filter(({ made }) => executed(made)),
      )
    case 'important': {
      const own = attempts.filter(
        (each) => importances.indexOf(each.own.importance) <= importances.indexOf(asked.importance),
      )
      const recent = (made: Made) => (asked.days === null ? made.build === newBuild : made.days <= asked.days)
      return shareOf(
        own,
        own.filter(({ made }) => executed(made) && recent(made)),
      )
    }
    case 'share':
      return shareFigure(asked, of)
  }
}

function shareFigure(asked: Extract<CriterionRule, { kind: 'share' }>, of: World): number | null {
  const inBranch = (id: number) => asked.branch === null || id === asked.branch || parents[id] === asked.branch
  const linksOf = (id: number) =>
    of.cases.flatMap((own) =>
      own.proves.filter(({ requirement }) => requirement === id).map(({ suspect }) => ({ own, suspect })),
    )
  const parentsIn = asked.branch === null || asked.branch === 4
  const leaves = [1, 2, 3, 4, 5].filter((id) => inBranch(id) && (id !== 4 || linksOf(4).length > 0 || !parentsIn))
  const counts = (made: Made | null, suspect: boolean): boolean => {
    const done = asked.measure === 'executed' ? executed(made) : made?.verdict === 'Passed'
    return done && (asked.basis === 'recorded' || (made !== null && !isStale(made) && !suspect))
  }
  const risk = (id: number) => of.risks[id - 1] ?? 9
  const weight = (id: number) => (asked.byRisk ? risk(id) : 1)
  const whole = leaves.reduce((sum, id) => sum + weight(id), 0)
  const some = leaves.some((id) => linksOf(id).length > 0)
  if (asked.measure === 'designed')
    return leaves.reduce((sum, id) => sum + (linksOf(id).length > 0 ? weight(id) : 0), 0) / whole
  if (!some) return null
  const share = (id: number) => {
    const all = linksOf(id).flatMap(({ own, suspect }) => own.attempts.map((made) => counts(made, suspect)))
    return all.length === 0 ? 0 : all.filter(Boolean).length / all.length
  }
  if (asked.measure === 'fully passing')
    return (
      leaves
        .filter(
          (id) =>
            linksOf(id).length > 0 &&
            linksOf(id).every(({ own }) => own.attempts.every((made) => made?.verdict === 'Passed')),
        )
        .reduce((sum, id) => sum + (share(id) === 1 ? weight(id) : 0), 0) / whole
    )
  if (asked.byRisk) return leaves.reduce((sum, id) => sum + risk(id) * share(id), 0) / whole
  const slots = of.cases.flatMap((own) => {
    const links = own.proves.filter(({ requirement }) => leaves.includes(requirement))
    return links.length === 0
      ? []
      : own.attempts.map((made) =>
          counts(
            made,
            links.some(({ suspect }) => suspect),
          ),
        )
  })
  return slots.filter(Boolean).length / slots.length
}

describe('criteria of a scope', () => {
  it('say what the attempts come to by themselves', () => {
    fc.assert(
      fc.property(world, rule, (of, asked) => {
        const { figure, outcome } = evaluate(asked, criteriaFacts(known(of)))
        const wanted = figureOf(asked, of)
        if (wanted === null) return void expect([figure, outcome]).to.deep.equal([null, 'undecidable'])
        expect(figure).to.be.closeTo(wanted, 1e-9)
        const most = asked.kind === 'runs' ? 0 : 'atMost' in asked ? asked.atMost : null
        const least = 'atLeast' in asked ? asked.atLeast / 100 : 1
        expect(outcome).to.equal((most === null ? wanted >= least - 1e-9 : wanted <= most) ? 'met' : 'not met')
      }),
      { numRuns: 1500 },
    )
  })

  it('name what is missing only where something is', () => {
    fc.assert(
      fc.property(world, rule, (of, asked) => {
        const { outcome, missing } = evaluate(asked, criteriaFacts(known(of)))
        const n = missing.of === 'slots' ? missing.slots.length : missing.ids.length
        expect(n > 0, JSON.stringify(missing)).to.equal(outcome === 'not met')
      }),
    )
  })

  it('leave out the branches a plan leaves out', () => {
    fc.assert(
      fc.property(world, rule, (of, asked) => {
        const all = known(of)
        const without = criteriaFacts({ ...all, branches: { inside: [], outside: [3] } })
        const kept = all.nodes.filter(({ id }) => id !== 3)
        const alone = criteriaFacts({ ...all, nodes: kept, whole: () => coverage(kept) })
        if (asked.kind === 'suspect') return
        expect(evaluate(asked, without)).to.deep.equal(evaluate(asked, alone))
      }),
    )
  })
})

describe('the shortest way to go', () => {
  const wayOf = (of: World): WayOf => ({
    facts: known(of),
    minutes: (id) => of.cases[id - 1]?.minutes ?? 0,
    held: ({ case: id, environment }) => id === 1 && environment === 2,
    suspectWeight: defaultFreshness.requirementChanged,
  })
  const rules = fc.array(rule, { minLength: 1, maxLength: 4 })

  it('meets what it says it does if all of it passes, and misses something without any part', () => {
    fc.assert(
      fc.property(world, rules, (of, asked) => {
        const own = wayOf(of)
        const way = shortestWayTo(asked, own)
        const metWith = (items: readonly { case: number; environment: number }[]) => {
          const then = criteriaFacts(asPassed(own, items))
          return asked.flatMap((each, at) => (evaluate(each, then).outcome === 'met' ? [at] : []))
        }
        expect(metWith(way.items)).to.include.members([...way.meets])
        for (const left of way.items) {
          const met = metWith(way.items.filter((item) => item !== left))
          expect(
            way.meets.every((at) => met.includes(at)),
            'every item is needed',
          ).to.equal(false)
        }
        expect(way.minutes).to.equal(way.items.reduce((sum, { minutes }) => sum + minutes, 0))
      }),
      { numRuns: 400 },
    )
  })

  it('is the cheapest of all ways, and calls hopeless only what no way meets', () => {
    fc.assert(
      fc.property(world, rules, (of, asked) => {
        const own = wayOf(of)
        const way = shortestWayTo(asked, own)
        const slots = of.cases
          .flatMap(({ attempts }, at) => attempts.map((_, n) => ({ case: at + 1, environment: n + 1 })))
          .filter((slot) => !own.held(slot))
          .slice(0, 9)
        const all =
          slots.length ===
          of.cases.flatMap(({ attempts }) => attempts).length - (own.facts.slots.get(1)?.length === 2 ? 1 : 0)
        if (!all) return
        let cheapest = Infinity
        for (let bits = 0; bits < 1 << slots.length; bits++) {
          const chosen = slots.filter((_, at) => (bits >> at) & 1)
          const then = criteriaFacts(asPassed(own, chosen))
          const met = (at: number) => asked[at] !== undefined && evaluate(asked[at], then).outcome === 'met'
          for (const at of way.cannot) expect(met(at), JSON.stringify(asked[at])).to.equal(false)
          if (way.meets.every(met))
            cheapest = Math.min(
              cheapest,
              chosen.reduce((sum, slot) => sum + own.minutes(slot.case), 0),
            )
        }
        expect(way.minutes).to.equal(cheapest)
      }),
      { numRuns: 120 },
    )
  })
})
