import { keyOf } from '#core/lib/key.ts'
import type { cutVersion as contract } from '#core/cases/contract.ts'
import { versionName } from '#core/cases/steps.ts'
import { type CaseStored, findCase, saveCase } from '#db/cases/cases.ts'
import { addVersion, versionById, workingCopy } from '#db/cases/versions.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function cutVersion(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const stored = found(findCase(context.tx, context.project.id, params.ref), keyOf('case', params.ref))
  return cutFrom(context, stored, body.why)
}

/** Cuts the next minor version of the working copy, unless the newest version says the same already. */
export function cutFrom(
  context: Pick<Context, 'tx' | 'now' | 'by' | 'change'>,
  stored: CaseStored,
  why: string,
): Answer<typeof contract> {
  const working = workingCopy(context.tx, stored.id)
  const newest = stored.newestVersionId === null ? undefined : versionById(context.tx, stored.newestVersionId)
  if (newest?.fingerprint === working.fingerprint)
    return { id: newest.id, name: versionName(newest.major ?? 0, newest.minor ?? 0), cut: false }
  const major = newest?.major ?? 0
  const minor = (newest?.minor ?? 0) + 1
  const id = addVersion(context.tx, working, {
    major,
    minor,
    state: 'Draft',
    why,
    now: context.now,
    personId: context.by.personId,
  })
  saveCase(context.tx, stored.id, { newestVersionId: id, state: 'Draft' })
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: 'version',
    detail: { version: [newest ? versionName(newest.major ?? 0, newest.minor ?? 0) : null, versionName(major, minor)] },
  })
  return { id, name: versionName(major, minor), cut: true }
}
