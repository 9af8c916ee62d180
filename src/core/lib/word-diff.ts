/** A stretch of text that both sides have, or only the newer, or only the older. */
export interface Stretch {
  readonly kind: 'same' | 'added' | 'removed'
  readonly text: string
}

/** Beyond this many differing words the two texts are told as replaced as a whole: nobody reads such a comparison. */
const mostEdits = 3000

/**
 * The fewest words to take out and put in that turn one text into the other, in reading order.
 * Myers, E. W. (1986), “An O(ND) difference algorithm and its variations”, Algorithmica 1.
 */
export function wordDiff(before: string, after: string): Stretch[] {
  const [a, b] = [tokensOf(before), tokensOf(after)]
  let head = 0
  while (head < a.length && head < b.length && a[head] === b[head]) head++
  let tail = 0
  while (tail < a.length - head && tail < b.length - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail++
  const middle = edits(a.slice(head, a.length - tail), b.slice(head, b.length - tail))
  return joined([
    ...a.slice(0, head).map((text) => ({ kind: 'same' as const, text })),
    ...middle,
    ...a.slice(a.length - tail).map((text) => ({ kind: 'same' as const, text })),
  ])
}

/** Words, white space and marks, each on its own, so that a comma put in is not a word changed. */
const tokensOf = (text: string): string[] => text.match(/[\p{L}\p{N}_]+|\s+|[^\p{L}\p{N}_\s]/gu) ?? []

function edits(a: readonly string[], b: readonly string[]): Stretch[] {
  const trail = furthest(a, b)
  if (!trail)
    return [
      { kind: 'removed', text: a.join('') },
      { kind: 'added', text: b.join('') },
    ]
  const back: Stretch[] = []
  let [x, y] = [a.length, b.length]
  for (let d = trail.length - 1; d > 0; d--) {
    const reach = trail[d - 1] ?? new Map<number, number>()
    const k = x - y
    const down = k === -d || (k !== d && (reach.get(k - 1) ?? -1) < (reach.get(k + 1) ?? -1))
    const fromK = down ? k + 1 : k - 1
    const fromX = reach.get(fromK) ?? 0
    const fromY = fromX - fromK
    while (x > fromX && y > fromY && x > 0 && y > 0 && a[x - 1] === b[y - 1]) {
      back.push({ kind: 'same', text: a[x - 1] ?? '' })
      x--
      y--
    }
    if (down) back.push({ kind: 'added', text: b[y - 1] ?? '' })
    else back.push({ kind: 'removed', text: a[x - 1] ?? '' })
    ;[x, y] = [fromX, fromY]
  }
  while (x > 0) back.push({ kind: 'same', text: a[--x] ?? '' })
  return back.reverse()
}

/** How far each diagonal gets with each number of edits, until both ends are reached; `null` beyond the limit. */
function furthest(a: readonly string[], b: readonly string[]): Map<number, number>[] | null {
  const trail: Map<number, number>[] = []
  for (let d = 0; d <= Math.min(a.length + b.length, mostEdits); d++) {
    const before = trail[d - 1]
    const reach = new Map<number, number>()
    for (let k = -d; k <= d; k += 2) {
      const down = k === -d || (k !== d && (before?.get(k - 1) ?? -1) < (before?.get(k + 1) ?? -1))
      let x = before === undefined ? 0 : down ? (before.get(k + 1) ?? 0) : (before.get(k - 1) ?? 0) + 1
      while (x < a.length && x - k < b.length && a[x] === b[x - k]) x++
      reach.set(k, x)
      if (x >= a.length && x - k >= b.length) return [...trail, reach]
    }
    trail.push(reach)
  }
  return null
}

function joined(stretches: readonly Stretch[]): Stretch[] {
  const out: { kind: Stretch['kind']; text: string }[] = []
  for (const { kind, text } of stretches) {
    const last = out.at(-1)
    if (last?.kind === kind) last.text += text
    else if (text !== '') out.push({ kind, text })
  }
  return out
}

/** How much two texts have in common: 0 nothing, 1 the same words as often (Dice, L. R. (1945), Ecology 26). */
export function likeness(one: string, other: string): number {
  if (one === other) return 1
  const [a, b] = [wordsOf(one), wordsOf(other)]
  if (a.length + b.length === 0) return 1
  const counts = new Map<string, number>()
  for (const word of a) counts.set(word, (counts.get(word) ?? 0) + 1)
  let shared = 0
  for (const word of b) {
    const left = counts.get(word) ?? 0
    if (left > 0) shared++
    counts.set(word, left - 1)
  }
  return (2 * shared) / (a.length + b.length)
}

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []
