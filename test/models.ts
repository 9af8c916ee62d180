import fc from 'fast-check'
import type { CombosModel, DecisionsModel, PathsModel } from '#core/techniques/models.ts'

/** Small models of combinations with every part that there is, so that all rows can be walked through. */
export const combosModels = fc
  .record({
    levels: fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 5 }),
    strength: fc.integer({ min: 1, max: 4 }),
    stronger: fc.boolean(),
    bad: fc.boolean(),
    rules: fc.array(
      fc.record({ kind: fc.boolean(), a: fc.nat(), av: fc.nat(), b: fc.nat(), bv: fc.nat(), c: fc.nat() }),
      { maxLength: 5 },
    ),
  })
  .map(({ levels, strength, stronger, bad, rules }): CombosModel => {
    const names = levels.map((_, at) => `p${at}`)
    const parameters = Object.fromEntries(
      levels.map((level, at) => [`p${at}`, Array.from({ length: level }, (_, value) => `v${value}`)]),
    )
    const at = (n: number): string => names[n % names.length]!
    const value = (n: number, name: string): string => parameters[name]![n % parameters[name]!.length]!
    return {
      parameters,
      strength,
      stronger: stronger && names.length > 2 ? [{ of: names.slice(0, 3), strength: 3 }] : [],
      negative: bad ? { p0: ['bad'] } : {},
      weights: { p0: { v0: 5 } },
      constraints: rules.flatMap(({ kind, a, av, b, bv, c }): CombosModel['constraints'] => {
        const [first, second] = [at(a), at(b)]
        if (first === second) return []
        return kind
          ? [{ forbid: { [first]: [value(av, first)], [second]: [value(bv, second)] } }]
          : [
              {
                if: { [first]: [value(av, first)] },
                then: { [second]: [...new Set([value(bv, second), value(c, second)])] },
              },
            ]
      }),
    }
  })

/** An input whose partitions touch, the first of them valid. */
export const inputs = fc
  .record({
    starts: fc.uniqueArray(fc.integer({ min: -50, max: 50 }), { minLength: 2, maxLength: 6 }),
    valid: fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
  })
  .map(({ starts, valid }) => {
    const sorted = [...starts].sort((a, b) => a - b)
    return {
      type: 'integer' as const,
      partitions: sorted
        .slice(1)
        .map((next, at) => ({ name: `p${at}`, from: sorted[at]!, to: next - 1, valid: at === 0 || valid[at]! })),
    }
  })

/** Decision tables of random rules and impossible combinations. */
export const tables = (most: { conditions: number; values: number; rules: number; outcomes: number }) =>
  fc
    .record({
      levels: fc.array(fc.integer({ min: 2, max: most.values }), { minLength: 1, maxLength: most.conditions }),
      rules: fc.array(
        fc.record({
          masks: fc.array(fc.nat(15), { minLength: most.conditions, maxLength: most.conditions }),
          outcome: fc.nat(most.outcomes - 1),
        }),
        { maxLength: most.rules },
      ),
      impossible: fc.array(fc.array(fc.nat(15), { minLength: most.conditions, maxLength: most.conditions }), {
        maxLength: 2,
      }),
    })
    .map(({ levels, rules, impossible }): DecisionsModel => {
      const conditions = Object.fromEntries(
        levels.map((level, at) => [`c${at}`, Array.from({ length: level }, (_, value) => `v${value}`)]),
      )
      const when = (masks: readonly number[]): Record<string, string[]> =>
        Object.fromEntries(
          Object.entries(conditions).flatMap(([name, values], at) => {
            const chosen = values.filter((_, value) => (masks[at]! & (1 << value)) !== 0)
            return chosen.length === 0 || chosen.length === values.length ? [] : [[name, chosen]]
          }),
        )
      return {
        conditions,
        rules: rules.map(({ masks, outcome }) => ({ when: when(masks), then: { fare: `f${outcome}` } })),
        impossible: impossible.map(when).filter((terms) => Object.keys(terms).length > 0),
      }
    })

/** State graphs in which some states may be out of reach. */
export const graphs = (states: number, transitions: number) =>
  fc
    .record({
      edges: fc.array(fc.tuple(fc.nat(states - 1), fc.nat(2), fc.nat(states - 1)), {
        minLength: 1,
        maxLength: transitions,
      }),
      final: fc.option(fc.nat(states - 1)),
    })
    .map(({ edges, final }): PathsModel => ({
      initial: `s${edges[0]![0]}`,
      transitions: edges.map(([from, event, to]) => ({
        from: `s${from}`,
        event: `e${event}`,
        guard: undefined,
        to: `s${to}`,
      })),
      ...(final !== null && edges.some(([from, , to]) => from === final || to === final)
        ? { final: [`s${final}`] }
        : {}),
    }))
