import { withIdentities } from '#core/cases/compare.ts'
import { parametersIn, type StepText, type VersionContent, withTexts } from '#core/cases/steps.ts'
import { definedOf } from '#core/lib/defined.ts'
import { escapeText, plainText } from '#core/lib/plain-text.ts'
import type { CaseRead, RequirementRead } from './shapes.ts'

export type RowStatus = 'new' | 'changed' | 'unchanged'

const stepFields = ['action', 'expected', 'data'] as const
type StepField = (typeof stepFields)[number]

/** Which fields of a stored case a file would change; only those the file names are looked at, links are only ever added. */
export function caseChanges(incoming: CaseRead, rich: CaseRead, fields: readonly string[]): string[] {
  const stored = plainCaseOf(rich)
  const named = stepFields.filter((field) => fields.includes(field))
  const steps = ({ steps: all }: CaseRead) => JSON.stringify(all.map((step) => named.map((field) => step[field])))
  const plain: Readonly<Record<string, (of: CaseRead) => string>> = {
    title: ({ title }) => title,
    objective: ({ objective }) => objective,
    preconditions: ({ preconditions }) => preconditions,
    importance: ({ importance }) => importance,
    type: ({ type }) => type || 'Functional',
    component: ({ component }) => component,
    folder: ({ folder }) => folder.join('\u0000'),
    estimate: ({ estimate }) => String(estimate),
    owner: ({ owner }) => owner.toLowerCase(),
    automation: ({ automation }) => automation,
    tags: ({ tags }) => [...tags].sort().join('\u0000'),
    rows: ({ rows }) =>
      JSON.stringify(
        rows.map((row) =>
          Object.entries(row)
            .filter(([, value]) => value !== '')
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        ),
      ),
    requirement: (of) =>
      of === incoming
        ? String(incoming.requirements.every((key) => stored.requirements.includes(key.toUpperCase())))
        : 'true',
  }
  return [
    ...differing(incoming, stored, fields, plain),
    ...(named.length > 0 && steps(incoming) !== steps(stored) ? ['steps'] : []),
  ]
}

/** The same for a requirement; `parents` are the keys of its parent in the file and as stored, `rich` says that the file has rich text. */
export function requirementChanges(
  incoming: RequirementRead,
  stored: RequirementRead,
  fields: readonly string[],
  of: { readonly rich: boolean; readonly parents: readonly [string, string] },
): string[] {
  const plain: Readonly<Record<string, (each: RequirementRead) => string>> = {
    title: ({ title }) => title,
    text: (each) => (each === incoming && !of.rich ? each.text : plainText(each.text)),
    component: ({ component }) => component,
    kind: ({ kind }) => kind,
    state: ({ state }) => state,
    owner: ({ owner }) => owner.toLowerCase(),
    reference: ({ reference }) => reference,
    release: ({ release }) => release,
    iteration: ({ iteration }) => iteration,
    tags: ({ tags }) => [...tags].sort().join('\u0000'),
    risk: ({ likelihood, impact }) => `${likelihood}x${impact}`,
    likelihood: ({ likelihood }) => String(likelihood),
    impact: ({ impact }) => String(impact),
    priority: ({ priority }) => String(priority),
    parent: (each) => (each === incoming ? of.parents[0] : of.parents[1]),
  }
  return differing(incoming, stored, fields, plain)
}

function differing<T extends { readonly custom: Readonly<Record<string, string>> }>(
  incoming: T,
  stored: T,
  fields: readonly string[],
  plain: Readonly<Record<string, (of: T) => string>>,
): string[] {
  return fields.filter((field) => {
    if (field.startsWith('custom:')) {
      const name = field.slice('custom:'.length)
      return (incoming.custom[name] ?? '') !== (stored.custom[name] ?? '')
    }
    const read = plain[field]
    return read !== undefined && read(incoming) !== read(stored)
  })
}

/**
 * What a case says after the import: steps keep the identity of those they are alike to, texts that say the same keep their
 * marks, and what the file does not name stays as it is.
 */
export function contentAfter(
  incoming: CaseRead,
  stored: VersionContent | null,
  fields: readonly string[],
): VersionContent {
  const names = (field: string) => stored === null || fields.includes(field)
  const kept = (text: string, old: string | undefined): string =>
    old !== undefined && plainText(old) === text ? old : escapeText(text)
  const old = new Map((stored?.steps ?? []).map((step) => [step.id, step]))
  const aligned = withIdentities(stored?.steps.map(plainStep) ?? [], incoming.steps)
  const steps = stepFields.some(names)
    ? aligned.map((step): StepText => {
        const before = step.id === null ? undefined : old.get(step.id)
        const field = (name: StepField): string =>
          names(name) ? kept(step[name], before?.[name]) : (before?.[name] ?? '')
        return { id: step.id, action: field('action'), expected: field('expected'), data: field('data') }
      })
    : (stored?.steps ?? [])
  const preconditions = names('preconditions')
    ? kept(incoming.preconditions, stored?.preconditions)
    : (stored?.preconditions ?? '')
  const rows = names('rows') ? incoming.rows : (stored?.rows ?? [])
  const valued = rows.flatMap((row) => Object.keys(row).filter((name) => row[name] !== ''))
  const { needs, environment, table } = stored ?? {}
  return {
    preconditions,
    steps,
    parameters: [...new Set([...parametersIn({ preconditions, steps }), ...valued])],
    rows,
    ...definedOf({ needs, environment, table }),
  }
}

/** A stored case as it reads, without the marks of rich text. */
export const plainCaseOf = <T extends CaseRead>(of: T): T => ({
  ...of,
  objective: plainText(of.objective),
  preconditions: plainText(of.preconditions),
  steps: of.steps.map(plainStep),
})

const plainStep = (step: StepText): StepText => withTexts(step, plainText)
