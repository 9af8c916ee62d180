import { keyOf } from '#core/lib/key.ts'
import { definedOf } from '#core/lib/defined.ts'
import { richText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { CaseRead, FileRead, RequirementRead } from '#core/formats/shapes.ts'
import { addCases, type BulkCase } from '#db/cases/add-cases.ts'
import { addLink } from '#db/cases/links.ts'
import { addWaitingVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import { caseById, lastCasePosition, saveCase } from '#db/cases/cases.ts'
import {
  addAct,
  addRelation,
  dropWaiting,
  finishAct,
  type OwnerKind,
  setOrigin,
  swapWorking,
} from '#db/formats/imports.ts'
import { dropStaged, showStaged } from '#db/formats/staging.ts'
import { setTags, setValues, valuesOf } from '#db/projects/fields.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { lastPosition } from '#db/requirements/outline.ts'
import { setTargets, targetsOf } from '#db/requirements/targets.ts'
import type { Context } from '#server/http/context.ts'
import { cleanHtml } from '#server/talk/clean-html.ts'
import {
  contentOf,
  type Counts,
  countsOf,
  type Entry,
  folderOf,
  type ImportOptions,
  type ImportPlan,
  inSlices,
  planImport,
  refusal,
  type Store,
} from './import-read.ts'

export interface Imported {
  readonly act: number
  readonly refs: readonly string[]
  readonly notices: ImportPlan['notices']
  readonly counts: Counts
}

/** What an object said before the import, enough to take it back. */
export interface Before {
  readonly id: number
  /** Its edit version after the import: one that moved on since is left alone when the import is undone. */
  readonly version: number
  readonly set: Readonly<Record<string, unknown>>
  readonly tags?: readonly string[]
  readonly values?: Readonly<Record<string, readonly string[]>>
  readonly targets?: readonly { readonly release: number; readonly iteration: number | null }[]
  /** Fingerprint of the content the import gave it. */
  readonly content?: string
}

/**
 * Stores what was read: new objects and new contents are staged out of sight in slices, then shown by one short
 * transaction. What goes wrong, or is cancelled, leaves nothing behind. `planned` is the plan, where the caller has made it.
 */
export async function storeImport(
  store: Store,
  read: FileRead,
  options: ImportOptions,
  planned?: ImportPlan,
): Promise<Imported> {
  const plan = planned ?? (await planImport(store, read, options))
  if (plan.problems.length > 0) throw refusal(plan.problems)
  if (plan.entries.length === 0) throw new Refusal('invalid', 'There is nothing in the file to import.')
  const table = plan.kind === 'case' ? 'test_case' : 'requirement'
  const fresh = plan.entries.filter(({ status }) => status === 'new')
  const changed = plan.entries.filter(({ status }) => status === 'changed')
  const start = store((context) => ({
    act: addAct(context.tx, {
      projectId: context.project.id,
      at: context.now,
      personId: context.by.personId,
      source: options.source,
      what: plan.kind,
    }),
    number: fresh.length > 0 ? takeNumbers(context.tx, context.project.id, plan.kind, fresh.length) : 0,
    position:
      (plan.kind === 'case'
        ? lastCasePosition(context.tx, context.project.id, null)
        : lastPosition(context.tx, context.project.id, null)) + 1,
  }))
  const made = new Map<number, number>()
  const job: Job = { read, plan, options, ...start, made, folders: new Map(), stamps: new Map() }
  const stage = plan.kind === 'case' ? stageCases : stageRequirements
  const total = fresh.length + changed.length
  const done = (count: number) => options.onProgress?.(count, total)
  try {
    const chunks = Math.ceil(fresh.length / chunk)
    await inSlices(
      store,
      chunks,
      {
        ...(options.signal && { signal: options.signal }),
        onProgress: (count) => done(Math.min(fresh.length, count * chunk)),
      },
      (context, at) => stage(context, job, fresh.slice(at * chunk, (at + 1) * chunk), at * chunk),
    )
    if (plan.kind === 'case')
      await inSlices(
        store,
        changed.length,
        { ...(options.signal && { signal: options.signal }), onProgress: (count) => done(fresh.length + count) },
        (context, at) => {
          const entry = changed[at]
          if (entry) stageContent(context, job, entry)
        },
      )
    return store((context) => show(context, job, { fresh, changed }))
  } catch (error) {
    store(({ tx }) => {
      dropStaged(tx, table, [...made.values()])
      dropWaiting(tx, start.act)
    })
    throw error
  }
}

interface Job {
  readonly read: FileRead
  readonly plan: ImportPlan
  readonly options: ImportOptions
  readonly act: number
  readonly number: number
  readonly position: number
  /** Index in the file → id of what was made. */
  readonly made: Map<number, number>
  readonly folders: Map<string, number | null>
  /** Fingerprints of contents that wait to be shown, by case. */
  readonly stamps: Map<number, string>
}

const caseAt = ({ read }: Job, { index }: Entry): CaseRead => {
  const of = read.cases[index]
  if (!of) throw new Error(`case ${index} is not there`)
  return of
}
const requirementAt = ({ read }: Job, { index }: Entry): RequirementRead => {
  const of = read.requirements[index]
  if (!of) throw new Error(`requirement ${index} is not there`)
  return of
}

/** So many new objects are staged by one set of statements. */
const chunk = 50

function stageCases(context: Context, job: Job, entries: readonly Entry[], from: number): void {
  const rows = entries.map((entry, at): BulkCase => {
    const of = caseAt(job, entry)
    const { content, stamp } = contentOf(of, null, job.read.fields)
    return {
      number: job.number + from + at,
      position: job.position + from + at,
      title: of.title,
      objective: cleanHtml(richText(of.objective)),
      folderId: folderOf(context, of.folder, job.folders),
      importance: of.importance,
      component: of.component.slice(0, 80),
      estimate: of.estimate,
      ownerId: entry.ownerId,
      automation: of.automation,
      type: of.type.slice(0, 60) || 'Functional',
      deletedAt: 1,
      content,
      fingerprint: stamp,
    }
  })
  addCases(context.tx, context.project.id, rows, context.by).forEach((id, at) => {
    const entry = entries[at]
    if (!entry) return
    job.made.set(entry.index, id)
    for (const requirement of entry.links)
      addLink(
        context.tx,
        {
          projectId: context.project.id,
          requirementId: requirement.id,
          caseId: id,
          revision: requirement.revision,
          versionId: null,
        },
        context.by,
      )
    common(context, 'case', id, caseAt(job, entry), entry)
  })
}

const stageRequirements = (context: Context, job: Job, entries: readonly Entry[], from: number): void =>
  entries.forEach((entry, at) => job.made.set(entry.index, stageRequirement(context, job, entry, from + at)))

function stageRequirement(context: Context, job: Job, entry: Entry, at: number): number {
  const of = requirementAt(job, entry)
  const id = addRequirement(
    context.tx,
    {
      projectId: context.project.id,
      number: job.number + at,
      parentId: null,
      position: job.position + at,
      title: of.title,
      text: textOf(job, of),
      kind: of.kind,
      component: of.component.slice(0, 80),
      state: of.state,
      likelihood: of.likelihood,
      impact: of.impact,
      priority: of.priority,
      ownerId: entry.ownerId,
      outsideRef: of.reference.slice(0, 80),
      deletedAt: 1,
    },
    context.by,
  )
  if (entry.release !== null) setTargets(context.tx, id, [{ release: entry.release, iteration: entry.iteration }])
  common(context, 'requirement', id, of, entry)
  return id
}

const textOf = ({ read }: Job, of: RequirementRead): string => cleanHtml(read.rich ? of.text : richText(of.text))

/** Tags and own fields of something new. */
function common(context: Context, kind: OwnerKind, id: number, of: CaseRead | RequirementRead, entry: Entry): void {
  if (of.tags.length > 0) setTags(context.tx, context.project.id, kind, id, of.tags)
  for (const { field, values } of entry.custom) if (values.length > 0) setValues(context.tx, field, id, values)
}

const contentFields = ['steps', 'preconditions', 'rows']

/** The new content of a case that is there already waits in a version of its own. */
function stageContent(context: Context, job: Job, entry: Entry): void {
  if (entry.id === null || !entry.changes.some((field) => contentFields.includes(field))) return
  const { content, stamp } = contentOf(caseAt(job, entry), entry.stored, job.read.fields)
  job.stamps.set(entry.id, stamp)
  writeContent(
    context.tx,
    { id: addWaitingVersion(context.tx, entry.id, job.act, context.by), caseId: entry.id },
    content,
    stamp,
  )
}

function show(context: Context, job: Job, of: { fresh: readonly Entry[]; changed: readonly Entry[] }): Imported {
  const { tx, project } = context
  const { kind } = job.plan
  const ids = of.fresh.map(({ index }) => job.made.get(index) ?? 0)
  const parentId = ({ parent }: Entry): number | null =>
    parent === null
      ? null
      : 'id' in parent
        ? parent.id
        : (job.made.get(parent.index) ?? job.plan.entries[parent.index]?.id ?? null)
  showStaged(
    tx,
    kind === 'case' ? 'test_case' : 'requirement',
    ids,
    kind === 'case' ? [] : of.fresh.map((entry) => ({ id: job.made.get(entry.index) ?? 0, parent: parentId(entry) })),
  )
  const before = of.changed.map((entry) =>
    kind === 'case' ? changeCase(context, job, entry) : changeRequirement(context, job, entry, parentId(entry)),
  )
  if (kind === 'case')
    swapWorking(
      tx,
      job.act,
      before.filter(({ content }) => content !== undefined).map(({ id }) => id),
    )
  for (const entry of job.plan.entries) {
    const own = job.made.get(entry.index) ?? entry.id
    const outsideId = (kind === 'case' ? caseAt(job, entry) : requirementAt(job, entry)).id
    if (own !== null && outsideId !== '' && !/^(TC|RQ)-\d+$/i.test(outsideId))
      setOrigin(tx, { projectId: project.id, ownerKind: kind, source: job.options.source, outsideId, ownerId: own })
  }
  relate(context, job)
  const prefix = kind === 'case' ? 'TC' : 'RQ'
  const refs = of.fresh.map((_, index) => `${prefix}-${job.number + index}`)
  // One entry for all that is new keeps the transaction short; the rows carry when they were made.
  if (refs.length > 0)
    context.change({
      kind: kind === 'case' ? 'case' : 'requirement',
      id: ids[0] ?? 0,
      ref: refs[0] ?? '',
      action: 'imported',
      detail: { imported: [null, `${refs[0] ?? ''} to ${refs.at(-1) ?? ''}`] },
    })
  finishAct(tx, job.act, { made: ids, changed: before })
  return {
    act: job.act,
    notices: job.plan.notices,
    refs: [...refs, ...of.changed.flatMap(({ key }) => key ?? [])],
    counts: countsOf(job.plan),
  }
}

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

function changeCase(context: Context, job: Job, entry: Entry): Before {
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

function changeRequirement(context: Context, job: Job, entry: Entry, parentId: number | null): Before {
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

/** Ties between requirements of the file, once all of them have an id. */
function relate(context: Context, job: Job): void {
  if (job.read.relations.length === 0) return
  const ids = new Map(
    job.plan.entries.map((entry) => [requirementAt(job, entry).id, job.made.get(entry.index) ?? entry.id]),
  )
  for (const { from, to, kind } of job.read.relations) {
    const [fromId, toId] = [ids.get(from), ids.get(to)]
    if (fromId != null && toId != null && fromId !== toId)
      addRelation(context.tx, {
        projectId: context.project.id,
        fromId,
        toId,
        kind: kind.slice(0, 60),
        now: context.now,
      })
  }
}
