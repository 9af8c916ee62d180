import type { Build, Device, Engine, Language } from '../builds.ts'

/**
 * What is wrong in which build of Crossing Desk. This table is the only truth: the application does wrong by it, the tests prove each
 * fault in its builds and in no other, and what the sample project tells of cases, defects and results follows from it.
 */
export interface FaultSays {
  /** The build it came with, and the one it was mended in; `null`: it is there still. */
  readonly from: Build
  readonly fixed: Build | null
  /** It came back. */
  readonly again?: { readonly from: Build; readonly fixed: Build | null }
  /** It shows there alone. */
  readonly only?: { readonly engine?: Engine; readonly device?: Device; readonly language?: Language }
  /** It needs more than the right steps. */
  readonly needs?: 'load' | 'luck'
  /** The page it shows on. */
  readonly where: string
  /** How to see it, and what is seen in place of what should be. */
  readonly see: string
  /** What the defect is called that tells of it. */
  readonly defect: string
  readonly severity: 'Critical' | 'Major' | 'Minor' | 'Cosmetic'
}

export const table = <Table extends Readonly<Record<string, FaultSays>>>(
  of: Table,
): Readonly<Record<keyof Table, FaultSays>> => of
