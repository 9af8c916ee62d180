import { combosProblem } from '#core/techniques/combos-model.ts'
import { combine } from '#core/techniques/combos.ts'
import { decisions } from '#core/techniques/decisions.ts'
import { checkModel, combosModel, criteria, decisionsModel, pathsModel } from '#core/techniques/models.ts'
import { statePathsFor } from '#core/techniques/paths.ts'
import { seeded } from '#core/lib/random.ts'
import { type Measured, ms } from './measure.ts'

const of = (count: number, level: number): number[] => Array.from({ length: count }, () => level)
const arrays: readonly (readonly [name: string, levels: readonly number[], strength: number, aim: number])[] = [
  ['pairs of 3^4', of(4, 3), 2, 9],
  ['pairs of 3^13', of(13, 3), 2, 15],
  ['pairs of 4^15 3^17 2^29', [...of(15, 4), ...of(17, 3), ...of(29, 2)], 2, 32],
  ['pairs of 4^1 3^39 2^35', [4, ...of(39, 3), ...of(35, 2)], 2, 22],
  ['pairs of 2^100', of(100, 2), 2, 10],
  ['pairs of 10^20', of(20, 10), 2, 180],
  ['triples of 2^10', of(10, 2), 3, 12],
  ['triples of 4^6', of(6, 4), 3, 64],
  ['triples of 5^6', of(6, 5), 3, 125],
  ['triples of 3^6', of(6, 3), 3, 36],
]

const problemOf = (levels: readonly number[], strength: number) =>
  combosProblem(
    checkModel(combosModel, {
      parameters: Object.fromEntries(
        levels.map((level, at) => [`p${at}`, Array.from({ length: level }, (_, value) => String(value))]),
      ),
      strength,
    }),
  )

/** The techniques at the sizes that are aimed at. */
export async function benchTechniques(): Promise<Measured[]> {
  return [
    ...arrays.map(benchArray),
    benchFirstCover(),
    benchTable('60 rules', 60),
    benchTable('300 rules', 300),
    ...benchPaths(),
  ]
}

/** Rows of combinations at the default budget, against what is aimed at; the baseline of the time is the first full cover, a single greedy pass. */
function benchArray([name, levels, strength, aim]: (typeof arrays)[number]): Measured {
  const start = performance.now()
  const search = combine(problemOf(levels, strength))
  let first = { time: 0, rows: 0 }
  let rows = 0
  for (;;) {
    const step = search.next()
    const answer = step.done ? step.value : step.value.answer
    if (answer && first.time === 0) first = { time: performance.now() - start, rows: answer.rows.length }
    if (answer) rows = answer.rows.length
    if (step.done) break
  }
  const time = performance.now() - start
  return {
    name,
    met: rows <= aim,
    figures: { rows, aim, first: first.rows, ms: time, firstMs: first.time, ratio: time / first.time },
    text: `${rows} rows (aim ${aim}; a greedy pass ${first.rows}) in ${ms(time)}, ${(time / first.time).toFixed(0)} × the greedy pass`,
  }
}

function benchFirstCover(): Measured {
  const problem = problemOf(of(100, 4), 2)
  const began = performance.now()
  for (const { answer } of combine(problem)) if (answer) break
  const cover = performance.now() - began
  return {
    name: 'first full cover of 100 parameters × 4 values',
    met: cover < 300,
    figures: { ms: cover },
    text: `${ms(cover)} (aim 300)`,
  }
}

function benchTable(name: string, rules: number): Measured {
  const random = seeded(7)
  const names = Array.from({ length: 20 }, (_, at) => `c${at}`)
  const model = checkModel(decisionsModel, {
    conditions: Object.fromEntries(names.map((each) => [each, ['yes', 'no']])),
    rules: Array.from({ length: rules }, () => ({
      when: Object.fromEntries(
        names.filter(() => random() < 0.25).map((each) => [each, [random() < 0.5 ? 'yes' : 'no']]),
      ),
      then: { fare: 'x' },
    })),
  })
  const start = performance.now()
  const answer = decisions(model)
  const time = performance.now() - start
  return {
    name: `a decision table of 20 conditions, ${name}`,
    met: time < 2000,
    figures: { ms: time, missing: answer.missing.length, merged: answer.merged?.length ?? 0 },
    text: `${answer.combinations} combinations in ${ms(time)} (aim 2 s); ${answer.missing.length} blocks missing, merged to ${answer.merged?.length ?? 'none'}`,
  }
}

function benchPaths(): Measured[] {
  const random = seeded(5)
  const transitions = Array.from({ length: 1000 }, (_, at) => ({
    from: `s${at < 199 ? at : Math.floor(random() * 200)}`,
    event: `e${at}`,
    to: `s${at < 199 ? at + 1 : Math.floor(random() * 200)}`,
  }))
  return criteria.map((criterion) => {
    const start = performance.now()
    const answer = statePathsFor(checkModel(pathsModel, { initial: 's0', transitions }), criterion)
    const time = performance.now() - start
    return {
      name: `${criterion} of 200 states and 1,000 transitions`,
      met: time < 2000,
      figures: { ms: time, steps: answer.steps, least: answer.least, paths: answer.paths.length },
      text: `${answer.steps} steps (at least ${answer.least}; ${(answer.steps / answer.least).toFixed(2)} ×) in ${answer.paths.length} paths, ${ms(time)} (aim 2 s)`,
    }
  })
}
