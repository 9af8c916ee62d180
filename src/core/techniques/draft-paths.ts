import { groupBy } from '#core/lib/group.ts'
import { counted } from '#core/lib/figures.ts'
import { against, type Asking, type DraftAnswer, type DraftStep, type Proposed } from './draft-answer.ts'
import type { DraftModel, DraftRow } from './draft-row.ts'
import type { PathsModel } from './models.ts'
import { statePathsFor, targetsOn, transitionText, waysTo } from './paths.ts'

type PathsInput = Extract<DraftModel, { technique: 'paths' }>

interface Walks extends Asking {
  readonly paths: readonly number[][]
  readonly mustRefuse: ReadonlyMap<string, readonly { readonly event: string }[]>
}

/** What walks are to pass, and what each state must refuse. */
export function pathsAsked({ body, criterion, invalid }: PathsInput, answer = statePathsFor(body, criterion)): Walks {
  const known = new Map(body.transitions.map((transition, index) => [transitionText(transition), index]))
  // A transition that stands twice counts once here, since rows are kept by its text.
  const paths = answer.paths.map((path) => path.map((index) => known.get(transitionText(body.transitions[index]!))!))
  const mustRefuse = groupBy(invalid ? answer.invalid : [], ({ state }) => state)
  const refusals = [...mustRefuse.values()].flat().map(({ state, event }) => refusal(state, event))
  // Where no path is to be walked, the initial state needs no case either.
  const ordinary = paths.length === 0 ? [] : targetsOn(body, paths, criterion)
  const all = new Set([...ordinary, ...refusals])
  return { paths, mustRefuse, all, goals: pathGoals({ body, criterion }, known) }
}

/** The walks a state graph asks for, and what each of its states must refuse. */
export function pathsDraft(model: PathsInput, accepted: readonly DraftRow[]): DraftAnswer {
  const { body, criterion, invalid } = model
  const answer = statePathsFor(body, criterion)
  const asked = pathsAsked(model, answer)
  const { paths, mustRefuse } = asked
  const { standing, answered } = against(accepted, asked)
  const taken = new Set(answered)
  const proposed = [...proposedWalks({ body, criterion }, paths, taken), ...proposedRefusals(body, mustRefuse, taken)]
  const one = criterion.slice(0, -1)
  return {
    proposed,
    standing,
    targets: asked.all.size,
    answered: answered.size,
    unit: invalid ? ['target', 'targets'] : [one, `${one}s`],
    notices: answer.notices,
    detail: { technique: 'paths', answer },
  }
}

type Walked = Pick<PathsInput, 'body' | 'criterion'>

/** What an accepted row answers of the model as it is now; a sentence when it cannot be walked any more. */
function pathGoals({ body, criterion }: Walked, known: ReadonlyMap<string, number>) {
  const walked = walkedIn(body, known)
  return (row: DraftRow): string[] | string => {
    const path = walked(row)
    if (typeof path === 'string') return path
    if (row['refused'] === undefined) return [...targetsOn(body, [path], criterion)]
    const state = path.length === 0 ? body.initial : body.transitions[path.at(-1)!]!.to
    const events = row['refused'].split('\n')
    const possible = events.find((event) =>
      body.transitions.some((each) => each.from === state && each.event === event),
    )
    return possible === undefined
      ? events.map((event) => refusal(state, event))
      : `${possible} is possible in ${state} now`
  }
}

/** Walks that answer something nothing before them does; what they answer is taken. */
function proposedWalks({ body, criterion }: Walked, paths: readonly number[][], taken: Set<string>): Proposed[] {
  return paths.flatMap((path): Proposed[] => {
    const fresh = [...targetsOn(body, [path], criterion)].filter((each) => !taken.has(each))
    for (const each of fresh) taken.add(each)
    if (fresh.length === 0) return []
    return [
      {
        row: { path: pathLines(body, path) },
        adds: fresh.length,
        negative: false,
        why: counted(fresh.length, `new ${criterion.slice(0, -1)}`),
        steps: pathSteps(body, path),
      },
    ]
  })
}

/** What is refused changes nothing, so one walk to a state serves all its events. */
function proposedRefusals(
  body: PathsModel,
  mustRefuse: ReadonlyMap<string, readonly { readonly event: string }[]>,
  taken: ReadonlySet<string>,
): Proposed[] {
  const ways = waysTo(body)
  return [...mustRefuse].flatMap(([state, events]): Proposed[] => {
    const open = events.map(({ event }) => event).filter((event) => !taken.has(refusal(state, event)))
    const path = ways.get(state)
    if (open.length === 0 || path === undefined) return []
    const attempts = open.map((event): DraftStep => ({
      action: `Try to ${event}`,
      expected: `It is refused; the state is still ${state}`,
    }))
    return [
      {
        row: { path: path.length === 0 ? state : pathLines(body, path), refused: open.join('\n') },
        adds: open.length,
        negative: true,
        why: `${counted(open.length, 'event')} that must change nothing`,
        steps: [...pathSteps(body, path), ...attempts],
      },
    ]
  })
}

const refusal = (state: string, event: string): string => `not ${event} in ${state}`
const pathLines = (body: PathsModel, path: readonly number[]): string =>
  path.map((index) => transitionText(body.transitions[index]!)).join('\n')
const pathSteps = (body: PathsModel, path: readonly number[]): DraftStep[] =>
  path
    .map((index) => body.transitions[index]!)
    .map(({ event, guard, to }) => ({
      action: `${event || 'Go on'}${guard ? `, with ${guard}` : ''}`,
      expected: `The state is ${to}`,
    }))

/** Finds what a row walked again in the graph as it is now; a sentence where that is not possible. */
function walkedIn(body: PathsModel, at: ReadonlyMap<string, number>): (row: DraftRow) => number[] | string {
  return (row) => {
    const refuses = row['refused'] !== undefined
    if (refuses && row['path'] === body.initial) return []
    const lines = (row['path'] ?? '').split('\n')
    const lost = lines.find((line) => !at.has(line))
    if (lost !== undefined) return `${lost} is not in the graph any more`
    const path = lines.map((line) => at.get(line)!)
    const [first, last] = [body.transitions[path[0]!]!, body.transitions[path.at(-1)!]!]
    if (first.from !== body.initial) return `begins at ${first.from}, not at ${body.initial}`
    if (!refuses && body.final && body.final.length > 0 && !body.final.includes(last.to))
      return `ends at ${last.to}, which is not final`
    return path
  }
}
