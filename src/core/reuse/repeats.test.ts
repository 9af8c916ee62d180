import { expect } from 'chai'
import fc from 'fast-check'
import { it } from 'mocha'
import { repeatedSteps, type Sequence } from './repeats.ts'

const sequence = (id: number, actions: readonly string[]): Sequence => ({
  id,
  steps: actions.map((action) => ({ action, expected: '', data: '' })),
})

it('finds the steps that cases repeat, the most worth first', () => {
  const found = repeatedSteps([
    sequence(1, ['sign in', 'open', 'pay', 'leave']),
    sequence(2, ['look', 'sign in', 'open', 'pay']),
    sequence(3, ['Sign  in', '<strong>open</strong>', 'ask']),
  ])
  expect(found).to.deep.equal([
    {
      length: 3,
      places: [
        { id: 1, at: 0 },
        { id: 2, at: 1 },
      ],
      saved: 1,
    },
    {
      length: 2,
      places: [
        { id: 1, at: 0 },
        { id: 2, at: 1 },
        { id: 3, at: 0 },
      ],
      saved: 1,
    },
  ])
})
it('says nothing where nothing repeats', () => {
  expect(repeatedSteps([])).to.deep.equal([])
  expect(repeatedSteps([sequence(1, ['a', 'b', 'a', 'b'])])).to.deep.equal([])
})

const sequences = fc
  .array(fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 7 }), { maxLength: 6 })
  .map((all) => all.map((actions, index) => sequence(index + 1, actions)))

/** Every run of two or more steps that stands in two or more cases, by looking everywhere. */
function everyRun(all: readonly Sequence[]): Map<string, { length: number; cases: Set<number> }> {
  const runs = new Map<string, { length: number; cases: Set<number> }>()
  for (const { id, steps } of all)
    for (let from = 0; from < steps.length; from++)
      for (let to = from + 2; to <= steps.length; to++) {
        const text = steps
          .slice(from, to)
          .map(({ action }) => action)
          .join('')
        const known = runs.get(text) ?? { length: to - from, cases: new Set<number>() }
        known.cases.add(id)
        runs.set(text, known)
      }
  return new Map([...runs].filter(([, { cases }]) => cases.size >= 2))
}

it('tells true runs only, and each run that repeats lies in one it tells', () =>
  fc.assert(
    fc.property(sequences, (all) => {
      const told = repeatedSteps(all)
      const runs = everyRun(all)
      const text = (id: number, at: number, length: number): string =>
        (all.find((each) => each.id === id)?.steps ?? [])
          .slice(at, at + length)
          .map(({ action }) => action)
          .join('')
      for (const { length, places } of told) {
        const [first] = places
        const own = text(first?.id ?? 0, first?.at ?? 0, length)
        expect(runs.get(own)?.cases).to.deep.equal(new Set(places.map(({ id }) => id)))
        for (const { id, at } of places) expect(text(id, at, length)).to.equal(own)
      }
      for (const [run, { cases }] of runs)
        expect(
          told.some(({ length, places }) => {
            const [first] = places
            return (
              text(first?.id ?? 0, first?.at ?? 0, length).includes(run) &&
              [...cases].some((id) => places.some((place) => place.id === id))
            )
          }),
          run,
        ).to.equal(true)
    }),
    { numRuns: 400 },
  ))
