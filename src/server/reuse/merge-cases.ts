import { keyOf, numberIn } from '#core/lib/key.ts'
import type { mergeCases as contract, unmergeCase as unmergeContract } from '#core/reuse/copy-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addLink, endAddedLinks, openLinks } from '#db/cases/links.ts'
import { caseById, findCase, saveCase, type CaseStored } from '#db/cases/cases.ts'
import { copyDefectLinks, copyExclusions, copyPins } from '#db/cases/merging.ts'
import { setTags, tagsOf } from '#db/projects/fields.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** One case stands for others: it takes over what they are linked to; they are retired, keep their results and versions, and lead to it. */
export function mergeCases(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const keep = caseAt(context, body.keep)
  const drop = [...new Set(body.drop)].map((key) => caseAt(context, key))
  if (drop.some(({ id }) => id === keep.id))
    throw new Refusal('invalid', `${body.keep} cannot be merged into itself; nothing was changed.`)
  const links = drop.reduce((made, own) => made + takeOver(context, keep, own), 0)
  context.change({
    kind: 'case',
    id: keep.id,
    ref: keyOf('case', keep.number),
    action: 'merged',
    detail: { took: [null, drop.map(({ number }) => keyOf('case', number))] },
  })
  return { links, dropped: drop.map(({ number }) => keyOf('case', number)) }
}

function caseAt({ tx, project }: Context, key: string): CaseStored {
  const own = found(findCase(tx, project.id, numberIn('case', key)), key)
  if (own.mergedIntoId !== null)
    throw new Refusal('refused', `${key} was merged into another case before; nothing was changed.`)
  return own
}

function takeOver(context: Context, keep: CaseStored, own: CaseStored): number {
  const { tx, project, by, now } = context
  const made = openLinks(tx, { caseId: own.id }).filter((link) => {
    const requirement = requirementById(tx, project.id, link.requirementId)
    // A suspect link stays suspect: what the other was confirmed against is what is known.
    return (
      requirement !== undefined &&
      addLink(
        tx,
        {
          projectId: project.id,
          requirementId: link.requirementId,
          caseId: keep.id,
          revision: link.confirmedRevision,
          versionId: keep.newestVersionId,
          quote: link.quote,
        },
        by,
      )
    )
  }).length
  copyPins(tx, own.id, keep.id)
  copyExclusions(tx, own.id, keep.id)
  copyDefectLinks(tx, own.id, keep.id, now)
  const tags = new Set([
    ...(tagsOf(tx, 'case', [keep.id]).get(keep.id) ?? []),
    ...(tagsOf(tx, 'case', [own.id]).get(own.id) ?? []),
  ])
  setTags(tx, project.id, 'case', keep.id, [...tags])
  saveCase(tx, own.id, { mergedIntoId: keep.id, retiredAt: now, version: own.version + 1, updatedAt: now })
  context.change({
    kind: 'case',
    id: own.id,
    ref: keyOf('case', own.number),
    action: 'merged',
    detail: { into: [null, keyOf('case', keep.number)] },
  })
  return made
}

/** The case lives again; links that the other got only through the merge are ended. */
export function unmergeCase(
  context: Context,
  { params }: Input<typeof unmergeContract>,
): Answer<typeof unmergeContract> {
  const { tx, project, now } = context
  const own = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  const into = own.mergedIntoId === null ? undefined : caseById(tx, own.mergedIntoId)
  if (!into || own.retiredAt === null)
    throw new Refusal('refused', `${keyOf('case', params.ref)} is not merged into another case.`)
  endAddedLinks(tx, { from: own.id, to: into.id, since: own.retiredAt, now })
  saveCase(tx, own.id, { mergedIntoId: null, retiredAt: null, version: own.version + 1, updatedAt: now })
  context.change({
    kind: 'case',
    id: own.id,
    ref: keyOf('case', own.number),
    action: 'unmerged',
    detail: { into: [keyOf('case', into.number), null] },
  })
  return { ok: true }
}
