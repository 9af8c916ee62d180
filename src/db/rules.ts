import { type SQL, sql } from 'drizzle-orm'
import { guess } from '#core/cases/case.ts'
import { endedDefectStates, repairedDefectStates } from '#core/defects/state.ts'
import { finalVerdicts, verdicts } from '#core/lib/verdict.ts'

// Rules of core as conditions in SQL, made from core's own constants. Names of columns are our own, never from outside.

const listed = (words: readonly string[]): string => words.map((word) => `'${word.replaceAll("'", "''")}'`).join(', ')
const openVerdicts = verdicts.filter((verdict) => !finalVerdicts.some((final) => final === verdict))

/** Is this verdict still to come? As `isFinal` tells it. */
export const isOpenVerdict = (column: string): SQL => sql.raw(`${column} in (${listed(openVerdicts)})`)

/** Is something still to be done about the defect? As `isOpen` tells it. */
export const isOpenDefect = (state: string): SQL => sql.raw(`${state} not in (${listed(endedDefectStates)})`)

/** Is the repair of the defect there to be tried? As `isRepaired` tells it. */
export const isRepairedDefect = (state: string): SQL => sql.raw(`${state} in (${listed(repairedDefectStates)})`)

/** Is the case neither deleted nor retired? */
export const isLiveCase = (alias: string): SQL => sql.raw(`${alias}.deleted_at is null and ${alias}.retired_at is null`)

/** Minutes: the first of the columns that is given, else guessed from the steps as `guessedMinutes` does. */
export const minutesOf = (given: readonly string[], steps: string): SQL =>
  sql.raw(
    `coalesce(${given.join(', ')}, max(${guess.least}, cast(round(${guess.start} + ${steps} * ${guess.aStep}) as integer)))`,
  )
