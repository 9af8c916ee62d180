import type { z } from 'zod'
import { contentShape, type Used } from '#core/cases/contract.ts'
import { parametersIn, type StepUse, type VersionContent } from '#core/cases/steps.ts'

// What is written of a case, as it stands on the page: every step has a place of its own before the server has named it.

export interface DraftStep {
  readonly id: number | null
  readonly action: string
  readonly expected: string
  readonly data: string
  readonly use?: StepUse | undefined
  readonly evidence?: true | undefined
  /** Keeps a step's place on the page while it has no identity yet. */
  readonly row: string
}
export interface Draft extends Pick<VersionContent, 'needs' | 'environment' | 'table'> {
  readonly preconditions: string
  readonly steps: readonly DraftStep[]
  readonly parameters: readonly string[]
  readonly rows: readonly Readonly<Record<string, string>>[]
}
export type Content = z.infer<typeof contentShape>

export const draftOf = (content: Content, newRow: () => string): Draft => ({
  ...content,
  steps: content.steps.map((step) => ({ ...step, row: step.id === null ? newRow() : `step-${step.id}` })),
})

/** Other content in the place of a draft: a step that was there keeps its place on the page, and with it what is focused. */
export function draftAfter(content: Content, before: Draft, newRow: () => string): Draft {
  const known = new Map(before.steps.flatMap(({ id, row }) => (id === null ? [] : [[id, row] as const])))
  const fresh = before.steps.filter(({ id }) => id === null)
  const rowOf = ({ id, action, expected, data }: Content['steps'][number]): string => {
    if (id !== null) return known.get(id) ?? `step-${id}`
    const at = fresh.findIndex((step) => step.action === action && step.expected === expected && step.data === data)
    return at < 0 ? newRow() : (fresh.splice(at, 1)[0]?.row ?? newRow())
  }
  return { ...content, steps: content.steps.map((step) => ({ ...step, row: rowOf(step) })) }
}

export const contentOf = (draft: Draft): Content => ({
  preconditions: draft.preconditions,
  steps: draft.steps.map(({ id, action, expected, data, use, evidence }) => ({
    id,
    action,
    expected,
    data,
    ...(evidence && { evidence }),
    ...(use && { use: { ...use, values: { ...use.values } } }),
  })),
  parameters: [...draft.parameters],
  rows: draft.rows.map((row) => ({ ...row })),
  ...(draft.needs && { needs: [...draft.needs] }),
  ...(draft.environment !== undefined && { environment: draft.environment }),
  ...(draft.table && { table: { ...draft.table } }),
})

const isFilled = ({ action, expected, data, use }: DraftStep): boolean =>
  use !== undefined || `${action}${expected}${data}`.trim() !== ''

/** The draft with the identities and pinned versions the server gave its filled steps, without moving what is being typed. */
export function adopted(draft: Draft, content: Content): Draft {
  const filled = draft.steps.filter(isFilled)
  if (filled.length !== content.steps.length) return draft
  const given = new Map(filled.map((step, index) => [step.row, content.steps[index]]))
  return {
    ...draft,
    parameters: content.parameters,
    steps: draft.steps.map((step) => {
      const own = given.get(step.row)
      return own ? { ...step, id: own.id ?? step.id, ...(own.use && { use: own.use, action: own.action }) } : step
    }),
  }
}

/** What of a routine or a case is inserted by a step. */
export const usedBy = (step: Pick<DraftStep, 'use'>, used: readonly Used[]): Used | undefined =>
  step.use && used.find(({ kind, version }) => kind === step.use?.kind && version === step.use.version)

/** The draft with the parameters its texts name, those that what is inserted asks for and is given no value, and those with values in its rows. */
export function withParameters(draft: Draft, used: readonly Used[]): Draft {
  const asked = draft.steps.flatMap((step) =>
    (usedBy(step, used)?.parameters ?? []).filter((name) => (step.use?.values[name] ?? '').trim() === ''),
  )
  const filled = draft.parameters.filter((name) => draft.rows.some((row) => (row[name] ?? '') !== ''))
  return { ...draft, parameters: [...new Set([...parametersIn(draft), ...asked, ...filled])] }
}
