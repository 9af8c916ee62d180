import type { exportFormats } from '#core/formats/contract.ts'
import { job } from '#server/workers/job.ts'
import type { ReadAnswer, ReadOptions } from './read-file.ts'

// Reading and writing files takes seconds at thousands of cases: on a thread of their own.

export interface ExportQuestion {
  readonly key: string
  readonly format: (typeof exportFormats)[number]
  readonly what: 'requirements' | 'cases'
  readonly ids?: readonly number[] | undefined
  readonly now: number
}
export interface Exported {
  readonly bytes: Uint8Array
  readonly name: string
  readonly mime: string
  /** What the format cannot hold, with how many objects lose it. */
  readonly left: readonly string[]
}
/** The same on the disk, in a folder of its own that is to be taken away: what is large is not handed from thread to thread. */
export type ExportedFile = Omit<Exported, 'bytes'> & { readonly file: string; readonly size: number }
/** Requirements or cases of a project as a file. */
export const exportJob = job<ExportQuestion, Promise<ExportedFile>>('export', 'papers')

export interface ReadFileQuestion {
  readonly bytes: Uint8Array
  readonly options: ReadOptions
}
/** A file that came in, read. */
export const readFileJob = job<ReadFileQuestion, Promise<ReadAnswer>>('read file', 'papers')
