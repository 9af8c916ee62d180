import { z } from 'zod'

export const severities = ['Critical', 'Major', 'Minor', 'Cosmetic'] as const
export const severity = z.enum(severities)
export type Severity = z.infer<typeof severity>
export const defectStates = ['Reported', 'Confirmed', 'In repair', 'Ready to retest', 'Closed', 'Rejected'] as const
export const defectState = z.enum(defectStates)
export type DefectState = z.infer<typeof defectState>

const moves: Readonly<Record<DefectState, readonly DefectState[]>> = {
  Reported: ['Confirmed', 'In repair', 'Ready to retest', 'Rejected', 'Closed'],
  Confirmed: ['In repair', 'Ready to retest', 'Rejected', 'Closed'],
  'In repair': ['Confirmed', 'Ready to retest', 'Rejected', 'Closed'],
  'Ready to retest': ['Closed', 'In repair', 'Confirmed'],
  Closed: ['Confirmed', 'In repair'],
  Rejected: ['Reported', 'Confirmed'],
}

/** The states a defect can go to from where it is. */
export const nextStates = (from: DefectState): readonly DefectState[] => moves[from]

/** In these nothing more is to be done about a defect; in all others it is open. */
export const endedDefectStates = ['Closed', 'Rejected'] as const satisfies readonly DefectState[]
/** In these a repair is there to be tried. */
export const repairedDefectStates = ['Ready to retest', 'Closed'] as const satisfies readonly DefectState[]
export const isRepaired = (state: DefectState): boolean => repairedDefectStates.some((repaired) => repaired === state)

export const isOpen = (state: DefectState): boolean => !endedDefectStates.some((ended) => ended === state)
/** Something is to be done about it, and no repair is there to be tried yet. */
export const awaitsRepair = (state: DefectState): boolean => isOpen(state) && !isRepaired(state)
export const openDefectStates: readonly DefectState[] = defectStates.filter(isOpen)

/** Why a defect cannot go to a state, or `null` when it can. A retest needs to know in which build the repair is. */
export function moveRefusal(from: DefectState, to: DefectState, fixedIn: number | null): string | null {
  if (from === to) return null
  if (!moves[from].includes(to))
    return `A defect that is ${from} cannot become ${to}; it can become ${moves[from].join(', ')}.`
  if (to === 'Ready to retest' && fixedIn === null)
    return 'Name the build it is fixed in first, so that results before it can be told stale.'
  return null
}
