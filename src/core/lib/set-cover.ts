const exactUpTo = 24

/**
 * The fewest sets that hold all that any of them holds, by their places in order. Minimum set cover: branch and bound up to 24 sets,
 * greedy above (V. Chvátal, Mathematics of Operations Research 4, 1979: within ln n of the least).
 */
export function leastCover(holds: readonly ReadonlySet<string>[]): number[] {
  const all = new Set(holds.flatMap((own) => [...own]))
  const greedy = greedyCover(holds, all)
  const best = holds.length <= exactUpTo ? exactCover(holds, all, greedy) : greedy
  return [...best].sort((a, b) => a - b)
}

function greedyCover(holds: readonly ReadonlySet<string>[], all: ReadonlySet<string>): number[] {
  const open = new Set(all)
  const chosen: number[] = []
  while (open.size > 0) {
    const gains = holds.map((own) => [...own].filter((pair) => open.has(pair)).length)
    const best = gains.indexOf(Math.max(...gains))
    chosen.push(best)
    for (const pair of holds[best] ?? []) open.delete(pair)
  }
  return chosen
}

/** Tries, for the pair that fewest environments hold, each of them; never more of them than the best known. */
function exactCover(
  holds: readonly ReadonlySet<string>[],
  all: ReadonlySet<string>,
  known: readonly number[],
): readonly number[] {
  const holders = new Map([...all].map((pair) => [pair, holds.flatMap((own, at) => (own.has(pair) ? [at] : []))]))
  const most = Math.max(...holds.map(({ size }) => size))
  let best = known
  const look = (chosen: readonly number[], open: ReadonlySet<string>): void => {
    if (open.size === 0) {
      if (chosen.length < best.length) best = chosen
      return
    }
    if (chosen.length + Math.ceil(open.size / most) >= best.length) return
    const rarest = [...open].reduce((a, b) => ((holders.get(b)?.length ?? 0) < (holders.get(a)?.length ?? 0) ? b : a))
    for (const at of holders.get(rarest) ?? [])
      look([...chosen, at], new Set([...open].filter((pair) => !holds[at]?.has(pair))))
  }
  look([], all)
  return best
}
