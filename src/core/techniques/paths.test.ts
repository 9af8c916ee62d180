import { expect } from 'chai'
import fc from 'fast-check'
import { Refusal } from '#core/lib/refusal.ts'
import { seeded } from '#core/lib/random.ts'
import { checkModel, type Criterion, criteria, type PathsModel, pathsModel } from './models.ts'
import { type PathsAnswer, statePathsFor } from './paths.ts'
import { graphs } from '../../../test/models.ts'

const walk = (model: unknown, criterion: Criterion): PathsAnswer =>
  statePathsFor(checkModel(pathsModel, model), criterion)

/** What there is to cover, found without the code under test: by following every way as far as it goes. */
function goals(model: PathsModel): {
  readonly usable: number[]
  readonly states: Set<string>
  readonly pairs: string[]
} {
  const reach = (from: readonly string[], forward: boolean): Set<string> => {
    const seen = new Set(from)
    for (let size = -1; size !== seen.size;) {
      size = seen.size
      for (const each of model.transitions)
        if (seen.has(forward ? each.from : each.to)) seen.add(forward ? each.to : each.from)
    }
    return seen
  }
  const there = reach([model.initial], true)
  const back = model.final ? reach(model.final, false) : there
  const states = new Set([...there].filter((state) => back.has(state)))
  const usable = model.transitions.flatMap(({ from, to }, at) => (states.has(from) && states.has(to) ? [at] : []))
  return {
    usable,
    states,
    pairs: usable.flatMap((a) =>
      usable.filter((b) => model.transitions[a]!.to === model.transitions[b]!.from).map((b) => `${a},${b}`),
    ),
  }
}

/** The fewest steps that cover all goals, by breadth-first search over where one stands and what is covered. */
function fewestSteps(model: PathsModel, criterion: Criterion): number {
  const { usable, states, pairs } = goals(model)
  const names = criterion === 'transitions' ? usable.map(String) : criterion === 'pairs' ? pairs : [...states]
  const full = 2 ** names.length - 1
  const bit = (name: string): number => (names.includes(name) ? 2 ** names.indexOf(name) : 0)
  interface Place {
    readonly state: string
    readonly last: number
    readonly covered: number
  }
  const ends = (state: string): boolean => !model.final || model.final.includes(state)
  const start: Place = { state: model.initial, last: -1, covered: criterion === 'states' ? bit(model.initial) : 0 }
  const key = ({ state, last, covered }: Place): string => `${state} ${criterion === 'pairs' ? last : ''} ${covered}`
  let now = [start]
  const seen = new Set([key(start)])
  for (let steps = 0; now.length > 0; steps++) {
    // A new path begins at the initial state, at no cost, wherever a path may end.
    for (const place of now) {
      const again = { state: model.initial, last: -1, covered: place.covered }
      if (ends(place.state) && !seen.has(key(again))) {
        seen.add(key(again))
        now.push(again)
      }
    }
    if (now.some(({ state, covered }) => covered === full && (ends(state) || steps === 0))) return steps
    now = now.flatMap(({ state, last, covered }) =>
      usable
        .filter((at) => model.transitions[at]!.from === state)
        .flatMap((at): Place[] => {
          const { to } = model.transitions[at]!
          const next = {
            state: to,
            last: at,
            covered:
              covered |
              (criterion === 'transitions' ? bit(String(at)) : criterion === 'states' ? bit(to) : bit(`${last},${at}`)),
          }
          if (seen.has(key(next))) return []
          seen.add(key(next))
          return [next]
        }),
    )
  }
  throw new Error('not coverable')
}

function sound(model: PathsModel, answer: PathsAnswer, criterion: Criterion): void {
  const { usable, states, pairs } = goals(model)
  for (const path of answer.paths) {
    expect(model.transitions[path[0]!]!.from).to.equal(model.initial)
    path
      .slice(1)
      .forEach((at, before) => expect(model.transitions[at]!.from).to.equal(model.transitions[path[before]!]!.to))
    if (model.final) expect(model.final).to.include(model.transitions[path.at(-1)!]!.to)
  }
  expect(answer.steps).to.equal(answer.paths.flat().length)
  const walked =
    criterion === 'transitions'
      ? new Set(answer.paths.flat().map(String))
      : criterion === 'pairs'
        ? new Set(answer.paths.flatMap((path) => path.slice(1).map((at, before) => `${path[before]!},${at}`)))
        : new Set([model.initial, ...answer.paths.flatMap((path) => path.map((at) => model.transitions[at]!.to))])
  for (const goal of criterion === 'transitions' ? usable.map(String) : criterion === 'pairs' ? pairs : states)
    expect(walked.has(goal), goal).to.equal(true)
  expect(answer.of).to.equal(
    criterion === 'transitions' ? usable.length : criterion === 'pairs' ? pairs.length : states.size,
  )
  expect(answer.covered).to.equal(answer.of)
  expect(answer.unreachable).to.deep.equal(model.transitions.flatMap((_, at) => (usable.includes(at) ? [] : [at])))
}

const refusable = (model: PathsModel): boolean => {
  try {
    walk(model, 'transitions')
    return false
  } catch (error) {
    if (error instanceof Refusal) return true
    throw error
  }
}

describe('state graphs', () => {
  for (const criterion of criteria)
    it(`cover ${criterion} with the fewest steps, checked against a search through everything`, () => {
      fc.assert(
        fc.property(graphs(5, criterion === 'pairs' ? 6 : 8), (model) => {
          if (refusable(model)) return
          fc.pre(criterion !== 'pairs' || goals(model).pairs.length <= 14)
          const answer = walk(model, criterion)
          sound(model, answer, criterion)
          expect(answer.steps).to.equal(fewestSteps(model, criterion))
          expect(answer.least).to.equal(answer.steps)
        }),
        { numRuns: 400, seed: 8 },
      )
    })

  it('walk graphs of two hundred states and a thousand transitions', () => {
    const random = seeded(3)
    const transitions = Array.from({ length: 1000 }, (_, at) => ({
      from: `s${at < 199 ? at : Math.floor(random() * 200)}`,
      event: `e${at}`,
      to: `s${at < 199 ? at + 1 : Math.floor(random() * 200)}`,
    }))
    for (const criterion of criteria) {
      const answer = walk({ initial: 's0', transitions }, criterion)
      sound(checkModel(pathsModel, { initial: 's0', transitions }), answer, criterion)
      expect(answer.steps).to.be.at.least(answer.least)
    }
  })

  it('start at the initial state, end in a final one, and say what cannot be reached', () => {
    const model = {
      initial: 'held',
      final: ['sailed'],
      transitions: [
        { from: 'held', event: 'pay', to: 'paid' },
        { from: 'paid', event: 'sail', to: 'sailed' },
        { from: 'held', event: 'drop', to: 'gone' },
        { from: 'lost', event: 'find', to: 'held' },
      ],
    }
    const answer = walk(model, 'transitions')
    expect(answer.paths).to.deep.equal([[0, 1]])
    expect(answer.unreachable).to.deep.equal([2, 3])
    expect(answer.invalid).to.deep.include({ state: 'sailed', event: 'pay' })
    expect(answer.invalid.some(({ state }) => state === 'lost')).to.equal(false)
    expect(answer.notices.map(({ at }) => at)).to.deep.equal(['gone', 'lost'])
  })

  it('needs as few paths as the steps allow', () => {
    expect(
      walk(
        {
          initial: 'a',
          transitions: [
            { from: 'a', event: 'x', to: 'b' },
            { from: 'a', event: 'y', to: 'c' },
            { from: 'a', event: 'z', to: 'a' },
          ],
        },
        'transitions',
      ).paths,
    ).to.have.length(2)
  })

  for (const [why, model, place] of [
    ['no transitions', { initial: 'a', transitions: [] }, 'transitions'],
    [
      'an initial state that nothing leaves',
      { initial: 'q', transitions: [{ from: 'a', event: 'x', to: 'b' }] },
      'initial',
    ],
    [
      'an unknown final state',
      { initial: 'a', final: ['z'], transitions: [{ from: 'a', event: 'x', to: 'b' }] },
      'final[0]',
    ],
    [
      'a final state that cannot be reached',
      {
        initial: 'a',
        final: ['c'],
        transitions: [
          { from: 'a', event: 'x', to: 'b' },
          { from: 'c', event: 'x', to: 'b' },
        ],
      },
      'final',
    ],
  ] as const)
    it(`refuse ${why} at its place`, () =>
      expect(() => walk(model, 'transitions'))
        .to.throw(Refusal)
        .with.nested.property('detail.fields[0].field', place))

  it('tell transitions that cannot be told apart', () => {
    expect(
      walk(
        {
          initial: 'a',
          transitions: [
            { from: 'a', event: 'x', to: 'b' },
            { from: 'a', event: 'x', to: 'c' },
            { from: 'a', event: 'x', to: 'b' },
          ],
        },
        'transitions',
      ).notices,
    ).to.have.length(2)
  })
})
