import type { reviewCase as contract } from '#core/cases/contract.ts'
import { versionName } from '#core/cases/steps.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addVersion, findCase, saveCase, setVersionState, versionById, workingCopy } from '#db/cases/queries.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cutFrom } from './cut-version.ts'

/** Asks for review, sends back, or approves: approval makes the next whole number and is a lead's, never the author's own. */
export function reviewCase(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project } = context
  const stored = found(findCase(tx, project.id, params.ref), `TC-${params.ref}`)
  const cut = cutFrom(context, stored, '')
  const newest = cut.id === null ? undefined : versionById(tx, cut.id)
  if (!newest) throw new Refusal('refused', `TC-${params.ref} has nothing to review yet; write its steps first.`)
  if (body.to !== 'Approved') {
    setVersionState(tx, newest.id, { state: body.to })
    saveCase(tx, stored.id, { state: body.to, version: stored.version + 1 })
    context.change({ kind: 'case', id: stored.id, ref: `TC-${stored.number}`, action: body.to === 'In review' ? 'review asked' : 'sent back', detail: { state: [newest.state, body.to] } })
    return { name: cut.name ?? '' }
  }
  if (context.role !== 'lead') throw new Refusal('not-allowed', 'Approving asks for the role lead.')
  if (newest.createdBy === context.person.id) throw new Refusal('refused', 'You wrote this version, so somebody else has to approve it.')
  const major = (newest.major ?? 0) + 1
  const id = addVersion(tx, workingCopy(tx, stored.id), { major, minor: 0, state: 'Approved', why: 'approved', now: context.now, personId: context.person.id })
  saveCase(tx, stored.id, { newestVersionId: id, approvedVersionId: id, state: 'Approved', version: stored.version + 1 })
  context.change({ kind: 'case', id: stored.id, ref: `TC-${stored.number}`, action: 'approved', detail: { version: [cut.name, versionName(major, 0)] } })
  return { name: versionName(major, 0) }
}
