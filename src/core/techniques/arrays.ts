import { finiteField } from '#core/lib/finite-field.ts'

/** Rows of value numbers; −1 leaves a cell open. */
export type Rows = number[][]

/**
 * An orthogonal array OA(q^t, k, q, t): every t columns hold every tuple exactly once. q must be a prime power;
 * k ≤ q + 1, or q + 2 for t = 3 and even q; otherwise `null`.
 * Source: K. A. Bush, "Orthogonal arrays of index unity", Annals of Mathematical Statistics 23 (1952); the column
 * more for even q is the one a conic gains from its nucleus.
 */
export function orthogonalArray(q: number, strength: number, columns: number): Rows | null {
  const field = finiteField(q)
  if (!field || columns > (strength === 3 && q % 2 === 0 ? q + 2 : q + 1)) return null
  const rows: Rows = []
  for (let code = 0; code < q ** strength; code++) {
    const coefficients = Array.from({ length: strength }, (_, at) => Math.floor(code / q ** at) % q)
    const row: number[] = []
    for (let x = 0; x < Math.min(q, columns); x++) {
      let value = 0
      for (let at = strength - 1; at >= 0; at--)
        value = field.sum[field.product[value * q + x]! * q + coefficients[at]!]!
      row.push(value)
    }
    if (columns > q) row.push(coefficients[strength - 1]!)
    if (columns > q + 1) row.push(coefficients[1]!)
    rows.push(row)
  }
  return rows
}

const choose = (n: number, k: number): number => {
  let ways = 1
  for (let i = 1; i <= k; i++) ways = (ways * (n - k + i)) / i
  return ways
}

/** The fewest rows that hold every pair of `columns` two-valued columns (see `binaryPairs`). */
export function binaryPairsSize(columns: number): number {
  if (columns < 2) return 2
  let rows = 4
  while (choose(rows - 1, Math.ceil(rows / 2)) < columns) rows++
  return rows
}

/**
 * The exact pairwise array of two-valued columns: a row of zeros, and each column the mark of another ⌈N/2⌉-subset
 * of the N − 1 other rows.
 * Sources: D. J. Kleitman, J. Spencer, "Families of k-independent sets", Discrete Mathematics 6 (1973); G. O. H. Katona,
 * "Two applications of Sperner type theorems", Periodica Mathematica Hungarica 3 (1973).
 */
export function binaryPairs(columns: number): Rows {
  const size = binaryPairsSize(columns)
  const rows: Rows = Array.from({ length: size }, () => [])
  const subset = Array.from({ length: Math.ceil(size / 2) }, (_, at) => at)
  for (let column = 0; column < columns; column++) {
    for (let row = 0; row < size; row++) rows[row]!.push(row > 0 && subset.includes(row - 1) ? 1 : 0)
    nextSubset(subset, size - 1)
  }
  return rows
}

function nextSubset(subset: number[], of: number): void {
  let at = subset.length - 1
  while (at >= 0 && subset[at] === of - subset.length + at) at--
  if (at < 0) return
  subset[at]!++
  for (let after = at + 1; after < subset.length; after++) subset[after] = subset[after - 1]! + 1
}

/**
 * The two-level design of a Hadamard matrix of order p + 1 (p prime, p ≡ 3 mod 4): p + 1 rows, p columns. From order 12
 * on, every three columns hold all eight triples.
 * Sources: R. E. A. C. Paley, "On orthogonal matrices", Journal of Mathematics and Physics 12 (1933); for the projections,
 * D. K. J. Lin, N. R. Draper, "Projection properties of Plackett and Burman designs", Technometrics 34 (1992).
 */
export function hadamardDesign(prime: number): Rows {
  const squares = new Set(Array.from({ length: prime - 1 }, (_, at) => ((at + 1) * (at + 1)) % prime))
  const rows: Rows = [new Array<number>(prime).fill(0)]
  for (let row = 0; row < prime; row++)
    rows.push(
      Array.from({ length: prime }, (_, column) =>
        column === row || squares.has((column - row + prime) % prime) ? 1 : 0,
      ),
    )
  return rows
}

/** Every permutation of the projective line over GF(q): it takes any three of the q + 1 points to any three, in one way. */
export function projectiveGroup(q: number): number[][] | null {
  const field = finiteField(q)
  if (!field) return null
  const { sum, product } = field
  const negative = Array.from({ length: q }, (_, a) =>
    Array.from({ length: q }, (_, b) => b).find((b) => sum[a * q + b] === 0)!,
  )
  const inverse = Array.from(
    { length: q },
    (_, a) => Array.from({ length: q }, (_, b) => b).find((b) => product[a * q + b] === 1) ?? 0,
  )
  const image = (a: number, b: number, c: number, d: number, x: number): number => {
    const top = x === q ? a : sum[product[a * q + x]! * q + b]!
    const bottom = x === q ? c : sum[product[c * q + x]! * q + d]!
    return bottom === 0 ? q : product[top * q + inverse[bottom]!]!
  }
  const found = new Map<string, number[]>()
  for (let code = 0; code < q ** 4; code++) {
    const [a, b, c, d] = [
      code % q,
      Math.floor(code / q) % q,
      Math.floor(code / q ** 2) % q,
      Math.floor(code / q ** 3),
    ] as const
    if (sum[product[a * q + d]! * q + negative[product[b * q + c]!]!] === 0) continue
    const permutation = Array.from({ length: q + 1 }, (_, x) => image(a, b, c, d, x))
    found.set(permutation.join(), permutation)
  }
  return [...found.values()]
}
