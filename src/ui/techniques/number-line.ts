import type { BoundaryInput } from '#core/techniques/models.ts'

// Values of an ordered input as places on a line: numbers as they are, dates in milliseconds.

type Partition = BoundaryInput['partitions'][number]
const day = 86_400_000

/** The least difference of two values, as a length on the line. */
export const stepOf = ({ type, step }: BoundaryInput): number => (type === 'date' ? day : 1) * (step ?? 1)

/** Where a value lies; `null` when there is none, or none that can be read. */
export function placeOf(input: BoundaryInput, value: string | number | undefined): number | null {
  if (value === undefined) return null
  const number = input.type === 'date' ? Date.parse(`${value}T00:00:00Z`) : Number(value)
  return Number.isFinite(number) ? number : null
}

/** The value nearest to a place: a whole number of steps, a whole day. */
export function valueAt(input: BoundaryInput, at: number): string | number {
  if (input.type === 'date') return new Date(Math.round(at / day) * day).toISOString().slice(0, 10)
  const step = input.step ?? 1
  const decimals = String(step).split('.')[1]?.length ?? 0
  return Number((Math.round(at / step) * step).toFixed(decimals))
}

/** An end of a partition. */
export interface Edge {
  readonly partition: number
  readonly end: 'from' | 'to'
  readonly at: number
}

export const edgesOf = (input: BoundaryInput): Edge[] =>
  input.partitions.flatMap((each, partition) =>
    (['from', 'to'] as const).flatMap((end): Edge[] => {
      const at = placeOf(input, each[end])
      return at === null ? [] : [{ partition, end, at }]
    }),
  )

export interface Extent {
  readonly first: number
  readonly last: number
}

/** What of the line is shown: all edges with some room; a length begins at none. */
export function extentOf(input: BoundaryInput, edges: readonly Edge[]): Extent {
  const places = edges.map(({ at }) => at)
  const [low, high] = [Math.min(...places), Math.max(...places)]
  const margin = Math.max((high - low) * 0.12, stepOf(input) * 3)
  return { first: input.type === 'length' ? Math.max(0, low - margin) : low - margin, last: high + margin }
}

/** Per cent of the shown line. */
export const shareOf = ({ first, last }: Extent, at: number): number => (100 * (at - first)) / (last - first)

/**
 * The partitions with an edge moved; `null` when it stays at the same value. The neighbour that begins where this one ends moves
 * along, so that neither gap nor overlap comes of it.
 */
export function moved(input: BoundaryInput, { partition, end, at }: Edge, to: number): Partition[] | null {
  const value = placeOf(input, valueAt(input, to)) ?? at
  if (value === at) return null
  const step = stepOf(input)
  return input.partitions.map((each, index) => {
    if (index === partition) return { ...each, [end]: valueAt(input, value) }
    const other = placeOf(input, end === 'to' ? each.from : each.to)
    const meets = other !== null && other !== at && Math.abs(other - at) <= step * 1.0001
    if (!meets) return each
    return end === 'to'
      ? { ...each, from: valueAt(input, value + step) }
      : { ...each, to: valueAt(input, value - step) }
  })
}

/** A beginning right after another's end needs no words of its own. */
export const isSaid = (input: BoundaryInput, edges: readonly Edge[], edge: Edge): boolean =>
  edge.end === 'to' ||
  !edges.some(({ end, at }) => end === 'to' && Math.abs(edge.at - at - stepOf(input)) < stepOf(input) * 0.001)

/** A value written at its edge. */
export interface Label {
  readonly end: 'from' | 'to'
  /** Pixels from the line's left end. */
  readonly at: number
  readonly text: string
}
/** Where a value is written: on a level below the line, from 0 (`null` where none has room), and to which side of its edge. */
export interface Place {
  readonly level: number | null
  readonly side: 'left' | 'right'
}

/** Pixels of a letter of the values, and between two of them. */
const letter = 6.8
const apart = 6
const mostLevels = 3

/** Leftwards from an end, rightwards from a beginning, unless that leaves the line. */
function sideOf({ end, at, text }: Label, width: number): Place['side'] {
  const wide = text.length * letter
  if (end === 'to') return at - wide < 0 ? 'right' : 'left'
  return at + wide > width ? 'left' : 'right'
}

/** Where the values of a line of so many pixels stand, so that none is written over another. */
export function placesOf(labels: readonly Label[], width: number): Place[] {
  const spans = labels.map((label, index) => {
    const side = sideOf(label, width)
    const wide = label.text.length * letter
    return { index, side, from: side === 'left' ? label.at - wide : label.at, wide }
  })
  const reached = Array.from({ length: mostLevels }, () => -Infinity)
  const places: Place[] = spans.map(({ side }) => ({ level: null, side }))
  for (const { index, side, from, wide } of spans.sort((a, b) => a.from - b.from)) {
    const level = reached.findIndex((end) => end + apart <= from)
    if (level < 0) continue
    reached[level] = from + wide
    places[index] = { level, side }
  }
  return places
}

/** How far a key moves an edge, in steps. */
export function stepsOfKey({ key, shiftKey }: { readonly key: string; readonly shiftKey: boolean }): number {
  const far = shiftKey ? 10 : 1
  if (key === 'ArrowLeft') return -far
  return key === 'ArrowRight' ? far : 0
}
