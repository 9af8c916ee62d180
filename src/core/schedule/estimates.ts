// Minutes that past attempts teach. All is worked out on the logarithm: twice as long and half as long are as far off.

/** Minutes with a range that half of the attempts, or of what they predict, lie in. */
export interface Minutes {
  readonly minutes: number
  readonly low: number
  readonly high: number
  /** Attempts it rests on. */
  readonly n: number
}

/** Fewer attempts teach nothing by themselves; more than so many of the newest say nothing about today. */
export const learning = { fewest: 3, newest: 20 } as const
/** Further than this from the median, in robust deviations, is a pause or a slip (B. Iglewicz, D. C. Hoaglin, 1993). */
const outlier = 3.5
/** A deviation of the median, as that of a normal distribution; and the quarter of one. */
const [robust, quarter] = [1.4826, 0.6745]
/** Even attempts that all took the same minute say no more than to about a tenth. */
const leastSpread = 0.1

const sorted = (of: readonly number[]): number[] => [...of].sort((a, b) => a - b)

/** The middle one, or the mean of the two in the middle; `NaN` of nothing. */
export function median(of: readonly number[]): number {
  const all = sorted(of)
  const middle = all.length >> 1
  return all.length % 2 === 1 ? all[middle]! : (all[middle - 1]! + all[middle]!) / 2
}

/** How far, for each, values lie from their median: like a standard deviation, but a few wild ones do not move it. */
const spreadOf = (of: readonly number[], middle = median(of)): number =>
  robust * median(of.map((each) => Math.abs(each - middle)))

/**
 * What attempts of one case teach: the median of the newest of them without pauses and slips, with the range half of them lie in.
 * @param minutes of attempts, the newest first; `null` where too few are left
 */
export function learnedMinutes(minutes: readonly number[]): Minutes | null {
  const logs = minutes
    .filter((each) => each > 0)
    .slice(0, learning.newest)
    .map(Math.log)
  if (logs.length < learning.fewest) return null
  const middle = median(logs)
  const most = outlier * Math.max(spreadOf(logs, middle), leastSpread)
  const kept = logs.filter((each) => Math.abs(each - middle) <= most)
  if (kept.length < learning.fewest) return null
  const level = median(kept)
  return rangeOf(level, Math.max(spreadOf(kept, level), leastSpread), kept.length)
}

const rangeOf = (level: number, spread: number, n: number): Minutes => ({
  minutes: Math.exp(level),
  low: Math.exp(level - quarter * spread),
  high: Math.exp(level + quarter * spread),
  n,
})

/** A case in an environment with what its attempts taught, as the regression sees it. */
export interface Sample {
  readonly steps: number
  readonly rows: number
  readonly environment: number
  readonly minutes: number
  readonly n: number
}

/** Minutes = base × (1 + steps)^steps × rows^rows × the factor of the environment. Nobody's name is in it: people are not ranked. */
export interface MinutesModel {
  readonly base: number
  readonly steps: number
  readonly rows: number
  /** Environment → its factor; 1 where it is not named. */
  readonly factors: ReadonlyMap<number, number>
  /** How far, on the logarithm, cases lie from it. */
  readonly spread: number
  /** Cases in environments it was fitted to. */
  readonly n: number
}

/** Of fewer cases in environments nothing is fitted. */
const fewestSamples = 12
/** Pulls the powers towards what is usual and the factors of environments towards none, as so many samples would. */
const pull = { powers: 2, factors: 3 } as const
const usual = { steps: 0.8, rows: 0.5 } as const
const rounds = 12
/** From here on a sample counts less the further it is off (P. J. Huber, Annals of Mathematical Statistics 35, 1964). */
const huber = 1.345

/**
 * The project's own regression, fitted robustly to what its cases taught: ridge regression (A. E. Hoerl, R. W. Kennard,
 * Technometrics 12, 1970) by reweighted least squares. `null` of too little.
 */
export function fitMinutes(samples: readonly Sample[]): MinutesModel | null {
  if (samples.length < fewestSamples) return null
  const environments = [...new Set(samples.map(({ environment }) => environment))]
  const features = samples.map((of) => [
    1,
    Math.log(1 + of.steps),
    Math.log(Math.max(1, of.rows)),
    ...environments.map((each) => (each === of.environment ? 1 : 0)),
  ])
  const towards = [0, usual.steps, usual.rows, ...environments.map(() => 0)]
  const ridge = [0, pull.powers, pull.powers, ...environments.map(() => pull.factors)]
  const logs = samples.map(({ minutes }) => Math.log(minutes))
  const counts = samples.map(({ n }) => Math.min(n, learning.newest) / (Math.min(n, learning.newest) + 2))
  let weights = counts
  let solved: number[] = []
  let spread = 1
  for (let round = 0; round < rounds; round++) {
    solved = ridged({ features, logs, weights }, { ridge, towards })
    const off = logs.map((log, at) => log - dot(features[at]!, solved))
    spread = Math.max(spreadOf(off), leastSpread)
    weights = off.map((each, at) => counts[at]! * Math.min(1, (huber * spread) / Math.max(Math.abs(each), 1e-9)))
  }
  return {
    base: Math.exp(solved[0]!),
    steps: solved[1]!,
    rows: solved[2]!,
    factors: new Map(environments.map((each, at) => [each, Math.exp(solved[3 + at]!)])),
    spread,
    n: samples.length,
  }
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, each, at) => sum + each * b[at]!, 0)

interface Weighed {
  readonly features: readonly (readonly number[])[]
  readonly logs: readonly number[]
  readonly weights: readonly number[]
}

function ridged(
  { features, logs, weights }: Weighed,
  { ridge, towards }: { readonly ridge: readonly number[]; readonly towards: readonly number[] },
): number[] {
  const left = ridge.map((pulled, at) => ridge.map((_, other) => (at === other ? pulled + 1e-9 : 0)))
  const right = ridge.map((pulled, at) => pulled * towards[at]!)
  features.forEach((row, sample) => {
    const weight = weights[sample]!
    row.forEach((value, at) => {
      if (value === 0) return
      right[at]! += weight * value * logs[sample]!
      row.forEach((other, to) => (left[at]![to]! += weight * value * other))
    })
  })
  return solved(left, right)
}

/** Solves equations by elimination; the matrix is symmetric and positive. */
function solved(matrix: number[][], right: number[]): number[] {
  const size = right.length
  for (let at = 0; at < size; at++)
    for (let row = at + 1; row < size; row++) {
      const by = matrix[row]![at]! / matrix[at]![at]!
      for (let column = at; column < size; column++) matrix[row]![column]! -= by * matrix[at]![column]!
      right[row]! -= by * right[at]!
    }
  const of = right.map(() => 0)
  for (let at = size - 1; at >= 0; at--) {
    let rest = right[at]!
    for (let column = at + 1; column < size; column++) rest -= matrix[at]![column]! * of[column]!
    of[at] = rest / matrix[at]![at]!
  }
  return of
}

/** What the regression says of a case nobody has executed. */
export function fittedMinutes(model: MinutesModel, of: Pick<Sample, 'steps' | 'rows' | 'environment'>): Minutes {
  const level =
    Math.log(model.base) +
    model.steps * Math.log(1 + of.steps) +
    model.rows * Math.log(Math.max(1, of.rows)) +
    Math.log(model.factors.get(of.environment) ?? 1)
  return rangeOf(level, model.spread, 0)
}

/** How far given minutes lie from what was taught, over all cases that have both: a factor, and the spread about it. */
export interface GivenError {
  readonly factor: number
  readonly spread: number
}
export function givenError(pairs: readonly { readonly given: number; readonly learned: Minutes }[]): GivenError | null {
  const both = pairs.filter(({ given }) => given > 0)
  if (both.length < learning.fewest) return null
  const off = both.map((of) => Math.log(of.learned.minutes / of.given))
  // What was taught is off itself; that is not the fault of what was given.
  const own = median(both.map(({ learned }) => 1 / sureness(learned)))
  return { factor: Math.exp(median(off)), spread: Math.sqrt(Math.max(leastGiven ** 2, spreadOf(off) ** 2 - own)) }
}
const leastGiven = 0.02

/** One over the variance, on the logarithm. The median of n is about π/2 times as far off as their mean. */
function sureness({ low, high, n }: Minutes): number {
  const spread = Math.max(leastSpread, Math.log(high / low) / (2 * quarter))
  return n === 0 ? 1 / spread ** 2 : n / ((Math.PI / 2) * spread ** 2)
}

/**
 * Given minutes and what attempts or the regression say, each by how sure it is: given ones by how far they were off elsewhere in
 * the project (weights by precision). Where there is only one it is that.
 */
export function combinedMinutes(
  given: number | null,
  learned: Minutes | null,
  error: GivenError | null,
): number | null {
  if (given === null || given <= 0) return learned?.minutes ?? null
  if (!learned || !error) return learned && !error ? learned.minutes : given * (error?.factor ?? 1)
  const [ofGiven, ofLearned] = [1 / error.spread ** 2, sureness(learned)]
  const level = ofGiven * Math.log(given * error.factor) + ofLearned * Math.log(learned.minutes)
  return Math.exp(level / (ofGiven + ofLearned))
}

/** Given minutes are proposed for change from here on: so many times too long or too short. */
export const farOff = 1.5

/** Whether given minutes lie so far from what was taught that even the range of that does not reach them. */
export const isFarOff = (given: number, learned: Minutes): boolean =>
  given > farOff * learned.minutes ? given > learned.high : learned.minutes > farOff * given && given < learned.low

/** Where the minutes of an item come from. */
export const minutesSources = ['given', 'learned', 'learned elsewhere', 'from its steps', 'guessed'] as const
export type MinutesSource = (typeof minutesSources)[number]
