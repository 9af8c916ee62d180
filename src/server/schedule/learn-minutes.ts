import { learnedMinutes, type Minutes } from '#core/schedule/estimates.ts'
import type { Tx } from '#db/open.ts'
import {
  allMinutesSpent,
  anywhere,
  learnedOf,
  type LearnedStored,
  minutesSpent,
  putLearned,
  type RenewedMinutes,
} from '#db/schedule/minutes.ts'

/** Learns the minutes of a case again, in an environment and anywhere, from its attempts as they are now. */
export function learnMinutes(tx: Tx, { caseId, environmentId }: { caseId: number; environmentId: number }): void {
  for (const place of [environmentId, anywhere])
    putLearned(tx, { caseId, environmentId: place }, learnedMinutes(minutesSpent(tx, caseId, place)))
}

type Learned = ReadonlyMap<string, { readonly caseId: number; readonly environmentId: number } & Minutes>

/** What attempts teach, of all cases at once. @param spent of each case the newest first */
function learnAll(spent: readonly { caseId: number; environmentId: number; seconds: number }[]): Learned {
  const minutes = new Map<string, { caseId: number; environmentId: number; all: number[] }>()
  for (const { caseId, environmentId, seconds } of spent)
    for (const place of [environmentId, anywhere]) {
      const key = `${caseId}:${place}`
      const own = minutes.get(key) ?? { caseId, environmentId: place, all: [] }
      if (own.all.length === 0) minutes.set(key, own)
      own.all.push(seconds / 60)
    }
  return new Map(
    [...minutes].flatMap(([key, { all, ...place }]) => {
      const learned = learnedMinutes(all)
      return learned ? [[key, { ...place, ...learned }] as const] : []
    }),
  )
}

/** What a project's attempts teach, and where something else is kept. */
export function wrongMinutes(
  tx: Tx,
  projectId: number,
): { readonly wanted: Learned; readonly changed: RenewedMinutes['changed'] } {
  const wanted = learnAll(allMinutesSpent(tx, projectId))
  const kept = new Map(learnedOf(tx, projectId).map((each) => [`${each.caseId}:${each.environmentId}`, each]))
  const changed = [...new Set([...wanted.keys(), ...kept.keys()])].flatMap((key) => {
    const [to, from] = [wanted.get(key) ?? null, kept.get(key) ?? null]
    const at = to ?? from
    if (!at || isSame(to, from)) return []
    return [{ at: { caseId: at.caseId, environmentId: at.environmentId }, from, to }]
  })
  return { wanted, changed }
}

const isSame = (a: LearnedStored | null, b: LearnedStored | null): boolean =>
  a !== null &&
  b !== null &&
  a.n === b.n &&
  (['minutes', 'low', 'high'] as const).every((of) => Math.abs(a[of] - b[of]) < 1e-9)
