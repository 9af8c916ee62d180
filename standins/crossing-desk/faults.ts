import { type Build, builds, type Looking } from './builds.ts'
import { accessFaults } from './faults/access.ts'
import { bookingFaults } from './faults/booking.ts'
import { deckFaults } from './faults/deck.ts'
import { faresFaults } from './faults/fares.ts'
import { paymentFaults } from './faults/payment.ts'
import { quayFaults } from './faults/quay.ts'
import { weatherFaults } from './faults/weather.ts'

/** Every fault there is, by its name. */
export const faults = {
  ...bookingFaults,
  ...faresFaults,
  ...paymentFaults,
  ...deckFaults,
  ...quayFaults,
  ...weatherFaults,
  ...accessFaults,
}
export type FaultId = keyof typeof faults

/** Whether a fault does its work where somebody looks. */
export type Quirks = (id: FaultId) => boolean

export const faultIds = Object.keys(faults) as FaultId[]

const within = (build: Build, { from, fixed }: { readonly from: Build; readonly fixed: Build | null }): boolean =>
  builds.indexOf(build) >= builds.indexOf(from) && (fixed === null || builds.indexOf(build) < builds.indexOf(fixed))

/** Whether a build has a fault at all, wherever it shows. */
export function isIn(build: Build, id: FaultId): boolean {
  const fault = faults[id]
  return within(build, fault) || (fault.again !== undefined && within(build, fault.again))
}

/** Whether it shows to who looks. */
export function shows(id: FaultId, build: Build, looking: Looking): boolean {
  const { only = {} } = faults[id]
  return isIn(build, id) && Object.entries(only).every(([what, value]) => looking[what as keyof Looking] === value)
}

export const quirksOf =
  (build: Build, looking: Looking): Quirks =>
  (id) =>
    shows(id, build, looking)
