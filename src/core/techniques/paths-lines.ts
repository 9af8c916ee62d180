import { each, type FromLines, LineError, placeIn, type Reading, short, type Source } from './line-reader.ts'
import type { PathsModel } from './models.ts'
import { transitionText } from './paths.ts'

const arrow = /^(.+?)\s+[-–]+\s*(.*?)\s*(?:\[([^\]]*)\]\s*)?(?:[-–]*>|→)\s*(.+)$/u

/** `begins at held`, `ends at sailed, refunded`, and transitions `held -pay [card accepted]-> paid`. */
export function pathsFromLines(source: Source): FromLines<PathsModel> {
  const reading: Reading = { problems: [], places: new Map() }
  const transitions: PathsModel['transitions'] = []
  let initial: string | null = null
  let final: string[] | undefined
  each(source, 'transitions', reading, (line, at) => {
    const place = { section: 'transitions', line: at }
    const begins = /^\s*begins at\s+(.+)$/i.exec(line)?.[1]
    const ends = /^\s*ends at\s+(.+)$/i.exec(line)?.[1]
    if (begins !== undefined) {
      initial = begins.trim()
      reading.places.set('initial', place)
    } else if (ends !== undefined) {
      final = ends
        .split(',')
        .map((state) => state.trim())
        .filter(Boolean)
      reading.places.set('final', place)
    } else {
      reading.places.set(`transitions[${transitions.length}]`, place)
      transitions.push(transitionOf(line))
    }
  })
  const known = statesIn(transitions, reading)
  const body: PathsModel = {
    initial: known.initial(initial) ?? transitions[0]?.from ?? initial ?? 'start',
    transitions,
    ...(final && { final: known.final(final) }),
  }
  return { body, problems: reading.problems, placeOf: placeIn(reading) }
}

function transitionOf(line: string): PathsModel['transitions'][number] {
  const [, from = '', event = '', guard, to = ''] = arrow.exec(line) ?? []
  if (to === '') throw new LineError('Write a state, an event and the next state: held -pay-> paid.')
  return { from: short(from.trim()), event: short(event), guard: guard?.trim() || undefined, to: short(to.trim()) }
}

/** Where a graph begins and ends, as far as its transitions know these states; what they do not is told at its line. */
function statesIn(transitions: PathsModel['transitions'], { problems, places }: Reading) {
  const tell = (path: 'initial' | 'final', message: string) => problems.push({ ...places.get(path)!, message })
  const [left, named] = [new Set(transitions.map(({ from }) => from)), new Set(transitions.map(({ to }) => to))]
  return {
    initial: (state: string | null): string | null => {
      if (state === null || transitions.length === 0 || left.has(state)) return state
      tell('initial', `No transition leaves ${state}; the first line counts as the beginning until one does.`)
      return null
    },
    final: (states: readonly string[]): string[] =>
      states.filter((state) => {
        const isKnown = transitions.length === 0 || left.has(state) || named.has(state)
        if (!isKnown) tell('final', `No transition names the final state ${state}.`)
        return isKnown
      }),
  }
}

export const pathsLines = ({ initial, final, transitions }: PathsModel): Source => ({
  transitions: [
    `begins at ${initial}`,
    ...(final && final.length > 0 ? [`ends at ${final.join(', ')}`] : []),
    ...transitions.map(transitionText),
  ],
})
