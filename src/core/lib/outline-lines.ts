/** One line of a typed or pasted outline. `depth` counts from 0 and never jumps by more than one. */
export interface OutlineLine {
  readonly title: string
  readonly depth: number
}

/**
 * Reads an outline of lines: a Tab, two spaces or more indent; list marks in front are
 * dropped; empty lines are passed over.
 */
export function outlineLines(text: string): OutlineLine[] {
  const raw = text.split(/\r?\n/).flatMap((written) => {
    const title = written
      .trim()
      .replace(/^([-*•+]|\d{1,3}[.)])\s+/, '')
      .replace(/\s+/g, ' ')
    return title === '' ? [] : [{ title, indent: indentOf(written) }]
  })
  return settle(raw)
}

const indentOf = (written: string): number => {
  const lead = /^[\t ]*/.exec(written)?.[0] ?? ''
  return [...lead].reduce((width, char) => width + (char === '\t' ? 4 : 1), 0)
}

/** Turns columns of white space into levels: deeper than the line above is one level, whatever the width. */
function settle(raw: readonly { title: string; indent: number }[]): OutlineLine[] {
  const open: number[] = []
  return raw.map(({ title, indent }) => {
    while (open.length > 0 && (open.at(-1) ?? 0) >= indent) open.pop()
    open.push(indent)
    return { title, depth: open.length - 1 }
  })
}
