import { numberIn } from '#core/lib/key.ts'
import type { Used } from '#core/cases/contract.ts'
import { type StepText, versionName } from '#core/cases/steps.ts'
import { flatSteps, parametersOf } from '#core/cases/uses.ts'
import { findCase } from '#db/cases/cases.ts'
import { versionById } from '#db/cases/versions.ts'
import { findRoutine, routineVersionById } from '#db/reuse/routines.ts'
import { usedIn } from '#db/cases/uses.ts'
import type { Tx } from '#db/open.ts'

/** What the steps insert, written out for the page, with the version that is newest by now. */
export function usedVersions(tx: Tx, projectId: number, steps: readonly Pick<StepText, 'use'>[]): Used[] {
  const find = usedIn(tx)
  const seen = new Map<string, Used>()
  for (const { use } of steps) {
    const used = use && find(use)
    if (!used || seen.has(`${used.kind} ${used.version}`)) continue
    const number = numberIn(used.kind, used.ref)
    const newestId =
      (used.kind === 'routine' ? findRoutine(tx, projectId, number) : findCase(tx, projectId, number))
        ?.newestVersionId ?? null
    const newest =
      newestId === null || newestId === used.version
        ? undefined
        : used.kind === 'routine'
          ? routineVersionById(tx, newestId)
          : versionById(tx, newestId)
    seen.set(`${used.kind} ${used.version}`, {
      kind: used.kind,
      version: used.version,
      ref: used.ref,
      title: used.title,
      name: used.name,
      newest: newest ? versionName(newest.major ?? 0, newest.minor ?? 0) : null,
      parameters: parametersOf(used, find),
      steps: flatSteps(used.steps, find).map(({ step, from }) => ({
        ...step,
        from: from.map(({ ref }) => ref).join(' › '),
      })),
    })
  }
  return [...seen.values()]
}
