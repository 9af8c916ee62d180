import { keyOf } from '#core/lib/key.ts'
import { versionName } from '#core/cases/steps.ts'
import {
  addRoutineVersion,
  newestRoutineVersion,
  readRoutineSteps,
  routineVersionById,
  routineWorking,
  type RoutineStored,
  saveRoutine,
} from '#db/reuse/routines.ts'
import type { Context } from '#server/http/context.ts'

/** Cuts the next minor version of a routine's working copy, unless the newest says the same; `null` when it has no step. */
export function cutRoutineFrom(
  context: Pick<Context, 'tx' | 'now' | 'by' | 'change'>,
  stored: RoutineStored,
  why: string,
): { id: number | null; name: string | null; cut: boolean } {
  const { tx } = context
  const working = routineWorking(tx, stored.id)
  const newestId = newestRoutineVersion(tx, stored.id)
  const newest = newestId === null ? undefined : routineVersionById(tx, newestId)
  if (newest && newest.fingerprint === working.fingerprint)
    return { id: newest.id, name: versionName(newest.major ?? 0, newest.minor ?? 0), cut: false }
  if (!newest && readRoutineSteps(tx, working.id).length === 0) return { id: null, name: null, cut: false }
  const [major, minor] = [newest?.major ?? 0, (newest?.minor ?? 0) + 1]
  const id = addRoutineVersion(tx, working, { major, minor, why, now: context.now, personId: context.by.personId })
  saveRoutine(tx, stored.id, { newestVersionId: id })
  context.change({
    kind: 'routine',
    id: stored.id,
    ref: keyOf('routine', stored.number),
    action: 'version',
    detail: { version: [newest ? versionName(newest.major ?? 0, newest.minor ?? 0) : null, versionName(major, minor)] },
  })
  return { id, name: versionName(major, minor), cut: true }
}
