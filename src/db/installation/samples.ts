import { type Sample, sample } from '#core/projects/contract.ts'
import type { Tx } from '#db/open.ts'
import { readSetting, writeSetting } from './settings.ts'

const named = (projectId: number): string => `sample ${projectId}`

/** What a sample project holds for whoever looks around in it; `null` for a project of one's own. */
export function sampleOf(tx: Tx, projectId: number): Sample | null {
  const stored = readSetting(tx, named(projectId))
  return stored === null ? null : sample.parse(JSON.parse(stored))
}

export const isSample = (tx: Tx, projectId: number): boolean => readSetting(tx, named(projectId)) !== null

export const keepSample = (tx: Tx, projectId: number, of: Sample): void =>
  writeSetting(tx, named(projectId), JSON.stringify(of))
