import { learnedMinutes, type Minutes } from '#core/schedule/estimates.ts'
import type { Tx } from '#db/open.ts'
import { anywhere, minutesSpent, putLearned } from '#db/schedule/minutes.ts'

/** Learns the minutes of a case again, in an environment and anywhere, from its attempts as they are now. */
export function learnMinutes(tx: Tx, { caseId, environmentId }: { caseId: number; environmentId: number }): void {
  for (const place of [environmentId, anywhere])
    putLearned(tx, { caseId, environmentId: place }, learnedMinutes(minutesSpent(tx, caseId, place)))
}

export type Learned = ReadonlyMap<string, { readonly caseId: number; readonly environmentId: number } & Minutes>

/** What attempts teach, of all cases at once. @param spent of each case the newest first */
export function learnAll(spent: readonly { caseId: number; environmentId: number; seconds: number }[]): Learned {
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
