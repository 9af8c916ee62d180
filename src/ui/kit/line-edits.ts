// What keys do to lines that are edited where they stand. A line after the last is begun by typing in it.

/** The lines after a key, with the line and the place in it that is typed at next; at its end unless it is named. */
export interface LineEdit {
  readonly lines: readonly string[]
  readonly line: number
  readonly at?: number
}

interface Caret {
  readonly value: string
  readonly selectionStart: number | null
  readonly selectionEnd: number | null
}

/** Enter: the line is cut in two where the caret stands; what follows keeps the indent. */
export function split(
  lines: readonly string[],
  line: number,
  { value, selectionStart, selectionEnd }: Caret,
): LineEdit {
  const indent = /^\s*/.exec(value)?.[0] ?? ''
  const [before, after] = [value.slice(0, selectionStart ?? value.length), value.slice(selectionEnd ?? value.length)]
  return { lines: lines.toSpliced(line, 1, before, indent + after), line: line + 1, at: indent.length }
}

export const without = (lines: readonly string[], line: number): LineEdit => ({
  lines: lines.toSpliced(line, 1),
  line: line - 1,
})

/** The line changes places with the one above or below it; `null` when there is none. */
export function swapped(lines: readonly string[], line: number, by: -1 | 1): LineEdit | null {
  const own = lines[line]
  if (own === undefined || lines[line + by] === undefined) return null
  return { lines: lines.toSpliced(line, 1).toSpliced(line + by, 0, own), line: line + by }
}

/** Tab: two signs further in, or with Shift further out. */
export const indented = (lines: readonly string[], line: number, out: boolean): LineEdit => ({
  lines: lines.map((each, at) => (at !== line ? each : out ? each.replace(/^\s{1,2}/, '') : `  ${each}`)),
  line,
})

/** Several lines that were pasted stand after the one they were pasted in, or in its place when it says nothing; `null` for a single one. */
export function pasted(lines: readonly string[], line: number, text: string): LineEdit | null {
  const added = text.split(/\r?\n/).filter((each) => each.trim() !== '')
  if (added.length < 2) return null
  const own = lines[line] ?? ''
  return {
    lines: lines.toSpliced(line, 1, ...(own.trim() === '' ? [] : [own]), ...added),
    line: line + added.length - 1,
  }
}
