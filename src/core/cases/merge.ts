import { plainText } from '#core/lib/plain-text.ts'
import { fingerprintText, type StepText, type VersionContent } from './steps.ts'

/** Where two wrote at once: the preconditions, a text of a step, a whole step that one took away, or a part beside the steps. */
export type ClashPlace =
  | { readonly part: 'preconditions' | 'rows' | 'needs' | 'environment' | 'table' }
  /** `at` counts the steps of the merged content from 0. */
  | { readonly part: 'step'; readonly at: number; readonly field: 'action' | 'expected' | 'data' | 'values' | 'all' }

/** Both texts of one place; `null` where one took away what the other changed. The merged content says what is mine there. */
export interface Clash {
  readonly place: ClashPlace
  readonly mine: string | null
  readonly theirs: string | null
}
export interface Merged {
  readonly content: VersionContent
  readonly clashes: readonly Clash[]
}

/**
 * Three-way merge of what a case says, by place: what only one changed is taken from that one, what both changed in the same way
 * stands once, and only where both changed one place differently is there a clash. Steps are told apart by their identity; one that
 * has none yet is mine, unless they have the same words in a new one. Source: the diff3 rule of Khanna, Kunal and Pierce, "A Formal
 * Investigation of Diff3" (2007), over named places instead of lines.
 */
export function merged(base: VersionContent, mine: VersionContent, theirs: VersionContent): Merged {
  const clashes: Clash[] = []
  const choose = <T>(of: { base: T; mine: T; theirs: T }, place: ClashPlace, said: (value: T) => string): T => {
    const [b, m, t] = [of.base, of.mine, of.theirs].map(worded)
    if (m === b || m === t) return of.theirs
    if (t !== b) clashes.push({ place, mine: said(of.mine), theirs: said(of.theirs) })
    return of.mine
  }
  const part = <Name extends 'preconditions' | 'rows' | 'needs' | 'environment' | 'table'>(
    name: Name,
    said: (value: VersionContent[Name]) => string,
  ) => choose({ base: base[name], mine: mine[name], theirs: theirs[name] }, { part: name }, said)
  const steps = mergedSteps(base.steps, mine.steps, theirs.steps, clashes)
  const needs = part('needs', (keys = []) => keys.join(', '))
  const environment = part('environment', (name = '') => name)
  const table = part('table', (of) => of?.name ?? '')
  return {
    content: {
      preconditions: part('preconditions', (text) => text),
      steps,
      parameters: [...new Set([...theirs.parameters, ...mine.parameters])],
      rows: part('rows', rowsSaid),
      ...(needs && { needs }),
      ...(environment !== undefined && { environment }),
      ...(table && { table }),
    },
    clashes,
  }
}

/** What is compared: blanks at the ends of a text are not stored, so they say nothing. */
const worded = (value: unknown): string => (typeof value === 'string' ? value.trim() : JSON.stringify(value ?? null))

const rowsSaid = (rows: VersionContent['rows']): string => rows.map((row) => Object.values(row).join(' | ')).join('\n')

/** Do both say the same words, whatever identity their steps have? */
export const saysTheSame = (one: VersionContent, other: VersionContent): boolean =>
  fingerprintText(one) === fingerprintText(other)

const fields = ['action', 'expected', 'data'] as const
const said = (step: StepText): string => fields.map((name) => plainText(step[name])).join('\t')
const stepSaid = (step: StepText): string =>
  fields
    .map((name) => step[name])
    .filter((text) => text !== '')
    .join(' ⇒ ')
const sameStep = (one: StepText, other: StepText): boolean =>
  said(one) === said(other) &&
  one.evidence === other.evidence &&
  JSON.stringify(one.use ?? null) === JSON.stringify(other.use ?? null)

/** A step under a name that it has in all three: its identity, or its place among mine where it has none. */
type Named = ReadonlyMap<string, StepText>
const nameOf = ({ id }: StepText, at: number): string => (id === null ? `mine ${at}` : `#${id}`)
const namedSteps = (steps: readonly StepText[]): Named => new Map(steps.map((step, at) => [nameOf(step, at), step]))

function mergedSteps(
  base: readonly StepText[],
  mine: readonly StepText[],
  theirs: readonly StepText[],
  clashes: Clash[],
): StepText[] {
  const [b, t] = [namedSteps(base), namedSteps(theirs)]
  const m = knownToThem(mine, b, t)
  const names = mergedOrder([...b.keys()], [...m.keys()], [...t.keys()])
  const steps: StepText[] = []
  for (const name of names) {
    const of = { base: b.get(name), mine: m.get(name), theirs: t.get(name) }
    const step = mergedStep(of, ({ field, ...texts }) =>
      clashes.push({ place: { part: 'step', at: steps.length, field }, ...texts }),
    )
    if (step) steps.push(step)
  }
  return steps
}

/** My steps by name; one that is new to me and stands in theirs word for word, new as well, is the same (its answer may have got lost). */
function knownToThem(mine: readonly StepText[], base: Named, theirs: Named): Named {
  const fresh = [...theirs].filter(([name]) => !base.has(name))
  const taken = new Set<string>()
  return new Map(
    mine.map((step, at) => {
      const same = step.id === null && fresh.find(([name, own]) => !taken.has(name) && sameStep(own, step))
      if (!same) return [nameOf(step, at), step]
      taken.add(same[0])
      return same
    }),
  )
}

interface Told {
  readonly field: 'action' | 'expected' | 'data' | 'values' | 'all'
  readonly mine: string | null
  readonly theirs: string | null
}

function mergedStep(
  { base, mine, theirs }: { base: StepText | undefined; mine: StepText | undefined; theirs: StepText | undefined },
  clash: (told: Told) => void,
): StepText | null {
  if (!base || (mine && theirs))
    return mine && theirs ? bothHave(base ?? theirs, mine, theirs, clash) : (mine ?? theirs ?? null)
  const kept = mine ?? theirs
  if (!kept || sameStep(kept, base)) return null
  clash({ field: 'all', mine: mine ? stepSaid(mine) : null, theirs: theirs ? stepSaid(theirs) : null })
  // What they took away has no identity any more; what stands of it is a new step.
  return mine ? { ...mine, id: null } : kept
}

function bothHave(base: StepText, mine: StepText, theirs: StepText, clash: (told: Told) => void): StepText {
  const texts = fields.map((name) => {
    const [b, m, t] = [base, mine, theirs].map((step) => worded(step[name]))
    if (m === b || m === t) return [name, theirs[name]] as const
    if (t !== b) clash({ field: name, mine: mine[name], theirs: theirs[name] })
    return [name, mine[name]] as const
  })
  const [b, m, t] = [base, mine, theirs].map(({ use }) => JSON.stringify(use ?? null))
  if (m !== b && t !== b && m !== t) clash({ field: 'values', mine: valuesSaid(mine), theirs: valuesSaid(theirs) })
  const { use } = m === b || m === t ? theirs : mine
  // Asked for or not: whoever changed it says which, and both can only have changed it alike.
  const { evidence } = mine.evidence === base.evidence ? theirs : mine
  const { evidence: _, ...rest } = theirs
  return { ...rest, ...Object.fromEntries(texts), use, ...(evidence && { evidence }) }
}

const valuesSaid = ({ use, action }: StepText): string =>
  use
    ? [`${use.ref} ${use.name}`, ...Object.entries(use.values).map(([name, value]) => `${name}: ${value}`)].join(', ')
    : action

/** The order of whoever changed it, with what is new to the other one put in behind the step it followed. */
function mergedOrder(base: readonly string[], mine: readonly string[], theirs: readonly string[]): string[] {
  const moved = (own: readonly string[]) => {
    const known = own.filter((name) => base.includes(name))
    const before = base.filter((name) => own.includes(name))
    return known.some((name, at) => name !== before[at])
  }
  const [frame, other] = moved(theirs) ? [theirs, mine] : [mine, theirs]
  const order = [...frame]
  other.forEach((name, at) => {
    if (order.includes(name)) return
    const before = other.slice(0, at).findLast((each) => order.includes(each))
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, name)
  })
  return order
}
