import { richText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { FileRead } from '#core/formats/shapes.ts'
import { addCases, type BulkCase } from '#db/cases/add-cases.ts'
import { addLink } from '#db/cases/links.ts'
import { addWaitingVersion, writeContent } from '#db/cases/versions.ts'
import { lastCasePosition } from '#db/cases/cases.ts'
import { addAct, addRelation, dropWaiting, finishAct, setOrigin, swapWorking } from '#db/formats/imports.ts'
import { dropStaged, showStaged } from '#db/formats/staging.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement } from '#db/requirements/requirements.ts'
import { lastPosition } from '#db/requirements/outline.ts'
import { setTargets } from '#db/requirements/targets.ts'
import type { Context } from '#server/http/context.ts'
import { cleanHtml } from '#server/http/clean-html.ts'
import { inSets } from '#server/http/going.ts'
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
import { type Job, caseAt, requirementAt, textOf, common, contentFields } from './import-job.ts'
import { changeCase, changeRequirement } from './change-from-import.ts'

export interface Imported {
  readonly act: number
  readonly refs: readonly string[]
  readonly notices: ImportPlan['notices']
  readonly counts: Counts
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
  const fresh = plan.entries.filter(({ status }) => status === 'new')
  const changed = plan.entries.filter(({ status }) => status === 'changed')
  const start = store((context) => begin(context, plan, options, fresh.length))
  const made = new Map<number, number>()
  const job: Job = { read, plan, options, ...start, made, folders: new Map(), stamps: new Map() }
  try {
    await stageAll(store, job, fresh, changed)
    return store((context) => show(context, job, { fresh, changed }))
  } catch (error) {
    const table = plan.kind === 'case' ? 'test_case' : 'requirement'
    await inSets([...made.values()], (some) => {
      store(({ tx }) => dropStaged(tx, table, some))
      return true
    })
    store(({ tx }) => dropWaiting(tx, start.act))
    throw error
  }
}

/** The act that it is taken back by, and the numbers and places of what is new. */
function begin({ tx, project, now, by }: Context, { kind }: ImportPlan, { source }: ImportOptions, fresh: number) {
  const lastPlace = kind === 'case' ? lastCasePosition : lastPosition
  return {
    act: addAct(tx, { projectId: project.id, at: now, personId: by.personId, source, what: kind }),
    number: fresh > 0 ? takeNumbers(tx, project.id, kind, fresh) : 0,
    position: lastPlace(tx, project.id, null) + 1,
  }
}

/** Out of sight, in slices: new objects, then new contents of those that are there. */
async function stageAll(store: Store, job: Job, fresh: readonly Entry[], changed: readonly Entry[]): Promise<void> {
  const { plan, options } = job
  const total = fresh.length + changed.length
  const slices = (before: number, end: number, size: number) => ({
    ...(options.signal && { signal: options.signal }),
    onProgress: (count: number) => options.onProgress?.(Math.min(end, before + count * size), total),
  })
  const stage = plan.kind === 'case' ? stageCases : stageRequirements
  const chunks = Math.ceil(fresh.length / chunk)
  await inSlices(store, chunks, slices(0, fresh.length, chunk), (context, at) =>
    stage(context, job, fresh.slice(at * chunk, (at + 1) * chunk), at * chunk),
  )
  if (plan.kind !== 'case') return
  await inSlices(store, changed.length, slices(fresh.length, total, 1), (context, at) => {
    const entry = changed[at]
    if (entry) stageContent(context, job, entry)
  })
}

/** So many new objects are staged by one set of statements. */
const chunk = 20

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
