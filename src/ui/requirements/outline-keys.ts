import type { Binding } from '#ui/kit/keys.ts'

interface Place {
  readonly id: number
  readonly key: string
  readonly parent: number | null
}
export type Move = (ref: string, under: number | null, before: number | null) => void

/** Alt and the arrows move the open branch: up, down, in, out; the keyboard's twin of dragging. */
export function outlineKeys(rows: readonly Place[], own: Place | undefined, move: Move): Binding[] {
  if (!own) return []
  const moves = movesOf(rows, own)
  const binding = (id: string, arrow: string, label: string, to: Target | null): Binding => ({
    id,
    keys: `Alt+Arrow${arrow}`,
    label,
    quiet: true,
    run: () => {
      if (to) move(own.key, to.under, to.before)
    },
  })
  return [
    binding('move-up', 'Up', 'move up', moves.up),
    binding('move-down', 'Down', 'move down', moves.down),
    binding('move-in', 'Right', 'indent', moves.in),
    binding('move-out', 'Left', 'outdent', moves.out),
  ]
}

interface Target {
  readonly under: number | null
  readonly before: number | null
}

/** Where a branch can be moved by one step each way; `null` where there is no such place. */
export function movesOf(
  rows: readonly Place[],
  own: Place,
): Readonly<Record<'up' | 'down' | 'in' | 'out', Target | null>> {
  const beside = (parent: number | null) => rows.filter((row) => row.parent === parent)
  const siblings = beside(own.parent)
  const at = siblings.findIndex(({ id }) => id === own.id)
  const [above, below] = [siblings[at - 1], siblings[at + 1]]
  const parent = rows.find(({ id }) => id === own.parent)
  return {
    up: above ? { under: own.parent, before: above.id } : null,
    down: below ? { under: own.parent, before: siblings[at + 2]?.id ?? null } : null,
    in: above ? { under: above.id, before: null } : null,
    out: parent ? { under: parent.parent, before: after(beside(parent.parent), parent)?.id ?? null } : null,
  }
}

const after = (all: readonly Place[], one: Place): Place | undefined => all[all.indexOf(one) + 1]
