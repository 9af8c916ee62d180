import type { CaseRead, FileRead, RequirementRead, SheetRow } from '#core/formats/shapes.ts'
import type { Paper } from '#core/lib/paper.ts'
import type { runFileKinds } from '#core/runs/file-contract.ts'
import type { FilePart } from '#core/runs/run-file.ts'
import { job, type Jobs } from '#server/workers/job.ts'
import { type Parcels, unpacked } from '#server/workers/parcels.ts'
import type { ExportFormat } from './file-kinds.ts'
import type { ReadAnswer, ReadOptions } from './read-file.ts'

// Reading and writing files takes seconds at thousands of cases: on a thread of their own.

export interface ExportQuestion {
  readonly key: string
  readonly format: ExportFormat
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

/** A paper as the bytes of a PDF. */
export const paperJob = job<
  { readonly paper: Paper; readonly now: number; readonly timeZone: string },
  Promise<Uint8Array>
>('paper', 'papers')

export interface RunFileQuestion {
  readonly projectId: number
  readonly run: number
  readonly as: (typeof runFileKinds)[number]
  readonly parts: readonly FilePart[]
  readonly blank: boolean
  /** All of its items where none are named. */
  readonly ids: readonly number[] | null
  readonly now: number
  /** Of attempts, where pictures go with them. */
  readonly pictures: readonly { readonly attempt: number; readonly name: string; readonly data: string }[]
}
/** A run as the bytes of a file. */
export const runFileJob = job<RunFileQuestion, Promise<Uint8Array>>('run file', 'papers')

/** The first table of a file that came in, as it stands there. */
export const tableJob = job<{ readonly bytes: Uint8Array }, Promise<readonly SheetRow[]>>('table', 'papers')

export interface ReadFileQuestion {
  readonly bytes: Uint8Array
  readonly options: ReadOptions
}
/** What was read, with what there may be thousands of in parts. */
export interface ReadInParts {
  readonly about: Omit<ReadAnswer, 'read'>
  readonly read: Omit<FileRead, 'cases' | 'requirements'>
  readonly cases: Parcels<CaseRead>
  readonly requirements: Parcels<RequirementRead>
}
export const readFileJob = job<ReadFileQuestion, Promise<ReadInParts>>('read file', 'papers')

/** A file that came in, read on the other thread. */
export async function readBeside(jobs: Jobs, of: ReadFileQuestion, signal?: AbortSignal): Promise<ReadAnswer> {
  const { about, read, cases, requirements } = await jobs.run(readFileJob, of, signal)
  return { ...about, read: { ...read, cases: await unpacked(cases), requirements: await unpacked(requirements) } }
}
