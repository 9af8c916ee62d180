import type { FileRead, Problem } from '#core/formats/shapes.ts'
import { type ReadOptions, readFile } from './read-file.ts'

export interface Inspected {
  readonly format: string
  readonly requirements?: number
  readonly cases?: number
  readonly steps?: number
  readonly problems: readonly Problem[]
  readonly notices: readonly Problem[]
  readonly preview: readonly unknown[]
  readonly columns?: Readonly<Record<string, string>>
  readonly layout?: string
  /** Columns that hold something and are not read, with their first values. */
  readonly unread: FileRead['unread']
}

/** What an import of a file would read, without a database. */
export async function inspectFile(bytes: Buffer, options: ReadOptions): Promise<Inspected> {
  const { format, read, mapping } = await readFile(bytes, options)
  const { requirements, cases } = read
  const ofCases =
    cases.length > 0 || (requirements.length === 0 && (mapping ? mapping.what === 'cases' : format !== 'reqif'))
  return {
    format,
    ...(ofCases
      ? { cases: cases.length, steps: cases.reduce((sum, { steps }) => sum + steps.length, 0) }
      : { requirements: requirements.length }),
    problems: read.problems,
    unread: read.unread,
    notices: read.notices,
    preview: [...requirements, ...cases].slice(0, 3),
    ...(mapping && { columns: mapping.columns, layout: mapping.layout }),
  }
}
