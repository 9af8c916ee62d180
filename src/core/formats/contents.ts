import { areWordsOf } from './value-words.ts'

/** What the cells of a column look like, whatever stands above them. */
export interface Contents {
  /** Cells that are filled. */
  readonly filled: number
  /** Whole numbers that count on by one, beginning again at one. */
  readonly counts: boolean
  /** It begins again at least once. */
  readonly restarts: boolean
  readonly numeric: boolean
  /** Names such as `TC-12`, each once or on neighbouring rows. */
  readonly keys: boolean
  /** Letters of a cell, on the average. */
  readonly length: number
  /** Distinct texts by filled cells. */
  readonly variety: number
  readonly importance: boolean
  readonly automation: boolean
}

const isKey = (text: string): boolean => /^\p{L}{1,12}(?:[-_ .]\p{L}{1,12}){0,3}[-_ .]?\d{1,6}$/u.test(text)
export const isWhole = (text: string): boolean => /^\d{1,4}[.)]?$/.test(text)

/** `texts`: the cells of a column from the first row of data on, white space taken off; empty ones stay. */
export function contentsOf(texts: readonly string[]): Contents {
  const filled = texts.filter((text) => text !== '')
  const numbers = filled.map((text) => (isWhole(text) ? Number.parseInt(text, 10) : NaN))
  const steps = numbers.slice(1).map((number, index) => ({ number, before: numbers[index] ?? NaN }))
  const restarts = steps.some(({ number, before }) => number === 1 && before >= 1)
  const distinct = new Set(filled)
  return {
    filled: filled.length,
    counts:
      filled.length > 1 &&
      numbers[0] === 1 &&
      steps.every(({ number, before }) => number === before + 1 || number === 1 || number === before),
    restarts,
    numeric: filled.length > 0 && filled.every((text) => /^[\d.,:]+$/.test(text)),
    keys: filled.length > 0 && filled.every(isKey),
    length: filled.reduce((sum, text) => sum + text.length, 0) / Math.max(1, filled.length),
    variety: distinct.size / Math.max(1, filled.length),
    importance: distinct.size > 0 && areWordsOf('importance', [...distinct]),
    automation: distinct.size > 0 && areWordsOf('automation', [...distinct]),
  }
}
