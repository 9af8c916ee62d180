import { keyOf, numberIn } from '#core/lib/key.ts'
import type { CaseSheet, readCase as contract, readVersion as versionContract } from '#core/cases/contract.ts'
import { versionName } from '#core/cases/steps.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { isSuspect, riskOf, sentencesOf } from '#core/requirements/requirement.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { defectsLinkedTo } from '#db/linked-defects.ts'
import { attemptsOfCase, caseById, findCase, suitesOfCase } from '#db/cases/cases.ts'
import { caseRows } from '#db/cases/list.ts'
import { mergedInto, movedTo } from '#db/cases/merging.ts'
import { openLinks } from '#db/cases/links.ts'
import { readContent, versionById, versionsOf, workingCopy, writersOf } from '#db/cases/versions.ts'
import { componentsOf } from '#db/projects/detail.ts'
import { type ProjectRow } from '#db/projects/projects.ts'
import { customFields } from '#db/projects/fields.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { reviewsOf, suggestionsOf } from '#db/review/reviews.ts'
import { usersOfCase } from '#db/reuse/routines.ts'
import { stepComments } from '#db/talk/queries.ts'
import { contentAnswer } from './content.ts'
import { usedVersions } from './used-versions.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { slotsJob } from '#server/workers/questions.ts'

export const readCase = (
  { services, project, person }: OpenContext,
  { params, query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> =>
  caseSheetOf(services, { project, personId: person.id }, { number: params.ref, query })

/** All data of a case's sheet. */
export async function caseSheetOf(
  services: Services,
  { project, personId }: { project: ProjectRow; personId: string },
  { number, query }: { number: number; query: ScopeQuery },
): Promise<CaseSheet> {
  const tx = services.db
  refuseMoved(tx, project.id, keyOf('case', number))
  const stored = found(findCase(tx, project.id, number), keyOf('case', number))
  const [row] = caseRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`case ${stored.id} has no row`)
  const scope = scopeOf(tx, project, query)
  const slots = await services.jobs.run(slotsJob, {
    projectId: project.id,
    scope,
    cases: [stored.id],
    suspect: [],
  })
  return {
    ...row,
    objective: stored.objective,
    ownerId: stored.ownerId,
    folderId: stored.folderId,
    fromReleaseId: stored.fromReleaseId,
    fromIterationId: stored.fromIterationId,
    notYet: notYetTestable(tx, project.id, scope, [stored.id])[0]?.from ?? null,
    createdAt: stored.createdAt,
    updatedAt: stored.updatedAt,
    ...writtenOf(tx, project.id, stored.id),
    links: linksOf(tx, project.id, stored.id),
    slots: slots[stored.id] ?? [],
    attempts: attemptsOfCase(tx, stored.id, 200).map(({ major, minor, struck, ...attempt }) => ({
      ...attempt,
      struck: struck === 1,
      version: versionName(major, minor),
    })),
    defects: defectsLinkedTo(tx, 'case', stored.id),
    suites: suitesOfCase(tx, stored.id),
    components: componentsOf(tx, project.id),
    fields: customFields(tx, project.id, 'case'),
    usedBy: usersOfCase(tx, stored.id),
    mergedInto: stored.mergedIntoId === null ? null : keyOf('case', caseById(tx, stored.mergedIntoId)?.number ?? ''),
    merged: mergedInto(tx, stored.id),
    reviews: reviewsOf(tx, stored.id),
    wroteIt: writersOf(tx, stored.id).includes(personId),
    suggestions: suggestionsOf(tx, stored.id)
      .filter(({ note, state, personId: by }) => note !== '' || state !== 'Open' || by === personId)
      .map(({ personId: by, ...each }) => ({ ...each, mine: by === personId })),
    stepComments: stepComments(tx, stored.id),
  }
}

type Tx = Context['tx']

/** The old key of a case that went to another project leads there. */
function refuseMoved(tx: Tx, projectId: number, key: string): void {
  const moved = movedTo(tx, projectId, key)
  if (moved)
    throw new Refusal('moved', `${key} was moved to the project ${moved.project}; there it is ${moved.key}.`, {
      current: { address: `/p/${moved.project}/${moved.key}` },
    })
}

/** What the working copy says, the versions it has become, and what it needs of others. */
function writtenOf(tx: Tx, projectId: number, caseId: number) {
  const working = workingCopy(tx, caseId)
  const versions = versionsOf(tx, caseId)
  const content = readContent(tx, working)
  return {
    content: contentAnswer(content),
    contentStamp: working.fingerprint,
    unsaved: versions[0]?.fingerprint !== working.fingerprint,
    versions: versions.map(({ id, major, minor, state, createdAt, by, why, fingerprint }) => ({
      id,
      name: versionName(major ?? 0, minor ?? 0),
      state,
      at: createdAt,
      by,
      why,
      fingerprint,
    })),
    used: usedVersions(tx, projectId, content.steps),
    needs: (content.needs ?? []).map((key) => ({
      key,
      title: findCase(tx, projectId, numberIn('case', key))?.title ?? '',
    })),
  }
}

const linksOf = (tx: Tx, projectId: number, caseId: number): CaseSheet['links'] =>
  openLinks(tx, { caseId }).flatMap((link) => {
    const requirement = requirementById(tx, projectId, link.requirementId)
    if (!requirement || requirement.deletedAt !== null) return []
    return [
      {
        link: link.id,
        id: requirement.id,
        key: keyOf('requirement', requirement.number),
        title: requirement.title,
        risk: riskOf(requirement.likelihood, requirement.impact),
        suspect: isSuspect(link.confirmedRevision, requirement.revision),
        step: link.stepId,
        quote: link.quote,
        sentences: sentencesOf(requirement.text),
      },
    ]
  })

export function readVersion(
  { tx, project }: Context,
  { params }: Input<typeof versionContract>,
): Answer<typeof versionContract> {
  const version = versionById(tx, params.id)
  const owner = version && caseById(tx, version.caseId)
  if (!version || owner?.projectId !== project.id)
    throw new Refusal('not-found', 'There is no such version in this project.')
  const content = readContent(tx, version)
  return {
    id: version.id,
    name: versionName(version.major ?? 0, version.minor ?? 0),
    state: version.state,
    content: contentAnswer(content),
  }
}
