import { booking } from './booking.ts'
import { deck } from './deck.ts'
import { fares } from './fares.ts'
import { more } from './more.ts'
import { others } from './others.ts'
import { payment } from './payment.ts'
import { quay } from './quay.ts'
import { readBasis, readRoutines, type WrittenRoutine } from './read-basis.ts'
import { routines } from './routines.ts'

/** Everything that is written of Crossing Desk. */
export const basis = readBasis([booking, fares, payment, deck, quay, others, more].join('\n'))
export const basisRoutines = readRoutines(routines)

export function routineNamed(title: string): WrittenRoutine {
  const found = basisRoutines.find((each) => each.title === title)
  if (!found) throw new Error(`the demo has no routine “${title}”`)
  return found
}
