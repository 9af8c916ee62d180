import { keyOf } from '#core/lib/key.ts'
import { definedOf } from '#core/lib/defined.ts'
import { richText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { CaseRead, RequirementRead } from '#core/formats/shapes.ts'
import { addLink } from '#db/cases/links.ts'
import { workingCopy } from '#db/cases/versions.ts'
import { caseById, saveCase } from '#db/cases/cases.ts'
import type { OwnerKind } from '#db/formats/imports.ts'
import { setTags, setValues, valuesOf } from '#db/projects/fields.ts'
import { requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { setTargets, targetsOf } from '#db/requirements/targets.ts'
import type { Context } from '#server/http/context.ts'
import { type Entry, folderOf } from './import-read.ts'
import { type Before, type Job, caseAt, requirementAt, textOf } from './import-job.ts'

/** What the columns of an edit said before it. */
function columnsBefore(stored: object, edit: object): Record<string, unknown> {
  const values: Record<string, unknown> = { ...stored }
  return Object.fromEntries(Object.keys(edit).map((column) => [column, values[column] ?? null]))
}

/** Refuses over what somebody changed since the plan: fields by their version, steps by the fingerprint of what was typed. */
function moved(entry: Entry, now: { version: number; stamp?: string }): void {
  if (
    entry.stored &&
    (entry.stored.version !== now.version || (now.stamp !== undefined && entry.stored.stamp !== now.stamp))
  )
    throw new Refusal(
      'conflict',
      `Somebody changed ${entry.key ?? 'an object'} while the file was being imported; nothing was imported. Import it again.`,
    )
}

export function changeCase(context: Context, job: Job, entry: Entry): Before {
  const { tx } = context
  const of = caseAt(job, entry)
  const stored = entry.id === null ? undefined : caseById(tx, entry.id)
  if (!stored)
    throw new Refusal(
      'deleted',
      `${entry.key ?? 'A case'} was deleted while the file was being imported; nothing was imported.`,
    )
  const content = job.stamps.get(stored.id)
  moved(entry, {
    version: stored.version,
    ...(content !== undefined && { stamp: workingCopy(tx, stored.id).fingerprint }),
  })
  const changes = (field: string) => entry.changes.includes(field)
  const edit = definedOf({
    title: changes('title') ? of.title : undefined,
    objective: changes('objective') ? richText(of.objective) : undefined,
    importance: changes('importance') ? of.importance : undefined,
    type: changes('type') ? of.type || 'Functional' : undefined,
    component: changes('component') ? of.component : undefined,
    folderId: changes('folder') ? folderOf(context, of.folder, job.folders) : undefined,
    estimate: changes('estimate') ? of.estimate : undefined,
    ownerId: changes('owner') ? entry.ownerId : undefined,
    automation: changes('automation') ? of.automation : undefined,
  })
  const version = stored.version + 1
  const set = columnsBefore(stored, edit)
  saveCase(tx, stored.id, { ...edit, version, updatedAt: context.now })
  for (const requirement of entry.links)
    addLink(
      tx,
      {
        projectId: context.project.id,
        requirementId: requirement.id,
        caseId: stored.id,
        revision: requirement.revision,
        versionId: null,
      },
      context.by,
    )
  const rest = changeCommon(context, 'case', of, entry, stored.id)
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: 'changed',
    detail: { 'by an import': [null, entry.changes.join(', ')] },
  })
  return { id: stored.id, version, set, ...rest, ...(content !== undefined && { content }) }
}

export function changeRequirement(context: Context, job: Job, entry: Entry, parentId: number | null): Before {
  const { tx, project } = context
  const of = requirementAt(job, entry)
  const stored = entry.id === null ? undefined : requirementById(tx, project.id, entry.id)
  if (!stored || stored.deletedAt !== null)
    throw new Refusal(
      'deleted',
      `${entry.key ?? 'A requirement'} was deleted while the file was being imported; nothing was imported.`,
    )
  moved(entry, { version: stored.version })
  const changes = (...fields: readonly string[]) => fields.some((field) => entry.changes.includes(field))
  const edit = definedOf({
    title: changes('title') ? of.title : undefined,
    text: changes('text') ? textOf(job, of) : undefined,
    kind: changes('kind') ? of.kind : undefined,
    component: changes('component') ? of.component : undefined,
    state: changes('state') ? of.state : undefined,
    parentId: changes('parent') ? parentId : undefined,
    likelihood: changes('risk', 'likelihood') ? of.likelihood : undefined,
    impact: changes('risk', 'impact') ? of.impact : undefined,
    priority: changes('priority') ? of.priority : undefined,
    ownerId: changes('owner') ? entry.ownerId : undefined,
    outsideRef: changes('reference') ? of.reference : undefined,
  })
  const set = columnsBefore(stored, edit)
  const after = saveRequirement(tx, stored, edit, context.by)
  const rest = changeCommon(context, 'requirement', of, entry, stored.id)
  const targets = targetsOf(tx, stored.id).map(({ release, iteration }) => ({ release, iteration }))
  const retargeted = changes('release', 'iteration')
  if (retargeted)
    setTargets(tx, stored.id, entry.release === null ? [] : [{ release: entry.release, iteration: entry.iteration }])
  context.change({
    kind: 'requirement',
    id: stored.id,
    ref: keyOf('requirement', stored.number),
    action: 'changed',
    detail: { 'by an import': [null, entry.changes.join(', ')] },
  })
  return { id: stored.id, version: after.version, set, ...rest, ...(retargeted && { targets }) }
}

function changeCommon(
  context: Context,
  kind: OwnerKind,
  of: CaseRead | RequirementRead,
  entry: Entry,
  id: number,
): Pick<Before, 'tags' | 'values'> {
  const fields = entry.custom.filter(({ field }) => entry.changes.includes(`custom:${field.name}`))
  const old = valuesOf(context.tx, kind, context.project.id, [id]).get(id) ?? {}
  for (const { field, values } of fields) setValues(context.tx, field, id, values)
  const tags = entry.changes.includes('tags') ? (entry.stored?.tags ?? []) : null
  if (tags) setTags(context.tx, context.project.id, kind, id, of.tags)
  return {
    ...(tags && { tags }),
    ...(fields.length > 0 && {
      values: Object.fromEntries(fields.map(({ field }) => [String(field.id), old[String(field.id)] ?? []])),
    }),
  }
}
