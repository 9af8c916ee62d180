/** Addition and multiplication of a finite field as tables: the sum of a and b stands at `a * order + b`. */
export interface FiniteField {
  readonly order: number
  readonly sum: Int32Array
  readonly product: Int32Array
}

/** The prime and the exponent of a prime power, or `null`. */
export function primePower(order: number): { readonly prime: number; readonly exponent: number } | null {
  if (!Number.isInteger(order) || order < 2) return null
  let prime = 2
  while (order % prime !== 0) prime++
  let exponent = 0
  let rest = order
  while (rest % prime === 0) {
    rest /= prime
    exponent++
  }
  return rest === 1 ? { prime, exponent } : null
}

const digitsOf = (value: number, base: number, length: number): number[] =>
  Array.from({ length }, (_, at) => Math.floor(value / base ** at) % base)
const numberOf = (digits: readonly number[], base: number): number =>
  digits.reduce((sum, digit, at) => sum + digit * base ** at, 0)

/** Product of two polynomials over GF(p), reduced by a monic polynomial given by its lower coefficients. */
function multiply(a: readonly number[], b: readonly number[], lower: readonly number[], prime: number): number[] {
  const degree = lower.length
  const long = new Array<number>(2 * degree - 1).fill(0)
  for (let i = 0; i < degree; i++) for (let j = 0; j < degree; j++) long[i + j] = (long[i + j]! + a[i]! * b[j]!) % prime
  for (let at = long.length - 1; at >= degree; at--)
    for (let i = 0; i < degree; i++)
      long[at - degree + i] = (((long[at - degree + i]! - long[at]! * lower[i]!) % prime) + prime) % prime
  return long.slice(0, degree)
}

/**
 * GF(order) with elements 0 … order − 1, 0 and 1 being the neutral ones; `null` when order is no prime power.
 * The modulus is the first monic polynomial that leaves no divisors of zero, found by trying (orders here are small).
 */
export function finiteField(order: number): FiniteField | null {
  const power = primePower(order)
  if (!power) return null
  const { prime, exponent } = power
  const elements = Array.from({ length: order }, (_, value) => digitsOf(value, prime, exponent))
  const sum = new Int32Array(order * order)
  for (let a = 0; a < order; a++)
    for (let b = 0; b < order; b++)
      sum[a * order + b] = numberOf(
        elements[a]!.map((digit, at) => (digit + elements[b]![at]!) % prime),
        prime,
      )
  for (let candidate = 0; candidate < order; candidate++) {
    const product = new Int32Array(order * order)
    const lower = digitsOf(candidate, prime, exponent)
    let field = true
    for (let a = 1; a < order && field; a++)
      for (let b = 1; b < order && field; b++) {
        product[a * order + b] = numberOf(multiply(elements[a]!, elements[b]!, lower, prime), prime)
        field = product[a * order + b] !== 0
      }
    if (field) return { order, sum, product }
  }
  return null
}
