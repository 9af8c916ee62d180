import { definedOf } from '#core/lib/defined.ts'
import { likeness, type Stretch, wordDiff } from '#core/lib/word-diff.ts'
import type { StepText, VersionContent } from './steps.ts'

interface StepChange {
  /** Place in the older and in the newer version, from 0; one of them is `null` for a step added or removed. */
  readonly before: number | null
  readonly after: number | null
  readonly changed: boolean
  /** It stands in another order among the steps both versions have. */
  readonly moved: boolean
  readonly id: number | null
  readonly action: readonly Stretch[]
  readonly expected: readonly Stretch[]
  readonly data: readonly Stretch[]
}
/** What a version asks of the world around it. */
export type Setting = Pick<VersionContent, 'needs' | 'environment' | 'table'>
const settingOf = ({ needs, environment, table }: VersionContent): Setting => ({ needs, environment, table })

export interface Comparison {
  readonly preconditions: readonly Stretch[]
  /** In the order of the newer version, with what was removed where it stood. */
  readonly steps: readonly StepChange[]
  readonly parameters: { readonly before: readonly string[]; readonly after: readonly string[] }
  readonly rows: { readonly before: VersionContent['rows']; readonly after: VersionContent['rows'] }
  readonly setting: { readonly before: Setting; readonly after: Setting }
  readonly same: boolean
}

const fields = ['action', 'expected', 'data'] as const
/** Steps with less than this in common are another step, not a changed one. */
const alike = 0.5

/** Two versions side by side: steps aligned by identity, then by likeness; words compared within them. */
export function compareVersions(before: VersionContent, after: VersionContent): Comparison {
  const pairs = alignSteps(before.steps, after.steps)
  const inOrder = longestRising(pairs.map(([old]) => old))
  const oldOf = new Map(pairs.map(([old, now]) => [now, old]))
  const kept = new Set(pairs.map(([old]) => old))
  const steps = after.steps.map((step, index): StepChange => {
    const old = oldOf.get(index)
    return change(
      old === undefined ? null : { step: before.steps[old] ?? step, at: old },
      { step, at: index },
      old !== undefined && !inOrder.has(old),
    )
  })
  // What was removed is shown after the step that stood before it.
  before.steps.forEach((step, index) => {
    if (kept.has(index)) return
    const previous = steps.findIndex((each) => each.before === index - 1)
    steps.splice(
      index === 0 ? 0 : previous < 0 ? steps.length : previous + 1,
      0,
      change({ step, at: index }, null, false),
    )
  })
  const preconditions = wordDiff(before.preconditions, after.preconditions)
  const sameRows = JSON.stringify([before.parameters, before.rows]) === JSON.stringify([after.parameters, after.rows])
  return {
    preconditions,
    steps,
    parameters: { before: before.parameters, after: after.parameters },
    rows: { before: before.rows, after: after.rows },
    setting: { before: settingOf(before), after: settingOf(after) },
    same:
      sameRows &&
      JSON.stringify(settingOf(before)) === JSON.stringify(settingOf(after)) &&
      preconditions.every(({ kind }) => kind === 'same') &&
      steps.every(({ before: old, after: now, changed, moved }) => old !== null && now !== null && !changed && !moved),
  }
}

interface Placed {
  readonly step: StepText
  readonly at: number
}

function change(old: Placed | null, now: Placed | null, moved: boolean): StepChange {
  const texts = fields.map((field) => wordDiff(old?.step[field] ?? '', now?.step[field] ?? ''))
  return {
    before: old?.at ?? null,
    after: now?.at ?? null,
    moved,
    changed: old !== null && now !== null && texts.some((text) => text.some(({ kind }) => kind !== 'same')),
    id: (now ?? old)?.step.id ?? null,
    action: texts[0] ?? [],
    expected: texts[1] ?? [],
    data: texts[2] ?? [],
  }
}

/** The newer version, made from the older one and the comparison; throws when the comparison is of another version. */
export function patchVersion(before: VersionContent, comparison: Comparison): VersionContent {
  const told = (stretches: readonly Stretch[], from: string): string => {
    if (
      stretches
        .filter(({ kind }) => kind !== 'added')
        .map(({ text }) => text)
        .join('') !== from
    )
      throw new Error('the comparison is of another version')
    return stretches
      .filter(({ kind }) => kind !== 'removed')
      .map(({ text }) => text)
      .join('')
  }
  const steps = comparison.steps.flatMap((each) => {
    const old = each.before === null ? undefined : before.steps[each.before]
    const texts = fields.map((field) => told(each[field], old?.[field] ?? ''))
    return each.after === null
      ? []
      : [{ id: each.id, action: texts[0] ?? '', expected: texts[1] ?? '', data: texts[2] ?? '' }]
  })
  return {
    preconditions: told(comparison.preconditions, before.preconditions),
    steps,
    parameters: comparison.parameters.after,
    rows: comparison.rows.after,
    ...definedOf(comparison.setting.after),
  }
}

/** Pairs of (older, newer) places: the same identity first, then the likest of the rest, nearest first where equal. */
export function alignSteps(before: readonly StepText[], after: readonly StepText[]): [number, number][] {
  const byId = new Map(before.flatMap(({ id }, index) => (id === null ? [] : [[id, index] as const])))
  const pairs: [number, number][] = []
  const [freeOld, freeNew] = [new Set(before.keys()), new Set(after.keys())]
  const pair = (old: number, now: number) => {
    if (!freeOld.has(old) || !freeNew.has(now)) return
    pairs.push([old, now])
    freeOld.delete(old)
    freeNew.delete(now)
  }
  after.forEach(({ id }, now) => {
    const old = id === null ? undefined : byId.get(id)
    if (old !== undefined) pair(old, now)
  })
  const textOf = ({ action, expected, data }: StepText) => `${action} ${expected} ${data}`
  const candidates = [...freeOld]
    .flatMap((old) =>
      [...freeNew].map((now) => ({
        old,
        now,
        like: likeness(textOf(before[old] ?? nothing), textOf(after[now] ?? nothing)),
      })),
    )
    .filter(({ like }) => like >= alike)
  candidates.sort((a, b) => b.like - a.like || Math.abs(a.old - a.now) - Math.abs(b.old - b.now) || a.now - b.now)
  for (const { old, now } of candidates) pair(old, now)
  return pairs.sort((a, b) => a[1] - b[1])
}

const nothing: StepText = { id: null, action: '', expected: '', data: '' }

/** Gives steps that come from outside the identities of the stored ones they are alike to, so that results stay with their step. */
export function withIdentities(stored: readonly StepText[], incoming: readonly StepText[]): StepText[] {
  const ids = new Map(
    alignSteps(
      stored,
      incoming.map((step) => ({ ...step, id: null })),
    ).map(([old, now]) => [now, stored[old]?.id ?? null]),
  )
  return incoming.map((step, index) => ({ ...step, id: ids.get(index) ?? null }))
}

/** Values of a longest rising subsequence: what did not move (Fredman, M. L. (1975), Discrete Mathematics 11). */
function longestRising(values: readonly number[]): Set<number> {
  const ends: number[] = []
  const previous = values.map(() => -1)
  values.forEach((value, index) => {
    const at = ends.findIndex((end) => (values[end] ?? 0) >= value)
    const place = at < 0 ? ends.length : at
    previous[index] = ends[place - 1] ?? -1
    ends[place] = index
  })
  const rising = new Set<number>()
  for (let at = ends.at(-1) ?? -1; at >= 0; at = previous[at] ?? -1) rising.add(values[at] ?? 0)
  return rising
}
