import { sumOf } from '#core/lib/figures.ts'
import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  confirmLink as confirmContract,
  createLinks as createContract,
  endLink as endContract,
  endLinks as endManyContract,
  updateLink as updateContract,
} from '#core/cases/link-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addLink, endLink as close, linkById, saveLink } from '#db/cases/links.ts'
import { caseById, findCase } from '#db/cases/cases.ts'
import { ownStepIds } from '#db/cases/uses.ts'
import { findRequirement, requirementById } from '#db/requirements/requirements.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, Parting } from '#server/http/route.ts'

function numberOf(kind: 'requirement' | 'case', ref: string): number {
  const number = numberIn(kind, ref)
  if (number === 0)
    throw new Refusal('invalid', `“${ref}” is not a key; one looks like ${keyOf(kind, 12)}. Nothing was linked.`)
  return number
}

/** Every pair, in one act; both sides say so in their history. */
export function createLinks(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const { tx, project, by } = context
  const requirements = [
    ...body.requirements.map((ref) => found(findRequirement(tx, project.id, numberOf('requirement', ref)), ref)),
    ...body.requirementIds.map((id) => found(requirementById(tx, project.id, id), 'A requirement chosen here')),
  ]
  const cases = [
    ...body.cases.map((ref) => found(findCase(tx, project.id, numberOf('case', ref)), ref)),
    ...body.caseIds.map((id) => ownCase(context, id)),
  ]
  const links: number[] = []
  for (const requirement of requirements)
    for (const own of cases) {
      const link = addLink(
        tx,
        {
          projectId: project.id,
          requirementId: requirement.id,
          caseId: own.id,
          revision: requirement.revision,
          versionId: own.newestVersionId,
        },
        by,
      )
      if (link === null) continue
      links.push(link)
      tellBoth(context, requirement, own, 'linked')
    }
  return { made: links.length, of: requirements.length * cases.length, links }
}

/** Many pairs are parted by the side that names more; what is named by key goes with the first part. */
export function byLongerSide(body: Input<typeof createContract>['body']): Parting<typeof body> {
  const side = body.caseIds.length >= body.requirementIds.length ? ('caseIds' as const) : ('requirementIds' as const)
  const keys = side === 'caseIds' ? ('cases' as const) : ('requirements' as const)
  return {
    list: side,
    all: body[side],
    some: (part, first) => ({ ...body, [side]: part, ...(!first && { [keys]: [] }) }),
  }
}

export const joinLinked = (
  parts: readonly Answer<typeof createContract>[],
  stopped: string | undefined,
): Answer<typeof createContract> => ({
  made: sumOf(parts, ({ made }) => made),
  of: sumOf(parts, (each) => each.of),
  links: parts.flatMap(({ links }) => links),
  stopped,
})

function ownCase({ tx, project }: Context, id: number) {
  const own = found(caseById(tx, id), 'A case chosen here')
  if (own.projectId !== project.id || own.deletedAt !== null)
    throw new Refusal('not-found', 'A case chosen here is not in this project; nothing was linked.')
  return own
}

/** The history of both says that they were linked, or are not any more. */
function tellBoth(
  context: Context,
  requirement: { readonly id: number; readonly number: number },
  own: { readonly id: number; readonly number: number },
  action: 'linked' | 'unlinked',
): void {
  const keys = `${keyOf('requirement', requirement.number)} – ${keyOf('case', own.number)}`
  const detail = { link: action === 'linked' ? ([null, keys] as const) : ([keys, null] as const) }
  context.change({
    kind: 'requirement',
    id: requirement.id,
    ref: keyOf('requirement', requirement.number),
    action,
    detail,
  })
  context.change({ kind: 'case', id: own.id, ref: keyOf('case', own.number), action, detail })
}

export function endLink(context: Context, { params }: Input<typeof endContract>): Answer<typeof endContract> {
  const { link, requirement, own } = openLink(context, params.id)
  close(context.tx, link.id, context.now)
  tellBoth(context, requirement, own, 'unlinked')
  return { ok: true }
}

export function endLinks(context: Context, { body }: Input<typeof endManyContract>): Answer<typeof endManyContract> {
  const { tx, project, now } = context
  let ended = 0
  for (const id of body.ids) {
    const link = linkById(tx, project.id, id)
    const requirement = link && requirementById(tx, project.id, link.requirementId)
    const own = link && caseById(tx, link.caseId)
    if (!link || link.untilAt !== null || !requirement || !own) continue
    close(tx, id, now)
    tellBoth(context, requirement, own, 'unlinked')
    ended += 1
  }
  return { ended }
}

/** Which of the case's steps proves which sentence. */
export function updateLink(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx } = context
  const { link, requirement, own } = openLink(context, params.id)
  if (body.step !== null && !ownStepIds(tx, own.id).has(body.step))
    throw new Refusal('invalid', `${keyOf('case', own.number)} has no such step any more; nothing was stored.`)
  saveLink(tx, link.id, { stepId: body.step, quote: body.quote })
  context.change({
    kind: 'case',
    id: own.id,
    ref: keyOf('case', own.number),
    action: 'link changed',
    detail: { [keyOf('requirement', requirement.number)]: [link.quote || 'all of it', body.quote || 'all of it'] },
  })
  return { ok: true }
}

/** Confirming ends the old interval and opens one that knows the requirement's present revision, so that the past stays suspect. */
export function confirmLink(
  context: Context,
  { params }: Input<typeof confirmContract>,
): Answer<typeof confirmContract> {
  const { link, requirement, own } = openLink(context, params.id)
  close(context.tx, link.id, context.now)
  addLink(
    context.tx,
    {
      projectId: context.project.id,
      requirementId: requirement.id,
      caseId: own.id,
      revision: requirement.revision,
      versionId: own.newestVersionId,
      quote: link.quote,
      stepId: link.stepId,
    },
    context.by,
  )
  context.change({
    kind: 'requirement',
    id: requirement.id,
    ref: keyOf('requirement', requirement.number),
    action: 'link confirmed',
    detail: { revision: [link.confirmedRevision, requirement.revision] },
  })
  return { ok: true }
}

function openLink({ tx, project }: Context, id: number) {
  const link = linkById(tx, project.id, id)
  if (!link || link.untilAt !== null)
    throw new Refusal('not-found', 'This link is not there any more; look at the page again.')
  return {
    link,
    requirement: found(requirementById(tx, project.id, link.requirementId), 'The requirement'),
    own: found(caseById(tx, link.caseId), 'The case'),
  }
}
