import type { OutputOf } from '#core/lib/contract.ts'
import type { listFolders } from '#core/cases/folder-contract.ts'

export type Folder = OutputOf<typeof listFolders>['rows'][number]
/** A folder as a line of the tree. */
export interface FolderLine extends Folder {
  readonly depth: number
  /** Cases in it and in those below it. */
  readonly whole: number
  /** It and those below it. */
  readonly below: readonly number[]
}

/** The folders from the top down, each followed by those in it. */
export function folderLines(rows: readonly Folder[]): FolderLine[] {
  const walk = (parent: number | null, depth: number): FolderLine[] =>
    rows
      .filter((row) => row.parent === parent)
      .flatMap((row) => {
        const inside = walk(row.id, depth + 1)
        const own = inside.filter((each) => each.parent === row.id)
        const whole = row.cases + own.reduce((sum, each) => sum + each.whole, 0)
        return [{ ...row, depth, whole, below: [row.id, ...inside.map(({ id }) => id)] }, ...inside]
      })
  return walk(null, 0)
}

export type Direction = 'up' | 'down' | 'in' | 'out'
export interface FolderPlace {
  readonly parent: number | null
  /** The folder it comes before; the last of all when there is none. */
  readonly before: number | null
}

/** Where a folder comes by a key; `null` when it cannot go there. */
export function shifted(rows: readonly Folder[], row: Folder, by: Direction): FolderPlace | null {
  const siblings = rows.filter(({ parent }) => parent === row.parent)
  const at = siblings.findIndex(({ id }) => id === row.id)
  const [above, below] = [siblings[at - 1], siblings[at + 1]]
  const parent = rows.find(({ id }) => id === row.parent)
  switch (by) {
    case 'up':
      return above ? { parent: row.parent, before: above.id } : null
    case 'down':
      return below ? { parent: row.parent, before: siblings[at + 2]?.id ?? null } : null
    case 'in':
      return above ? { parent: above.id, before: null } : null
    case 'out': {
      if (!parent) return null
      const aunts = rows.filter((each) => each.parent === parent.parent)
      const after = aunts[aunts.findIndex(({ id }) => id === parent.id) + 1]
      return { parent: parent.parent, before: after?.id ?? null }
    }
  }
}
