import { day, minute } from '../clock.ts'
import type { Quirks } from '../faults.ts'

const holdFor = 20 * minute

/** How long before departure check-in closes: 30 minutes with a vehicle, 15 on foot; a bicycle counts as on foot. */
const cutOff = (withVehicle: boolean): number => (withVehicle ? 30 : 15) * minute

/** The instant check-in closes; a delay moves it. */
export const closesAt = (
  of: { readonly departs: number; readonly delay: number; readonly withVehicle: boolean },
  has: Quirks,
): number => of.departs + (has('cut-off-ignores-delay') ? 0 : of.delay * minute) - cutOff(of.withVehicle)

/** What a passenger who cancels gets back, in per cent: all up to seven days before, half up to one day, then nothing. */
export function backPercent(now: number, departs: number, has: Quirks): number {
  const left = departs - now
  const read = has('cancel-counts-days-up') ? Math.ceil(left / day) * day : left
  if (read >= 7 * day) return 100
  return read >= day ? 50 : 0
}

/** When a hold that begins now ends. */
export const holdEnds = (now: number, has: Quirks): number => now + holdFor - (has('hold-a-minute-short') ? minute : 0)

/** How long the cancelling of a sailing can be taken back. */
export const takeBackFor = 10 * minute
