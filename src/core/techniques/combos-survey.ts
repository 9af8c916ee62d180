import { seeded } from '#core/lib/random.ts'
import type { CombosProblem } from './combos-model.ts'
import { Cover } from './cover.ts'
import type { Notice } from './models.ts'
import { Targets } from './targets.ts'

export type NamedRow = Readonly<Record<string, string>>
/** A row that is there before the search; what it leaves open is filled. */
export type ExistingRow = Readonly<Record<string, string | null>>

export interface Ground {
  readonly targets: Targets
  readonly required: Uint8Array | null
  readonly tuples: number
  readonly infeasible: number
}

/** Which tuples a valid row can hold at all. Every row found on the way vouches for all of its tuples. */
function ground({ levels, subsets, solver }: CombosProblem, seed: number): Ground {
  const targets = new Targets(levels, subsets)
  if (!solver) return { targets, required: null, tuples: targets.size, infeasible: 0 }
  const random = seeded(seed)
  const required = new Uint8Array(targets.size)
  const values = new Int32Array(levels.length)
  const known = new Map<string, boolean>()
  let infeasible = 0
  for (let tuple = 0; tuple < targets.size; tuple++) {
    if (required[tuple] === 1) continue
    const subset = targets.subsetOf(tuple)
    const columns = targets.subsets[subset]!
    targets.read(tuple, subset, values)
    const row = new Int32Array(levels.length).fill(-1)
    columns.forEach((column, at) => (row[column] = values[at]!))
    const key = columns
      .filter((column) => solver.constrained(column))
      .map((column) => `${column}=${row[column]!}`)
      .join()
    const before = known.get(key)
    const witness = before === undefined ? solver.complete(row, levels, random) : null
    const possible = before ?? witness !== null
    known.set(key, possible)
    if (possible) required[tuple] = 1
    else infeasible++
    if (witness) for (let each = 0; each < subsets.length; each++) required[targets.tupleIn(witness, each)] = 1
  }
  return { targets, required, tuples: targets.size - infeasible, infeasible }
}

export interface Kept {
  readonly rows: readonly Int32Array[]
  /** Which of the given rows these are. */
  readonly rowsAt: readonly number[]
  readonly negative: readonly Int32Array[]
  readonly negativeAt: readonly number[]
  readonly notices: readonly Notice[]
}

/** Existing rows as numbers; what cannot be used is told and left out. */
function keptRows({ names, values, levels, solver }: CombosProblem, existing: readonly ExistingRow[]): Kept {
  const [rows, negative]: [Int32Array[], Int32Array[]] = [[], []]
  const [rowsAt, negativeAt]: [number[], number[]] = [[], []]
  const notices: Notice[] = []
  existing.forEach((given, at) => {
    const unknown = Object.entries(given).find(
      ([name, value]) => value !== null && value !== '' && !values[names.indexOf(name)]?.includes(value),
    )
    const row = Int32Array.from(names, (name, column) =>
      given[name] === undefined || given[name] === null || given[name] === ''
        ? -1
        : values[column]!.indexOf(given[name]),
    )
    const unusual = row.filter((value, column) => value >= levels[column]!).length
    const message = unknown
      ? names.includes(unknown[0])
        ? `${unknown[0]} has no value ${unknown[1] ?? ''}`
        : `there is no parameter ${unknown[0]}`
      : unusual > 1
        ? 'it has more than one negative value'
        : solver && solver.complete(row, levels, seeded(1)) === null
          ? 'no valid row has these values'
          : null
    if (message) notices.push({ at: `existing[${at}]`, message: `Row ${at + 1} is not counted: ${message}.` })
    else if (unusual === 1) {
      negative.push(row)
      negativeAt.push(at)
    } else {
      rows.push(row)
      rowsAt.push(at)
    }
  })
  return { rows, rowsAt, negative, negativeAt, notices }
}

/** What is known of a model before any search: its possible tuples, and which of them existing rows hold. */
export interface Survey {
  readonly base: Ground
  readonly kept: Kept
  /** The existing rows alone, to read from. */
  readonly held: Cover
}

export function survey(problem: CombosProblem, existing: readonly ExistingRow[], seed = 1): Survey {
  const base = ground(problem, seed)
  const kept = keptRows(problem, existing)
  return { base, kept, held: keptCover(base, kept) }
}

export function keptCover({ targets, required }: Ground, { rows }: Kept): Cover {
  const cover = new Cover(targets, required)
  for (const row of rows)
    cover.add(
      row,
      [...row].map((value) => value >= 0),
    )
  return cover
}
