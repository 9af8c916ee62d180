import { readFile, stat } from 'node:fs/promises'
import type { z } from 'zod'
import { Refusal } from '#core/lib/refusal.ts'
import { type Notice, readModel } from '#core/techniques/models.ts'

const mostModelBytes = 50_000_000

/** A model from a file; what is wrong is said with the file and the place in it. */
export async function read<T extends z.ZodType>(file: string, shape: T): Promise<z.output<T>> {
  const { size } = await stat(file)
  if (size > mostModelBytes)
    throw new Refusal(
      'too-large',
      `${file}: a model of ${Math.round(size / 1e6)} MB is not read; at most ${mostModelBytes / 1e6} MB.`,
    )
  return inFile(file, () => readFile(file, 'utf8').then((json) => readModel(shape, json)))
}

/** A refusal says in which file it is. */
export async function inFile<T>(file: string, work: () => T | Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof Refusal) throw new Refusal(error.code, `${file}: ${error.sentence}`, error.detail)
    throw error
  }
}

/** Notices go beside the answer. */
export const tell = (notices: readonly Notice[]): void => {
  for (const { at, message } of notices) process.stderr.write(`${at}: ${message}\n`)
}

/** Cells in columns as wide as their longest text. */
export function table(head: readonly string[], rows: readonly (readonly string[])[]): string[] {
  const widths = head.map((title, column) => Math.max(title.length, ...rows.map((row) => row[column]?.length ?? 0)))
  return [head, ...rows].map((row) =>
    row
      .map((cell, column) => cell.padEnd(widths[column]!))
      .join('  ')
      .trimEnd(),
  )
}
