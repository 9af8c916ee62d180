import { parametersIn, type StepText, type StepUse, withTexts, withValues } from './steps.ts'

/** What a step of a routine or a case says; `key` is its identity there. */
export interface UsedStep extends Omit<StepText, 'id'> {
  readonly key: number
}
export interface UsedVersion {
  readonly kind: StepUse['kind']
  readonly version: number
  readonly ref: string
  readonly title: string
  readonly name: string
  readonly steps: readonly UsedStep[]
}

/** A step as it is executed: `path` leads from the step that inserts it, by the identities inside, to it. */
export interface FlatStep {
  readonly step: Omit<StepText, 'id' | 'use'>
  readonly path: readonly number[]
  /** What it comes from, outermost first; empty for a step of the case's own. */
  readonly from: readonly UsedVersion[]
}

export type FindUsed = (use: Pick<StepUse, 'kind' | 'version'>) => UsedVersion | undefined
export const useKey = ({ kind, version }: Pick<StepUse, 'kind' | 'version'>): string => `${kind} ${version}`

/** Steps with every routine and inserted case written out, their parameters replaced by the values given. */
export function flatSteps(steps: readonly UsedStep[], find: FindUsed): FlatStep[] {
  return steps.flatMap((step) => flat(step, find, { path: [], from: [], values: {} }))
}

interface Above {
  readonly path: readonly number[]
  readonly from: readonly UsedVersion[]
  readonly values: Readonly<Record<string, string>>
}

function flat(step: UsedStep, find: FindUsed, above: Above): FlatStep[] {
  const path = [...above.path, step.key]
  const { key: _key, use: _use, ...texts } = step
  const own = withTexts({ id: null, ...texts }, (text) => withValues(text, above.values))
  const { id: _, ...told } = own
  if (!step.use) return [{ step: told, path, from: above.from }]
  const used = find(step.use)
  // What it stood for is not to be found: the caption stays as a step, so that the gap is seen.
  if (!used) return [{ step: told, path, from: above.from }]
  const values = Object.fromEntries(
    Object.entries(step.use.values)
      .filter(([, value]) => value.trim() !== '')
      .map(([name, value]) => [name, withValues(value, above.values)]),
  )
  return used.steps.flatMap((inner) => flat(inner, find, { path, from: [...above.from, used], values }))
}

/** Parameters that a version asks of whoever inserts it: its own, and those its inner uses leave open. */
export function parametersOf(used: UsedVersion, find: FindUsed): string[] {
  const texts = flatSteps(used.steps, find).map(({ step }) => ({ id: null, ...step }))
  return parametersIn({ preconditions: '', steps: texts })
}

/** Keys of everything that steps insert, at any depth. */
export function refsWithin(steps: readonly { readonly use?: StepUse | undefined }[], find: FindUsed): Set<string> {
  const refs = new Set<string>()
  const walk = (all: readonly { readonly use?: StepUse | undefined }[]): void => {
    for (const { use } of all) {
      const used = use && find(use)
      if (!used) continue
      refs.add(used.ref)
      walk(used.steps)
    }
  }
  walk(steps)
  return refs
}

/** The step, by index, that would put `own` inside itself; `null` when none would. */
export function selfUse(
  own: string,
  steps: readonly { readonly use?: StepUse | undefined }[],
  find: FindUsed,
): number | null {
  const at = steps.findIndex((step) => step.use && (step.use.ref === own || refsWithin([step], find).has(own)))
  return at < 0 ? null : at
}
