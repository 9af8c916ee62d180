import { primePower } from '#core/lib/finite-field.ts'
import type { Random } from '#core/lib/random.ts'
import { binaryPairs, hadamardDesign, orthogonalArray, projectiveGroup, type Rows } from './arrays.ts'
import { type Budget, Cover } from './cover.ts'
import { addRows, dropIdle, fillRow, repair, shrink } from './search.ts'
import { subsetsOf, Targets } from './targets.ts'

/** A step of a construction: nothing to show yet, or at the end its rows, or `null` when it does not fit. */
export type Construction = Generator<void, Rows | null>

interface Shape {
  /** Values of each column, most first. */
  readonly levels: Int32Array
  readonly strength: number
  readonly random: Random
  /** Moves that all constructions together may take. */
  readonly moves: number
}

const largestField = 31

/** The constructions that fit columns of these sizes, the cheapest first. */
export function constructions({ levels, strength, random, moves }: Shape): Construction[] {
  const most = levels[0]!
  const columns = levels.length
  const found: Construction[] = []
  if (strength === 2 && most === 2) found.push(at(() => binaryPairs(columns)))
  if (strength === 3 && most === 2)
    for (const prime of [11, 19, 23]) if (columns <= prime) found.push(at(() => hadamardDesign(prime)))
  const q = [...Array(largestField + 1).keys()].find((order) => order >= most && primePower(order))
  if (q !== undefined && q ** strength <= 4096) found.push(at(() => orthogonalArray(q, strength, columns)))
  if (strength === 2 && columns > 3) {
    const shapes = blockShapes(levels)
    for (const shape of shapes)
      found.push(blockProduct(levels, { ...shape, random, moves: moves / (2 * shapes.length) }))
  }
  if (most > 2 && levels[columns - 1] === most && columns > most && columns <= 4 * most)
    for (const group of groupsFor(most, strength))
      found.push(developed({ value: most, columns, strength, group, random, moves: moves / 2 }))
  return found
}

// Nothing is asked of a closed form in between, but it is a step like the others.
function* at(build: () => Rows | null): Construction {
  yield
  return build()
}

/** Orders of fields and numbers of columns left outside the blocks that are worth trying. */
function blockShapes(levels: Int32Array): { readonly q: number; readonly outside: number }[] {
  const found: { readonly q: number; readonly outside: number }[] = []
  for (let q = 2; q <= Math.min(levels[0]! + 1, largestField); q++) {
    if (!primePower(q)) continue
    const larger = levels.filter((level) => level > q).length
    if (larger > 2 || levels.length - larger <= q + 1) continue
    found.push({ q, outside: larger })
    if (larger < 2) found.push({ q, outside: larger + 1 })
  }
  return found
}

/**
 * Columns in q + 1 blocks. The first q² rows give all columns of a block the same column of an orthogonal array, which
 * holds every pair between blocks; the rows below hold what is missing within a block, and are the same for all. Columns
 * left outside are constant above and free below. The rows below are searched, so that columns may have fewer values.
 * Source: B. Stevens, E. Mendelsohn, "New recursive methods for transversal covers", Journal of Combinatorial Designs 7 (1999).
 */
function* blockProduct(
  levels: Int32Array,
  shape: { readonly q: number; readonly outside: number; readonly random: Random; readonly moves: number },
): Construction {
  const { q, outside, random } = shape
  const blocks = q + 1
  const array = orthogonalArray(q, 2, blocks)
  if (!array) return null
  const inner = Int32Array.from([
    ...levels.slice(0, outside),
    ...levels.slice(outside).filter((_, at) => at % blocks === 0),
  ])
  const cover = new Cover(new Targets(inner, subsetsOf([...inner.keys()], 2)))
  for (let row = 0; row < q * q; row++) {
    const symbol = Math.floor(row / q)
    const values = Array.from(inner, (level, column) => (column < outside ? 0 : symbol < level ? symbol : -1))
    cover.add(
      values,
      values.map((value) => value >= 0),
    )
  }
  const budget: Budget = { random, solver: null, keep: q * q, moves: shape.moves }
  const filling = { cover, random, solver: null, weights: [], ordinary: inner }
  for (let row = 0; row < q * q; row++) fillRow(filling, row)
  for (const step of addRows(filling, 4)) yield step
  dropIdle(cover, budget.keep)
  for (const _ of shrink(cover, budget, q * q, shape.moves / 2)) yield
  const placed = (row: number, column: number): number => {
    const value = cover.cell(row, column < outside ? column : outside + Math.floor((column - outside) / blocks))
    return value < levels[column]! ? value : -1
  }
  const rows: Rows = []
  const seen = new Int32Array(blocks * q)
  for (const symbols of array) {
    const source = symbols.map((symbol, block) => symbol * q + seen[block * q + symbol]!)
    symbols.forEach((symbol, block) => seen[block * q + symbol]!++)
    rows.push(
      Array.from(levels, (_, column) => (column < outside ? 0 : placed(source[(column - outside) % blocks]!, column))),
    )
  }
  for (let row = q * q; row < cover.rows; row++) rows.push(Array.from(levels, (_, column) => placed(row, column)))
  return rows
}

/** Groups of permutations of the values that are worth developing rows with. */
function groupsFor(values: number, strength: number): number[][][] {
  const turn = (by: number, of: number): number[] =>
    Array.from({ length: values }, (_, value) => (value < of ? (value + by) % of : value))
  if (strength === 2 && values > 3)
    return [
      Array.from({ length: values }, (_, by) => turn(by, values)),
      Array.from({ length: values - 1 }, (_, by) => turn(by, values - 1)),
    ]
  const group = strength === 3 && values <= 6 ? projectiveGroup(values - 1) : null
  return group ? [group] : []
}

interface Development {
  readonly value: number
  readonly columns: number
  readonly strength: number
  readonly group: readonly (readonly number[])[]
  readonly random: Random
  readonly moves: number
}

/**
 * Few starting rows, each turned by every permutation of a group: a tuple is held when any tuple of its orbit is, so that the
 * search has to hold orbits only. Values that some permutations leave alone get constant rows.
 * Sources: M. Chateauneuf, C. Colbourn, D. Kreher, "Covering arrays of strength three", Designs, Codes and Cryptography 16
 * (1999); K. Meagher, B. Stevens, "Group construction of covering arrays", Journal of Combinatorial Designs 13 (2005).
 */
function* developed({ value: values, columns, strength, group, random, moves }: Development): Construction {
  const { orbitOf, members } = orbits(values, strength, group)
  const subsets = subsetsOf([...Array(columns).keys()], strength)
  const all = values ** strength
  const constant = (symbol: number): number =>
    Array.from({ length: strength }, (_, at) => symbol * values ** at).reduce((sum, each) => sum + each, 0)
  const small = [...Array(values).keys()].filter((symbol) => members[orbitOf[constant(symbol)]!]!.length < group.length)
  const spared = new Set(small.map((symbol) => orbitOf[constant(symbol)]!))
  const targets = new Targets(new Int32Array(columns).fill(values), subsets)
  const required = Uint8Array.from({ length: targets.size }, (_, tuple) => (spared.has(orbitOf[tuple % all]!) ? 0 : 1))
  const slot = Int32Array.from(
    { length: targets.size },
    (_, tuple) => Math.floor(tuple / all) * members.length + orbitOf[tuple % all]!,
  )
  const tupleOf = (at: number): number => {
    const orbit = members[at % members.length]!
    return Math.floor(at / members.length) * all + orbit[Math.floor(random() * orbit.length)]!
  }
  const budget: Budget = { random, solver: null, keep: 0, moves }
  const least = members.length - spared.size
  let found: Rows | null = null
  for (let starts = Math.ceil(least * 2) + 2; starts >= least; starts--) {
    const cover = new Cover(targets, required, slot)
    for (let row = 0; row < starts; row++)
      cover.add(found?.[row] ?? Array.from({ length: columns }, () => Math.floor(random() * values)))
    const steps = repair(cover, budget, moves / 2, tupleOf)
    let step = steps.next()
    for (; !step.done; step = steps.next()) yield
    if (!step.value) break
    found = Array.from({ length: starts }, (_, row) => cover.row(row))
  }
  if (!found) return null
  const rows = new Map<string, number[]>()
  for (const start of found)
    for (const permutation of group)
      rows.set(
        start.map((symbol) => permutation[symbol]!).join(),
        start.map((symbol) => permutation[symbol]!),
      )
  for (const symbol of small) rows.set(new Array(columns).fill(symbol).join(), new Array<number>(columns).fill(symbol))
  return [...rows.values()]
}

function orbits(
  values: number,
  strength: number,
  group: readonly (readonly number[])[],
): { readonly orbitOf: Int32Array; readonly members: number[][] } {
  const orbitOf = new Int32Array(values ** strength).fill(-1)
  const members: number[][] = []
  for (let tuple = 0; tuple < orbitOf.length; tuple++) {
    if (orbitOf[tuple]! >= 0) continue
    const images = new Set(
      group.map((permutation) =>
        Array.from(
          { length: strength },
          (_, at) => permutation[Math.floor(tuple / values ** at) % values]! * values ** at,
        ).reduce((sum, each) => sum + each, 0),
      ),
    )
    for (const image of images) orbitOf[image] = members.length
    members.push([...images])
  }
  return { orbitOf, members }
}
