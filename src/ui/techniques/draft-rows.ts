import type { DecidedRow } from '#core/techniques/contract.ts'
import { combosProblem } from '#core/techniques/combos-model.ts'
import type { DraftAnswer, Proposed, Standing } from '#core/techniques/draft-answer.ts'
import { type DraftModel, type DraftRow, sameRow } from '#core/techniques/draft-row.ts'
import { tuplesAdded } from '#core/techniques/held-tuples.ts'

/** A row of the table: one that was decided, one that is proposed, or one that was left out and would be proposed. */
export interface Row {
  readonly id: string
  readonly row: DraftRow
  readonly why: string
  readonly decided: DecidedRow | null
  readonly standing: Standing | null
  readonly proposed: Proposed | null
}

/** Accepted rows first, as the computation finds them standing; then what it proposes, of which some were left out before. */
export function rowsOf(answer: DraftAnswer, standing: readonly DecidedRow[], out: readonly DecidedRow[]): Row[] {
  const kept = standing.flatMap((decided, at): Row[] => {
    const own = answer.standing[at]
    const known = { id: `d${decided.id}`, row: decided.row, decided, proposed: null }
    return own ? [{ ...known, why: own.why, standing: own }] : []
  })
  const proposed = answer.proposed.map((each, at): Row => {
    const left = out.find(({ row }) => sameRow(row, each.row)) ?? null
    const known = { id: `p${at}`, row: each.row, why: each.why, standing: null }
    return { ...known, decided: left, proposed: left ? null : each }
  })
  return [...kept, ...proposed]
}

/** Cells whose value is refused, as `name=value`. */
export function badCells(model: DraftModel, { detail }: DraftAnswer): ReadonlySet<string> {
  if (detail.technique === 'boundaries')
    return new Set(detail.answer.cases.filter(({ valid }) => !valid).map(({ input, value }) => `${input}=${value}`))
  if (model.technique !== 'combos') return new Set()
  const negative = Object.entries(model.body.negative)
  return new Set(negative.flatMap(([name, values]) => values.map((value) => `${name}=${value}`)))
}

/** What the cases of a model are, and whether fewer would do. */
export function casesText({ detail }: DraftAnswer): string {
  if (detail.technique === 'paths') {
    const { steps, least } = detail.answer
    return `paths with ${steps} steps; ${steps <= least ? 'the least possible' : `at least ${least}`}`
  }
  const least =
    detail.technique === 'combos' && detail.answer.rows.length - detail.answer.negative <= detail.answer.least
  return least ? 'cases; the least possible' : 'cases'
}

/** Milliseconds as a person reads them. */
export const tookText = (ms: number): string =>
  ms < 1000 ? `${Math.max(1, Math.round(ms))} ms` : `${(ms / 1000).toFixed(1)} s`

/** The tuples the row at this place holds that nothing above it does; of other techniques the steps of its case. */
export function toldOf(model: DraftModel, rows: readonly Row[], at: number): string[] {
  const row = rows[at]
  if (!row) return []
  if (model.technique !== 'combos') return stepsTold(row)
  const above = rows
    .slice(0, at)
    .filter((each) => !each.proposed?.negative && each.decided?.decision !== 'left out')
    .map((each) => each.row)
  try {
    return tuplesAdded(combosProblem(model.body), above, row.row).map((tuple) =>
      Object.entries(tuple)
        .map(([name, value]) => `${name} ${value}`)
        .join(' + '),
    )
  } catch {
    // A model in the middle of being typed holds no tuples.
    return []
  }
}

const stepsTold = ({ row, why, standing, proposed }: Row): string[] =>
  proposed
    ? proposed.steps.map(({ action, expected }) => `${action}${expected ? ` → ${expected}` : ''}`)
    : (row['path']?.split('\n') ?? [standing?.why ?? why])
