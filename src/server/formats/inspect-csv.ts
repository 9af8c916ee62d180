import type { Problem } from '#core/formats/read-sheet.ts'
import { readCsv } from './read-csv.ts'

export interface Inspected {
  readonly format: 'csv'
  readonly requirements?: number
  readonly cases?: number
  readonly steps?: number
  readonly problems: readonly Problem[]
  readonly preview: readonly unknown[]
  readonly columns: readonly { readonly header: string; readonly field: string | null }[]
}

/** What an import of a CSV would read, without a database. */
export function inspectCsv(bytes: Buffer): Inspected {
  const read = readCsv(bytes, null)
  const rest = { problems: read.problems, columns: read.columns }
  if (read.what === 'requirements') return { format: 'csv', requirements: read.requirements.length, ...rest, preview: read.requirements.slice(0, 3) }
  return { format: 'csv', cases: read.cases.length, steps: read.cases.reduce((sum, { steps }) => sum + steps.length, 0), ...rest, preview: read.cases.slice(0, 3) }
}
