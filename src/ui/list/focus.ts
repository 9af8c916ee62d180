/** The focused line of a list, and its column; -1 is the row as a whole. */
export interface Focus {
  readonly line: number
  readonly column: number
}

interface Extent {
  readonly lines: number
  readonly columns: number
  /** So many lines are gone through by Page Up and Page Down. */
  readonly page: number
}

/** Where a key leads to from the focus, never over an edge; `null` when the key does not move. */
export function keyMoves(key: string, { line, column }: Focus, { lines, columns, page }: Extent): Focus | null {
  const moves: Readonly<Record<string, readonly [line: number, column: number]>> = {
    ArrowDown: [line + 1, column],
    ArrowUp: [line - 1, column],
    ArrowRight: [line, column + 1],
    ArrowLeft: [line, column - 1],
    Home: [0, column],
    End: [lines - 1, column],
    PageDown: [line + page, column],
    PageUp: [line - page, column],
  }
  const to = moves[key]
  return to ? { line: within(to[0], 0, lines - 1), column: within(to[1], -1, columns - 1) } : null
}

const within = (at: number, least: number, most: number): number => Math.max(least, Math.min(most, at))
