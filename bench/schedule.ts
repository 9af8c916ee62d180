import {
  fitMinutes,
  fittedMinutes,
  combinedMinutes,
  givenError,
  learnedMinutes,
  median,
  type Sample,
} from '#core/schedule/estimates.ts'
import { between, type Random, seeded } from '#core/lib/random.ts'
import { level } from '#core/schedule/level.ts'
import { drawLine } from '#core/schedule/line.ts'
import { partsAt, sharesOf, type Unit } from '#core/schedule/worth.ts'
import { draftModel } from '#core/techniques/draft-row.ts'
import { meter } from '#core/techniques/meter.ts'
import { type Choosable, select } from '#core/schedule/select.ts'
import { loadSolver } from '#server/schedule/solver.ts'
import { brokenRules, madeTeam } from '#test/teams.ts'
import { type Measured, ms, timed } from './measure.ts'

/** Levelling and selection: how near to what is proven, and how long; estimates: how far off on attempts they have not seen. */
export async function benchSchedule(samples: number): Promise<Measured[]> {
  const solve = await loadSolver()
  return [
    ...(await levelling(solve, samples)),
    await selecting(solve, samples),
    await drafted(solve, samples),
    ...histories.map(([name, made]) => judged(name, made(seeded(11)))),
  ]
}

type Solve = Awaited<ReturnType<typeof loadSolver>>

async function levelling(solve: Solve, samples: number): Promise<Measured[]> {
  const kinds = [
    ['neither seats nor order bind', { due: true, pins: true }],
    ['seats, order, pins and due days', { due: true, pins: true, seats: true, after: true }],
  ] as const
  const found: Measured[] = []
  for (const [name, of] of kinds) {
    const times: number[] = []
    const shares: number[] = []
    let broken = 0
    for (let seed = 0; seed < Math.max(3, Math.min(samples, 6)); seed++) {
      const work = [1.3, 2, 3][seed % 3]!
      const team = madeTeam(seeded(seed + 1), { items: 5000, people: 20, days: 10, work, switch: 10, ...of })
      const plan = await timed(times, () => level(team, solve))
      shares.push(plan.worth / plan.bound)
      broken += brokenRules(team, plan).length
    }
    const least = Math.min(...shares)
    const slowest = Math.max(...times)
    const binds = 'seats' in of
    found.push({
      name: `level: 5,000 items × 20 people × 10 days, ${name}`,
      text: `at least ${(100 * least).toFixed(2)} % of the proven bound, slowest ${ms(slowest)} (aim 2 s), ${broken} rules broken`,
      figures: { least, slowest, broken },
      met: broken === 0 && slowest < 2000 && (binds || least >= 0.99),
    })
  }
  return found
}

async function selecting(solve: Solve, samples: number): Promise<Measured> {
  const times: number[] = []
  const plain: number[] = []
  const shares: number[] = []
  for (let seed = 0; seed < Math.max(3, Math.min(samples, 6)); seed++) {
    const of = madeChoice(seeded(seed + 1), [0.05, 0.1, 0.3][seed % 3]!)
    const chosen = await timed(times, () => select(of, solve))
    shares.push(chosen.worth / chosen.bound)
    plain.push(byRatio(of) / chosen.worth)
  }
  const least = Math.min(...shares)
  const slowest = Math.max(...times)
  return {
    name: 'select: 2,000 items × 1,500 units',
    text: `at least ${(100 * least).toFixed(2)} % of the proven bound (aim 99.5), slowest ${ms(slowest)} (aim 2 s); ordering by worth a minute reaches ${(100 * median(plain)).toFixed(1)} % of it`,
    figures: { least, slowest, byRatio: median(plain) },
    met: least >= 0.98 && slowest < 2000,
  }
}

/** A run whose cases were all drafted: what each answers is told apart by pairs of values, and the line is drawn over it. */
async function drafted(solve: Solve, samples: number): Promise<Measured> {
  const random = seeded(17)
  const names = Array.from({ length: 10 }, (_, at) => `p${at}`)
  const model = draftModel.parse({
    technique: 'combos',
    body: { parameters: Object.fromEntries(names.map((name) => [name, ['a', 'b', 'c', 'd']])) },
  })
  const environments = ['1', '2', '3', '4', '5', '6']
  const cases = new Map<number, { slots: string[]; adds: number }>()
  const telling: number[] = []
  const requirements: { id: number; risk: number; units: Unit[]; targets: number }[] = []
  for (let id = 0; id < 28; id++) {
    const own = Array.from({ length: 30 }, (_, at) => id * 30 + at)
    for (const each of own) cases.set(each, { slots: environments, adds: 2 })
    const rows = own.map(() => Object.fromEntries(names.map((name) => [name, 'abcd'[between(random, 0, 3)]!])))
    const { by, targets } = await timed(telling, () => meter(model, rows, [], own))
    const units = (by ?? []).map(({ owners, targets: n }) => ({ cases: owners, n }))
    requirements.push({ id, risk: between(random, 1, 25), units, targets })
  }
  const shares = sharesOf({ requirements, cases })
  const items = [...cases.keys()].flatMap((id) =>
    environments.map((slot) => ({
      key: `${id}.${slot}`,
      minutes: between(random, 5, 45),
      parts: partsAt(shares.get(id)!, `${id}.${slot}`, slot),
      chance: random() ** 2,
      held: null,
    })),
  )
  const minutes = 0.3 * items.reduce((sum, item) => sum + item.minutes, 0)
  const drawing: number[] = []
  let reached = 1
  for (let n = 0; n < Math.max(2, Math.min(samples, 4)); n++) {
    const line = await timed(drawing, () => drawLine(items, minutes, solve))
    reached = line.worth / line.bound
  }
  const slowest = Math.max(...drawing)
  const told = Math.max(...telling)
  return {
    name: `the line over ${items.length.toLocaleString('en-GB')} items drafted from 28 models of 720 pairs`,
    text: `${(100 * reached).toFixed(2)} % of the proven bound, slowest ${ms(slowest)} (aim 2 s); whose rows answer what, a model: at most ${ms(told)}`,
    figures: { reached, slowest, told },
    met: slowest < 2000,
  }
}

function madeChoice(random: Random, share: number) {
  const items = Array.from({ length: 2000 }, (_, at): Choosable => ({
    key: `i${at}`,
    minutes: between(random, 5, 45),
    covers: Array.from({ length: between(random, 1, 6) }, () => `u${between(random, 0, 1499)}`),
  }))
  const worth = Object.fromEntries(Array.from({ length: 1500 }, (_, at) => [`u${at}`, between(random, 1, 25)]))
  return { items, worth, budget: share * items.reduce((sum, { minutes }) => sum + minutes, 0) }
}

/** What a spreadsheet does: the worth of each by itself for its minutes, from the top until the time is over. */
function byRatio({ items, worth, budget }: ReturnType<typeof madeChoice>): number {
  const own = ({ covers }: Choosable) => [...new Set(covers)].reduce((sum, each) => sum + (worth[each] ?? 0), 0)
  const had = new Set<string>()
  let left = budget
  for (const item of [...items].sort((a, b) => own(b) / b.minutes - own(a) / a.minutes)) {
    if (item.minutes > left) continue
    left -= item.minutes
    for (const each of item.covers) had.add(each)
  }
  return [...had].reduce((sum, each) => sum + (worth[each] ?? 0), 0)
}

interface Made {
  readonly steps: number
  readonly rows: number
  readonly environment: number
  readonly given: number
  /** Minutes of its attempts, the newest first. */
  readonly attempts: readonly number[]
}

/** A bell curve about 0 (G. E. P. Box, M. E. Muller, 1958). */
const bell = (random: Random): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())

const made = (random: Random, given: (real: number, steps: number) => number): Made[] =>
  Array.from({ length: 400 }, () => {
    const steps = between(random, 1, 20)
    const rows = random() < 0.3 ? between(random, 2, 8) : 1
    const environment = between(random, 0, 3)
    const real =
      1.5 * (1 + steps) ** 0.9 * rows ** 0.6 * [1, 1.1, 1.4, 0.9][environment]! * Math.exp(0.3 * bell(random))
    const attempts = Array.from(
      { length: between(random, 2, 12) },
      () =>
        // One in twenty goes on over lunch.
        real * Math.exp(0.25 * bell(random)) + (random() < 0.05 ? between(random, 40, 120) : 0),
    )
    return { steps, rows, environment, given: Math.max(1, given(real, steps)), attempts }
  })

const histories: readonly (readonly [string, (random: Random) => Made[]])[] = [
  ['given minutes are right', (random) => made(random, (real) => Math.round(real))],
  [
    'given minutes are two thirds of it, and rough',
    (random) => made(random, (real) => Math.round(real * 0.66 * Math.exp(0.4 * bell(random)))),
  ],
  ['given minutes are ten for everything', (random) => made(random, () => 10)],
]

/** The newest attempt of each case is held out; all else teaches. */
function judged(name: string, cases: readonly Made[]): Measured {
  const known = cases.map((of) => ({ of, held: of.attempts[0]!, learned: learnedMinutes(of.attempts.slice(1)) }))
  const samples = known.flatMap(({ of, learned }): Sample[] =>
    learned ? [{ ...of, minutes: learned.minutes, n: learned.n }] : [],
  )
  const model = fitMinutes(samples)
  const error = givenError(known.flatMap(({ of, learned }) => (learned ? [{ given: of.given, learned }] : [])))
  const offBy = (estimate: (each: (typeof known)[number]) => number) =>
    median(known.map((each) => Math.abs(estimate(each) - each.held)))
  const taught = ({ learned, of }: (typeof known)[number]) => learned ?? (model && fittedMinutes(model, of))
  const given = offBy(({ of }) => of.given)
  const learned = offBy((each) => taught(each)?.minutes ?? each.of.given)
  const both = offBy((each) => combinedMinutes(each.of.given, taught(each), error) ?? each.of.given)
  return {
    name: `estimates where ${name}`,
    text: `median absolute error of given ${given.toFixed(2)} min, learned ${learned.toFixed(2)} (${(learned / given).toFixed(2)}×), both combined ${both.toFixed(2)} (${(both / given).toFixed(2)}×)`,
    figures: { given, learned, both },
    met: both <= 1.05 * Math.min(given, learned),
  }
}
