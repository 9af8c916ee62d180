import { combosFromLines } from '#core/techniques/combos-lines.ts'
import type { CombosRule } from '#core/techniques/models.ts'
import type { Place } from './asks.ts'

/** Factors of environments with their values, and combinations that are not allowed, as lines people write. */
export interface FactorLines {
  /** `engine: Chromium, Gecko, WebKit`, a factor a line. */
  readonly factors: string
  /** `never engine Gecko with device tablet`, a rule a line. */
  readonly rules: string
}

export interface Factors {
  /** Values by factor: those that were written, then those environments have beside. */
  readonly values: Readonly<Record<string, readonly string[]>>
  readonly rules: readonly { readonly line: string; readonly rule: CombosRule }[]
  /** Lines that cannot be read, each with why. */
  readonly problems: readonly string[]
}

const linesOf = (text: string): string[] => text.split('\n').filter((line) => line.trim() !== '')

/** Reads the factors of a project. Values that only environments have count as well. */
export function readFactors({ factors, rules }: FactorLines, places: readonly Place[]): Factors {
  const written = combosFromLines({ parameters: linesOf(factors) }, 2)
  const values: Record<string, string[]> = {}
  for (const [factor, own] of Object.entries(written.body.parameters)) values[factor] = [...own]
  for (const place of places)
    for (const [factor, value] of Object.entries(place.values)) {
      const own = (values[factor] ??= [])
      if (!own.includes(value)) own.push(value)
    }
  const parameters = Object.entries(values).map(([factor, own]) => `${quoted(factor)}: ${own.map(quoted).join(', ')}`)
  const problems = written.problems.map(({ message }) => message)
  const read = linesOf(rules).flatMap((line) => {
    const told = combosFromLines({ parameters, rules: [line] }, 2)
    const [rule] = told.body.constraints
    if (rule) return [{ line: line.trim(), rule }]
    problems.push(`“${line.trim().slice(0, 60)}”: ${told.problems[0]?.message ?? 'this is not understood.'}`)
    return []
  })
  return { values, rules: read, problems }
}

const quoted = (word: string): string => `"${word.replaceAll('"', '""')}"`

/** Is a rule broken by values that are known? What is not named is free, and breaks nothing. */
function breaks(rule: CombosRule, values: Readonly<Record<string, string>>): boolean {
  const holds = (terms: Readonly<Record<string, readonly string[]>>) =>
    Object.entries(terms).every(([factor, of]) => values[factor] !== undefined && of.includes(values[factor]))
  if ('forbid' in rule) return holds(rule.forbid)
  const failed = Object.entries(rule.then).some(
    ([factor, of]) => values[factor] !== undefined && !of.includes(values[factor]),
  )
  return holds(rule.if) && failed
}

/** Environments that stand for a combination that is not allowed, each with the rule it breaks. */
export function notAllowed({ rules }: Pick<Factors, 'rules'>, places: readonly Place[]): Map<number, string> {
  return new Map(
    places.flatMap(({ id, values }): [number, string][] => {
      const broken = rules.find(({ rule }) => breaks(rule, values))
      return broken ? [[id, broken.line]] : []
    }),
  )
}

/** Two values that occur in no environment together. */
export interface PairNotMet {
  readonly pair: readonly [string, string]
  /** The rule by which they may not. */
  readonly rule: string | null
}

/** Pairs of values of the factors these environments name that none of them has, and whether a rule says so. */
export function pairsNotMet({ values, rules }: Factors, places: readonly Place[]): PairNotMet[] {
  const named = new Set(places.flatMap((place) => Object.keys(place.values)))
  const factors = Object.keys(values).filter((factor) => named.has(factor))
  return factors.flatMap((one, at) =>
    factors.slice(at + 1).flatMap((other) =>
      (values[one] ?? []).flatMap((first) =>
        (values[other] ?? []).flatMap((second): PairNotMet[] => {
          if (places.some((place) => place.values[one] === first && place.values[other] === second)) return []
          const broken = rules.find(({ rule }) => breaks(rule, { [one]: first, [other]: second }))
          return [{ pair: [first, second], rule: broken?.line ?? null }]
        }),
      ),
    ),
  )
}
