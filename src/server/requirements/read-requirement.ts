import { keyOf, byKey } from '#core/lib/key.ts'
import type { readRequirement as contract, RequirementSheet } from '#core/requirements/contract.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { isSuspect } from '#core/requirements/requirement.ts'
import { caseRows } from '#db/cases/list.ts'
import { openLinks } from '#db/cases/links.ts'
import { relationsOf } from '#db/formats/imports.ts'
import { customFields } from '#db/projects/fields.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { childrenOf, depthsOf, pathOf } from '#db/requirements/outline.ts'
import { defectsLinkedTo } from '#db/linked-defects.ts'
import { findRequirement, mergedRequirement } from '#db/requirements/requirements.ts'
import { requirementRows } from '#db/requirements/list.ts'
import { targetsOf } from '#db/requirements/targets.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { slotsJob } from '#server/workers/questions.ts'

export const readRequirement = (
  { services, project }: OpenContext,
  { params, query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> => requirementSheetOf(services, project, params.ref, query)

/** All data of a requirement's sheet. */
export async function requirementSheetOf(
  services: Services,
  project: ProjectRow,
  number: number,
  query: ScopeQuery,
): Promise<RequirementSheet> {
  const tx = services.db
  refuseMerged(tx, project, keyOf('requirement', number))
  const stored = found(findRequirement(tx, project.id, number), keyOf('requirement', number))
  const [row] = requirementRows(tx, project.id, [stored.id], depthsOf(tx, project.id))
  if (!row) throw new Error(`requirement ${stored.id} has no row`)
  const links = openLinks(tx, { requirementId: stored.id })
  const cases = new Map(
    caseRows(
      tx,
      project.id,
      links.map(({ caseId }) => caseId),
    ).map((each) => [each.id, each]),
  )
  const suspect = links
    .filter(({ confirmedRevision }) => isSuspect(confirmedRevision, stored.revision))
    .map(({ caseId }) => caseId)
  const slots = await services.jobs.run(slotsJob, {
    projectId: project.id,
    scope: scopeOf(tx, project, query),
    cases: [...cases.keys()],
    suspect,
  })
  return {
    ...row,
    text: stored.text,
    ownerId: stored.ownerId,
    outsideUrl: stored.outsideUrl,
    createdAt: stored.createdAt,
    updatedAt: stored.updatedAt,
    targets: targetsOf(tx, stored.id),
    path: pathOf(tx, stored.id),
    children: childrenOf(tx, project.id, stored.id),
    defects: defectsLinkedTo(tx, 'requirement', stored.id),
    relations: relationsOf(tx, stored.id).map((each) => ({ ...each, towards: each.towards === 1 })),
    fields: customFields(tx, project.id, 'requirement'),
    linked: links
      .flatMap((link) => {
        const own = cases.get(link.caseId)
        return own ? [linkedCase(own, link, { revision: stored.revision, slots: slots[own.id] ?? [] })] : []
      })
      .sort(byKey),
  }
}

/** The key of a requirement that is part of another leads there. */
function refuseMerged(tx: Services['db'], project: ProjectRow, key: string): void {
  const merged = mergedRequirement(tx, project.id, key)
  if (merged)
    throw new Refusal('moved', `${key} was merged into ${merged}.`, {
      current: { address: `/p/${project.key}/${merged}` },
    })
}

type Linked = RequirementSheet['linked'][number]

const linkedCase = (
  { id, key, title, importance, state, steps, retired }: ReturnType<typeof caseRows>[number],
  link: ReturnType<typeof openLinks>[number],
  of: { readonly revision: number; readonly slots: Linked['slots'] },
): Linked => ({
  link: link.id,
  id,
  key,
  title,
  importance,
  state,
  steps,
  retired,
  suspect: isSuspect(link.confirmedRevision, of.revision),
  confirmedRevision: link.confirmedRevision,
  slots: of.slots,
})
