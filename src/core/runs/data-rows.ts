// Which data rows of each case a run executes: numbers and spans, as `1, 3-5`; empty: all.

const part = /^(\d{1,4})(?:\s*[-–]\s*(\d{1,4}))?$/

/** The spans a text names, or `null` where it names none: a number stands for itself. */
function spansIn(text: string): (readonly [from: number, to: number])[] | null {
  const spans = text
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '')
    .map((each) => {
      const [, from = '', to = from] = part.exec(each) ?? []
      return [Number(from), Number(to)] as const
    })
  return spans.every(([from, to]) => from >= 1 && from <= to) ? spans : null
}

/** Can the text be read? */
export const isRowsText = (text: string): boolean => spansIn(text) !== null

/**
 * The rows of a case that are executed, by their numbers from 1. A case none of whose rows are named is executed with its first:
 * it is in the run, so that it is not executed at all would be said of nothing.
 * @param n how many data rows the case has
 */
export function chosenRows(text: string, n: number): number[] {
  const all = Array.from({ length: n }, (_, at) => at + 1)
  const spans = spansIn(text) ?? []
  if (spans.length === 0) return all
  const chosen = all.filter((row) => spans.some(([from, to]) => row >= from && row <= to))
  return chosen.length === 0 ? all.slice(0, 1) : chosen
}
