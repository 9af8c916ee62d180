import { type StepText, stepLines } from '#core/cases/steps.ts'

/** A part of a list that stands in one cell; `n` is the number it bears, or its place among bullets. */
interface Part {
  readonly n: number
  readonly text: string
}
interface Parts {
  readonly by: 'numbers' | 'bullets'
  readonly parts: readonly Part[]
}

/** `1.`, `2)`, `(3)`, `Step 4:`, `5 -` at the start of a line; `2.50` is a decimal, since no number goes on after a mark. */
const numbered =
  /^\s*(?:(?:step|schritt|étape|paso|passo|krok|stap|steg|手順|步骤|단계)\s*)?[([（]?(\d{1,3})\s*(?:[.):\]）．、：](?!\d)|\s[-–]\s)\s*(.*)$/iu
const bullet = /^\s*[-–—*•·▪◦‣➢➤]\s+(.*)$/u
/** The same numbers within one line, as they stand when the line breaks were lost. */
const inline = /(?:^|\s)(\d{1,3})[.)](?!\d)\s+/gu

/** The list that stands in one cell; `null` where it is none. A line without a number goes on with the one above. */
export function partsOf(text: string): Parts | null {
  const lines = text.split(/\r\n|\r|\n/)
  return byInline(text, lines) ?? byNumbers(lines) ?? byBullets(lines)
}

function byNumbers(lines: readonly string[]): Parts | null {
  const parts: { n: number; text: string }[] = []
  let lead = ''
  for (const line of lines) {
    const marked = numbered.exec(line)
    const n = Number(marked?.[1])
    const last = parts.at(-1)
    // Numbers of a list go up; another number at a line's start is a part of the text.
    if (marked && n > (last?.n ?? 0) && n <= (last?.n ?? 0) + 20) parts.push({ n, text: marked[2] ?? '' })
    else if (last) last.text += `\n${line}`
    else if (line.trim() !== '') lead += `${line}\n`
  }
  const [first] = parts
  if (!first || (lead !== '' && parts.length < 2)) return null
  // What stands above the first number belongs to it: nothing that is written is left out.
  first.text = `${lead}${first.text}`
  return { by: 'numbers', parts: parts.map(({ n, text }) => ({ n, text: text.trim() })) }
}

function byInline(text: string, lines: readonly string[]): Parts | null {
  if (lines.filter((line) => line.trim() !== '').length !== 1) return null
  const marks = [...text.matchAll(inline)]
  if (marks.length < 2 || marks[0]?.index !== 0 || marks.some((mark, index) => Number(mark[1]) !== index + 1))
    return null
  return {
    by: 'numbers',
    parts: marks.map((mark, index) => ({
      n: index + 1,
      text: text.slice((mark.index ?? 0) + mark[0].length, marks[index + 1]?.index ?? text.length).trim(),
    })),
  }
}

function byBullets(lines: readonly string[]): Parts | null {
  const parts: string[] = []
  for (const line of lines) {
    const marked = bullet.exec(line)
    if (marked) parts.push(marked[1] ?? '')
    else if (parts.length > 0) parts[parts.length - 1] += `\n${line}`
    else if (line.trim() !== '') return null
  }
  return parts.length < 2
    ? null
    : { by: 'bullets', parts: parts.map((text, index) => ({ n: index + 1, text: text.trim() })) }
}

export interface CellTexts {
  readonly action: string
  readonly expected: string
  readonly data: string
}
export interface CellSteps {
  readonly steps: StepText[]
  /** What is not as one expects, in words. */
  readonly told: readonly string[]
}

/**
 * The steps of one case from the cells they stand in: results and data go to the step that bears their number, never to another one.
 * A text that is no list is the first action or the last expected result; `action => expected` is taken apart where nothing is expected beside it.
 */
export function cellSteps(texts: CellTexts): CellSteps {
  const actions = partsOf(texts.action)
  if (!actions) return oneStep(texts)
  const numbers = actions.parts.map(({ n }) => n)
  const told: string[] = []
  const beside = (field: 'expected' | 'data', whole: 'first' | 'last'): ReadonlyMap<number, string> => {
    const text = texts[field]
    if (text === '') return new Map()
    const list = partsOf(text)
    if (list && (list.by === 'numbers' || list.parts.length === numbers.length))
      return new Map(list.parts.map(({ n, text: part }) => [list.by === 'numbers' ? n : (numbers[n - 1] ?? n), part]))
    return new Map([[(whole === 'first' ? numbers[0] : numbers.at(-1)) ?? 1, text]])
  }
  const [expected, data] = [beside('expected', 'last'), beside('data', 'first')]
  const alone = [...new Set([...expected.keys(), ...data.keys()])].filter((n) => !numbers.includes(n))
  for (const n of alone)
    told.push(`has a result or data numbered ${n}, but no step ${n}; it is kept as a step of its own`)
  const all = [...actions.parts, ...alone.map((n): Part => ({ n, text: '' }))].sort((a, b) => a.n - b.n)
  const steps = all.flatMap(({ n, text }) => stepOf(text, expected.get(n) ?? '', data.get(n) ?? ''))
  return { steps, told }
}

/** No list of actions: one step, unless the results are a list, which then are steps without an action. */
function oneStep({ action, expected, data }: CellTexts): CellSteps {
  if (action === '' && expected === '' && data === '') return { steps: [], told: [] }
  const lines = action.split(/\r\n|\r|\n/).filter((line) => line.trim() !== '')
  if (expected === '' && lines.length > 1 && lines.every((line) => line.includes('=>')))
    return { steps: lines.flatMap((line) => stepOf(line.trim(), '', '')), told: [] }
  return { steps: stepOf(action, expected, data), told: [] }
}

const stepOf = (action: string, expected: string, data: string): StepText[] =>
  expected === '' && data === '' && !action.includes('\n') && action.includes('=>')
    ? stepLines(action)
    : [{ id: null, action, expected, data }]
