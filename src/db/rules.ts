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

/** Minutes a case is guessed to take from its steps, as `guessedMinutes` does. */
export const guessOf = (steps: string): string =>
  `max(${guess.least}, cast(round(${guess.start} + ${steps} * ${guess.aStep}) as integer))`

const whole = (minutes: string): string => `max(1, cast(round(${minutes}) as integer))`
/** Of the case `c` in an environment, else in all of them together. */
const learnedIn = (environment: string, what: string): string => `(
    select ${what}
    from learned_minutes l
    where l.case_id = c.id and l.environment_id in (${environment}, 0)
    order by l.environment_id desc
    limit 1
  )`
const fittedIn = (environment: string, what: string): string => `(
    select ${what}
    from minutes_model m
    where m.project_id = c.project_id and m.environment_id in (${environment}, 0)
    order by m.environment_id desc
    limit 1
  )`
const rowsOfCase = '(select count(*) from data_row d where d.version_id = c.newest_version_id)'

/**
 * Minutes of the case `c` in an environment: the first of the columns that is given, else what attempts taught, else what the
 * project's regression says of its steps and rows, else a guess.
 */
export const minutesOf = (given: readonly string[], environment: string): SQL =>
  sql.raw(
    `coalesce(${given.join(', ')}, ${learnedIn(environment, whole('l.minutes'))}, ${fittedIn(
      environment,
      whole(`m.base * pow(1 + c.steps, m.steps) * pow(max(1, ${rowsOfCase}), m.rows)`),
    )}, ${guessOf('c.steps')})`,
  )

/** Where these minutes come from, in core's words. */
export const minutesSourceOf = (given: readonly string[], environment: string): SQL =>
  sql.raw(
    `case when coalesce(${given.join(', ')}, 0) > 0 then 'given' else coalesce(${learnedIn(
      environment,
      "iif(l.environment_id = 0, 'learned elsewhere', 'learned')",
    )}, ${fittedIn(environment, "'from its steps'")}, 'guessed') end`,
  )
