import type { AskWay, SlotSet } from '#core/plans/asks.ts'
import type { MatrixCell, Matrix, MatrixRow } from '#core/plans/asks-contract.ts'
import type { AnsweredSlot } from './scope-coverage.ts'

// What a plan asks for as a table: cases, or requirements with their cases, by environments.

export interface MatrixOf {
  /** Cases of the plan in its order → what is asked of each and what answers it. */
  readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
  readonly ways: ReadonlyMap<number, readonly AskWay[]>
  /** Ids of environments, in the order of the columns. */
  readonly columns: readonly number[]
  /** Requirements in the order of the outline, each with its cases that are in the plan. */
  readonly requirements: readonly { readonly id: number; readonly cases: readonly number[] }[]
}

/** A row before its words are known. */
export type MatrixPlace =
  | { readonly kind: 'requirement'; readonly id: number; readonly cases: readonly number[] }
  | { readonly kind: 'case'; readonly id: number }

/** The rows of the table in their order; cases that prove no requirement come last, under requirement 0. */
export function matrixPlaces(
  { slots, requirements }: Pick<MatrixOf, 'slots' | 'requirements'>,
  by: 'requirements' | 'cases',
): MatrixPlace[] {
  if (by === 'cases') return [...slots.keys()].map((id) => ({ kind: 'case', id }))
  const proving = new Set(requirements.flatMap(({ cases }) => cases))
  const alone = [...slots.keys()].filter((id) => !proving.has(id))
  const all = alone.length === 0 ? requirements : [...requirements, { id: 0, cases: alone }]
  return all
    .filter(({ cases }) => cases.length > 0)
    .flatMap(({ id, cases }): MatrixPlace[] => [
      { kind: 'requirement', id, cases },
      ...cases.map((each) => ({ kind: 'case' as const, id: each })),
    ])
}

/** The cells of a case. A slot that any of several environments answers stands in each of them; its result where it was gained. */
export function caseCells(slots: readonly AnsweredSlot[], columns: readonly number[]): (MatrixCell | null)[] {
  return columns.map((environment) => {
    const own = slots.find((slot) => !slot.among && slot.environment === environment)
    const slot = own ?? slots.find(({ among }) => among?.includes(environment))
    if (!slot) return null
    const here = slot.environment === environment && slot.standing !== null
    const counts = own !== undefined || here
    return {
      any: own === undefined,
      verdict: counts ? slot.verdict : 'Not run',
      stale: counts && slot.reasons.length > 0,
      attempt: here ? (slot.standing?.attemptId ?? null) : null,
      item: null,
    }
  })
}

/** How much of what is asked of some cases has passed, by environment. */
export function passedCells(
  cases: readonly number[],
  { slots, columns }: Pick<MatrixOf, 'slots' | 'columns'>,
): Extract<MatrixRow, { kind: 'requirement' }>['cells'] {
  const index = new Map(columns.map((id, at) => [id, at]))
  const cells = columns.map(() => ({ passed: 0, of: 0 }))
  for (const id of cases)
    for (const { environment, verdict } of slots.get(id) ?? []) {
      const cell = cells[index.get(environment) ?? -1]
      if (!cell) continue
      cell.of++
      if (verdict === 'Passed') cell.passed++
    }
  return cells
}

const failing = ['Failed', 'Blocked']

/** Does a slot want looking at, and why? */
export const wants = {
  empty: ({ standing }: AnsweredSlot) => standing === null,
  stale: ({ standing, reasons }: AnsweredSlot) => standing !== null && reasons.length > 0,
  failing: ({ verdict }: AnsweredSlot) => failing.includes(verdict),
} as const

type Counts = Record<keyof typeof wants, number>
/** What was counted of a case, by the very list of its slots. */
export type FiguresMemo = WeakMap<readonly AnsweredSlot[], Counts>

function countsOf(slots: readonly AnsweredSlot[]): Counts {
  const counted = (find: keyof typeof wants) => slots.filter(wants[find]).length
  return { empty: counted('empty'), stale: counted('stale'), failing: counted('failing') }
}

/** Figures of all the table; by `memo`, a case whose slots are the same as before is not counted again. */
export function matrixFigures(
  slots: MatrixOf['slots'],
  minutesOf: (id: number) => number,
  memo: FiguresMemo = new WeakMap(),
): Matrix['figures'] {
  const figures = { slots: 0, empty: 0, stale: 0, failing: 0, minutes: 0 }
  for (const [id, own] of slots) {
    const counts = memo.get(own) ?? countsOf(own)
    memo.set(own, counts)
    figures.slots += own.length
    figures.minutes += own.length * minutesOf(id)
    figures.empty += counts.empty
    figures.stale += counts.stale
    figures.failing += counts.failing
  }
  return figures
}

/** How many slots a plan asks for, and how long one pass over them takes. */
export function priceOf(
  sets: ReadonlyMap<number, readonly SlotSet[]>,
  minutesOf: (id: number) => number,
): { slots: number; minutes: number } {
  const price = { slots: 0, minutes: 0 }
  for (const [id, own] of sets) {
    price.slots += own.length
    price.minutes += own.length * minutesOf(id)
  }
  return price
}
