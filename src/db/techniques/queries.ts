import { valuesIn } from '#db/json.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { isLiveCase } from '#db/rules.ts'
import { keyOf } from '#core/lib/key.ts'
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { DecidedRow } from '#core/techniques/contract.ts'
import { senseOf } from '#core/techniques/sense.ts'
import { type DraftModel, draftModel as modelShape, type DraftRow } from '#core/techniques/draft-row.ts'
import type { Tx } from '#db/open.ts'
import { checklistItem, draftModel, draftModelRevision, draftRow } from './tables.ts'

export type ModelStored = Omit<typeof draftModel.$inferSelect, 'body' | 'source'> & {
  readonly model: DraftModel
  readonly source: Readonly<Record<string, string[]>>
}
const sourceShape = z.record(z.string(), z.array(z.string()))

const modelOf = ({ body, source, ...rest }: typeof draftModel.$inferSelect): ModelStored => ({
  ...rest,
  model: modelShape.parse(JSON.parse(body)),
  source: sourceShape.parse(JSON.parse(source)),
})
const live = isNull(draftModel.deletedAt)

export const modelsOf = (tx: Tx, requirementId: number): ModelStored[] =>
  tx
    .select()
    .from(draftModel)
    .where(and(eq(draftModel.requirementId, requirementId), live))
    .orderBy(asc(draftModel.id))
    .all()
    .map(modelOf)
export const modelById = (tx: Tx, projectId: number, id: number, deleted = false): ModelStored | undefined => {
  const row = tx
    .select()
    .from(draftModel)
    .where(and(eq(draftModel.id, id), eq(draftModel.projectId, projectId), deleted ? undefined : live))
    .get()
  return row && modelOf(row)
}

export interface ModelEdit {
  readonly name?: string
  readonly model?: DraftModel
  readonly source?: Readonly<Record<string, readonly string[]>>
  readonly pattern?: string
  readonly revision?: number
  readonly requirementRevision?: number
  readonly version?: number
  readonly updatedAt?: number
  readonly updatedBy?: string | null
  readonly deletedAt?: number | null
}
const columnsOf = ({ model, source, ...rest }: ModelEdit) => ({
  ...rest,
  ...(model && { body: JSON.stringify(model) }),
  ...(source && { source: JSON.stringify(source) }),
})

export function addModel(
  tx: Tx,
  of: {
    projectId: number
    requirementId: number
    requirementRevision: number
    name: string
    model: DraftModel
    source: Readonly<Record<string, readonly string[]>>
    pattern: string
  },
  by: { now: number; personId: string | null },
): number {
  const { model, source, ...rest } = of
  const { id } = tx
    .insert(draftModel)
    .values({
      ...rest,
      technique: model.technique,
      body: JSON.stringify(model),
      source: JSON.stringify(source),
      updatedAt: by.now,
      updatedBy: by.personId,
    })
    .returning({ id: draftModel.id })
    .get()
  addModelRevision(tx, { modelId: id, revision: 1, model }, by)
  return id
}
export const saveModel = (tx: Tx, id: number, edit: ModelEdit): void =>
  void tx.update(draftModel).set(columnsOf(edit)).where(eq(draftModel.id, id)).run()
export const addModelRevision = (
  tx: Tx,
  { modelId, revision, model }: { modelId: number; revision: number; model: DraftModel },
  by: { now: number; personId: string | null },
): void =>
  void tx
    .insert(draftModelRevision)
    .values({ modelId, revision, body: JSON.stringify(model), at: by.now, personId: by.personId })
    .run()
/** The newest revision told again: who goes on typing within minutes makes no revision of every letter. */
export const rewriteRevision = (
  tx: Tx,
  { modelId, revision, model }: { modelId: number; revision: number; model: DraftModel },
  now: number,
): void =>
  void tx
    .update(draftModelRevision)
    .set({ body: JSON.stringify(model), at: now })
    .where(and(eq(draftModelRevision.modelId, modelId), eq(draftModelRevision.revision, revision)))
    .run()

export function modelRevisions(
  tx: Tx,
  modelId: number,
  { cursor, limit }: { cursor: number; limit: number },
): { rows: { revision: number; model: DraftModel; at: number; by: string | null }[]; total: number } {
  const rows = rowsOf(
    tx,
    { revision: int, body: text, at: int, by: maybe(text) },
    sql`
      select r.revision, r.body, r.at, p.name as "by"
      from draft_model_revision r
      left join person p on p.id = r.person_id
      where r.model_id = ${modelId}
      order by r.revision desc
      limit ${limit} offset ${cursor}`,
  )
  const total =
    rowOf(tx, { n: int }, sql`select count(*) as n from draft_model_revision where model_id = ${modelId}`)?.n ?? 0
  return { rows: rows.map(({ body, ...rest }) => ({ ...rest, model: modelShape.parse(JSON.parse(body)) })), total }
}
/** The model as it was at some of its revisions. */
const modelsAt = (tx: Tx, modelId: number, revisions: readonly number[]): Map<number, DraftModel> =>
  revisions.length === 0
    ? new Map<number, DraftModel>()
    : new Map<number, DraftModel>(
        rowsOf(
          tx,
          { revision: int, body: text },
          sql`
            select revision, body
            from draft_model_revision
            where model_id = ${modelId} and ${inArray(sql`revision`, [...revisions])}`,
        ).map(({ revision, body }): [number, DraftModel] => [revision, modelShape.parse(JSON.parse(body))]),
      )
export const newestRevision = (tx: Tx, modelId: number): { at: number; personId: string | null } | undefined =>
  tx
    .select({ at: draftModelRevision.at, personId: draftModelRevision.personId })
    .from(draftModelRevision)
    .where(eq(draftModelRevision.modelId, modelId))
    .orderBy(desc(draftModelRevision.revision))
    .limit(1)
    .get()

export interface RowStored extends Omit<DecidedRow, 'said'> {
  readonly modelId: number
  readonly caseId: number | null
}

/** What stands about the rows of models: a case is live while it is neither deleted nor retired. */
export const decidedRows = (tx: Tx, models: readonly number[]): RowStored[] =>
  models.length === 0
    ? []
    : rowsOf(
        tx,
        {
          id: int,
          modelId: int,
          row: text,
          decision: oneOf(['kept', 'accepted', 'left out']),
          caseId: maybe(int),
          number: maybe(int),
          title: maybe(text),
          live: int,
          revision: int,
          at: int,
        },
        sql`
          select d.id, d.model_id as modelId, d.row, d.decision, d.case_id as caseId, c.number, c.title,
            (${isLiveCase('c')}) as live, d.revision, d.at
          from draft_row d
          left join test_case c on c.id = d.case_id
          where ${inArray(sql`d.model_id`, [...models])} and d.ended_at is null
          order by d.id`,
      ).map(({ row, number, title, live: alive, ...rest }) => ({
        ...rest,
        row: valuesIn(row),
        case: number === null ? null : { key: keyOf('case', number), title: title ?? '', live: alive === 1 },
      }))

export const addRow = (
  tx: Tx,
  of: {
    projectId: number
    modelId: number
    row: DraftRow
    decision: RowStored['decision']
    caseId: number | null
    revision: number
  },
  by: { now: number; personId: string | null },
): number =>
  tx
    .insert(draftRow)
    .values({ ...of, row: JSON.stringify(of.row), at: by.now, personId: by.personId })
    .returning({ id: draftRow.id })
    .get().id
export const changeRows = (
  tx: Tx,
  modelId: number,
  ids: readonly number[],
  edit: { decision?: RowStored['decision']; endedAt?: number | null },
): number =>
  ids.length === 0
    ? 0
    : tx
        .update(draftRow)
        .set(edit)
        .where(and(eq(draftRow.modelId, modelId), inArray(draftRow.id, [...ids])))
        .run().changes
/** Those of the ids that are rows of the model. */
export const rowsAmong = (tx: Tx, modelId: number, ids: readonly number[]): number[] =>
  tx
    .select({ id: draftRow.id })
    .from(draftRow)
    .where(and(eq(draftRow.modelId, modelId), inArray(draftRow.id, [...ids])))
    .all()
    .map(({ id }) => id)
export const casesOfRows = (tx: Tx, modelId: number, ids: readonly number[]): number[] =>
  ids.length === 0
    ? []
    : rowsOf(
        tx,
        { id: int },
        sql`
          select distinct case_id as id
          from draft_row
          where model_id = ${modelId} and case_id is not null and ${inArray(sql`id`, [...ids])}`,
      ).map(({ id }) => id)

/** Cases that were retired in the very act that ended these rows. */
export const retiredWith = (tx: Tx, modelId: number, ids: readonly number[]): number[] =>
  ids.length === 0
    ? []
    : rowsOf(
        tx,
        { id: int },
        sql`
          select distinct c.id
          from draft_row d
          join test_case c on c.id = d.case_id
          where d.model_id = ${modelId} and c.retired_at = d.ended_at and ${inArray(sql`d.id`, [...ids])}`,
      ).map(({ id }) => id)

const acceptedShape = z.array(
  z.object({ row: z.string(), case: z.number(), decision: z.string(), revision: z.number() }),
)

/** What the case of each row said when it was accepted; nothing of those that stay by decision, or that can say no opposite. */
export function saidBy(
  tx: Tx,
  { id, revision, model }: { readonly id: number; readonly revision: number; readonly model: DraftModel },
  rows: readonly { readonly row: DraftRow; readonly decision: string; readonly revision: number }[],
): (string | null)[] {
  const older = rows.flatMap((each) =>
    each.decision === 'accepted' && each.revision !== revision ? [each.revision] : [],
  )
  const before = modelsAt(tx, id, [...new Set(older)])
  return rows.map(({ row, decision, revision: at }) => {
    const then = at === revision ? model : before.get(at)
    return decision === 'accepted' && then ? senseOf(then, row) : null
  })
}

export interface DesignOf {
  readonly id: number
  readonly number: number
  readonly models: readonly {
    readonly id: number
    readonly name: string
    readonly version: number
    readonly model: DraftModel
    readonly rows: readonly DraftRow[]
    /** The case each row was accepted as. */
    readonly cases: readonly number[]
    /** What the case of each row said when it was accepted. */
    readonly said: readonly (string | null)[]
  }[]
  readonly checklist: { readonly all: number; readonly done: number }
}

/** Requirements with models or a checklist, and the rows that live cases were made of. */
export function designs(tx: Tx, projectId: number, number: number | null): DesignOf[] {
  const of = number === null ? sql`` : sql` and r.number = ${number}`
  const models = rowsOf(
    tx,
    { requirement: int, number: int, id: int, name: text, version: int, revision: int, body: text, rows: text },
    sql`
      select r.id as requirement, r.number, m.id, m.name, m.version, m.revision, m.body,
        (
          select json_group_array(
            json_object('row', d.row, 'case', d.case_id, 'decision', d.decision, 'revision', d.revision)
          )
          from draft_row d
          join test_case c on c.id = d.case_id
          where d.model_id = m.id and d.ended_at is null and d.decision <> 'left out' and ${isLiveCase('c')}
        ) as "rows"
      from draft_model m
      join requirement r on r.id = m.requirement_id
      where m.project_id = ${projectId} and m.deleted_at is null and r.deleted_at is null${of}
      order by r.number, m.id`,
  )
  const lists = rowsOf(
    tx,
    { requirement: int, number: int, n: int, done: int },
    sql`
      select r.id as requirement, r.number, count(*) as n, count(k.done_at) as done
      from checklist_item k
      join requirement r on r.id = k.requirement_id
      where k.project_id = ${projectId} and k.deleted_at is null and r.deleted_at is null${of}
      group by r.id`,
  )
  const found = new Map<
    number,
    { id: number; number: number; models: DesignOf['models'][number][]; checklist: { all: number; done: number } }
  >()
  const at = (id: number, own: number) => {
    const before = found.get(id) ?? { id, number: own, models: [], checklist: { all: 0, done: 0 } }
    found.set(id, before)
    return before
  }
  for (const { requirement, number: ref, id, name, version, revision, body, rows } of models) {
    const model = modelShape.parse(JSON.parse(body))
    const accepted = acceptedShape.parse(JSON.parse(rows)).map(({ row, ...rest }) => ({ ...rest, row: valuesIn(row) }))
    const said = saidBy(tx, { id, revision, model }, accepted)
    const [own, cases] = [accepted.map(({ row }) => row), accepted.map((each) => each.case)]
    at(requirement, ref).models.push({ id, name, version, model, rows: own, cases, said })
  }
  for (const { requirement, number: own, n, done } of lists) at(requirement, own).checklist = { all: n, done }
  return [...found.values()].sort((a, b) => a.number - b.number)
}

export const checklistOf = (
  tx: Tx,
  requirementId: number,
): { id: number; text: string; done: boolean; by: string | null; case: string | null }[] =>
  rowsOf(
    tx,
    { id: int, text: text, done: int, by: maybe(text), number: maybe(int) },
    sql`
      select k.id, k.text, k.done_at is not null as done, p.name as "by", c.number
      from checklist_item k
      left join person p on p.id = k.done_by
      left join test_case c on c.id = k.case_id
      where k.requirement_id = ${requirementId} and k.deleted_at is null
      order by k.position, k.id`,
  ).map(({ number, done, ...rest }) => ({
    ...rest,
    done: done === 1,
    case: number === null ? null : keyOf('case', number),
  }))
export function addChecklist(
  tx: Tx,
  of: { projectId: number; requirementId: number },
  lines: readonly string[],
): number[] {
  const last =
    rowOf(
      tx,
      { n: int },
      sql`select coalesce(max(position), 0) as n from checklist_item where requirement_id = ${of.requirementId}`,
    )?.n ?? 0
  return lines.map(
    (line, at) =>
      tx
        .insert(checklistItem)
        .values({ ...of, text: line, position: last + 1 + at })
        .returning({ id: checklistItem.id })
        .get().id,
  )
}
export const checklistRequirement = (tx: Tx, projectId: number, id: number): { id: number } | undefined =>
  rowOf(
    tx,
    { id: int },
    sql`
      select r.id
      from checklist_item k
      join requirement r on r.id = k.requirement_id
      where k.id = ${id} and k.project_id = ${projectId}`,
  )
export const saveChecklist = (tx: Tx, id: number, edit: Partial<typeof checklistItem.$inferInsert>): void =>
  void tx.update(checklistItem).set(edit).where(eq(checklistItem.id, id)).run()
