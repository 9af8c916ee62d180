import { valuesIn } from '#db/json.ts'
import { int, maybe, type Row, rowOf, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { eq, type SQL, sql } from 'drizzle-orm'
import { type StepText, type StepUse, versionName } from '#core/cases/steps.ts'
import { type FindUsed, flatSteps, useKey, type UsedStep, type UsedVersion } from '#core/cases/uses.ts'
import type { Tx } from '#db/open.ts'
import { step } from './tables.ts'

/** What a row of steps tells of what it inserts; over any table of steps called `s`. */
export const useRow: SQL = sql`
  s.use_routine_version_id as useRoutine,
  s.use_case_version_id as useCase,
  s.use_values as useValues,
  s.evidence,
  coalesce(
    (
      select ${keySql('routine', 'r.number')} || ' ' || v.major || '.' || v.minor
      from routine_version v
      join routine r on r.id = v.routine_id
      where v.id = s.use_routine_version_id
    ),
    (
      select ${keySql('case', 'c.number')} || ' ' || v.major || '.' || v.minor
      from case_version v
      join test_case c on c.id = v.case_id
      where v.id = s.use_case_version_id
    )
  ) as useName`

/** The shape of `useRow`. */
export const useShape = {
  useRoutine: maybe(int),
  useCase: maybe(int),
  useValues: text,
  useName: maybe(text),
  evidence: int,
}
/** A step with its texts and what it inserts. */
export const stepShape = { id: int, action: text, expected: text, data: text, ...useShape }
type UseRow = Row<typeof useShape>
type StepRow = Row<typeof stepShape>

export const useOf = ({ useRoutine, useCase, useValues, useName }: Omit<UseRow, 'evidence'>): StepUse | undefined => {
  const version = useRoutine ?? useCase
  if (version === null || useName === null) return undefined
  const [ref = '', name = ''] = useName.split(' ')
  return {
    kind: useRoutine === null ? 'case' : 'routine',
    version,
    ref,
    name,
    values: valuesIn(useValues),
  }
}

export function withUse<T extends StepRow>({
  useRoutine,
  useCase,
  useValues,
  useName,
  evidence,
  ...rest
}: T): Omit<StepText, 'id'> & { readonly id: number } {
  const use = useOf({ useRoutine, useCase, useValues, useName })
  return { ...rest, ...(use && { use }), ...asked(evidence) }
}

/** Whether a step asks for evidence, as it is stored and as it is told. */
const asked = (evidence: number): { evidence?: true } => (evidence === 1 ? { evidence: true } : {})

export const useColumnsOf = (use: StepUse | undefined) => ({
  useRoutineVersionId: use?.kind === 'routine' ? use.version : null,
  useCaseVersionId: use?.kind === 'case' ? use.version : null,
  useValues: use && Object.keys(use.values).length > 0 ? JSON.stringify(use.values) : '',
})

/** Reads versions of routines and cases that steps insert, each once; stored versions never change. */
export function usedIn(tx: Tx): FindUsed {
  const known = new Map<string, UsedVersion | undefined>()
  return (use) => {
    const at = useKey(use)
    if (!known.has(at)) known.set(at, readUsed(tx, use))
    return known.get(at)
  }
}

function readUsed(tx: Tx, { kind, version }: Pick<StepUse, 'kind' | 'version'>): UsedVersion | undefined {
  const own = rowOf(tx, usedShape, usedQueries[kind](version))
  if (!own) return undefined
  const steps = rowsOf(tx, usedStepShape, usedStepQueries[kind](version)).map(
    ({ key, action, expected, data, ...row }): UsedStep => ({
      key,
      action,
      expected,
      data,
      use: useOf(row),
      ...asked(row.evidence),
    }),
  )
  return { kind, version, ref: own.ref, title: own.title, name: versionName(own.major ?? 0, own.minor ?? 0), steps }
}

const usedShape = { ref: text, title: text, major: maybe(int), minor: maybe(int) }
const usedQueries: Readonly<Record<StepUse['kind'], (version: number) => SQL>> = {
  routine: (version) => sql`
    select ${keySql('routine', 'r.number')} as ref, r.title, v.major, v.minor
    from routine_version v
    join routine r on r.id = v.routine_id
    where v.id = ${version}`,
  case: (version) => sql`
    select ${keySql('case', 'c.number')} as ref, c.title, v.major, v.minor
    from case_version v
    join test_case c on c.id = v.case_id
    where v.id = ${version}`,
}

const usedStepShape = {
  key: int,
  action: text,
  expected: text,
  data: text,
  ...useShape,
}
const usedStepQueries: Readonly<Record<StepUse['kind'], (version: number) => SQL>> = {
  routine: (version) => sql`
    select s.key, s.action, s.expected, s.data, ${useRow}
    from routine_step s
    where s.version_id = ${version}
    order by s.position`,
  case: (version) => sql`
    select s.step_id as key, s.action, s.expected, s.data, ${useRow}
    from version_step s
    where s.version_id = ${version}
    order by s.position`,
}

/** The identity, in this case, of a step that another brings in. */
const innerStep = (tx: Tx, within: number, kind: StepUse['kind'], key: number): number | undefined =>
  rowOf(
    tx,
    { id: int },
    sql`
      select id
      from step
      where within_step_id = ${within} and ${kind === 'routine' ? sql`inner_key` : sql`inner_step_id`} = ${key}`,
  )?.id

/** Every step that an inserted version brings gets an identity of its own in the case, which stays while the use stays. */
export function giveIdentities(
  tx: Tx,
  of: { readonly caseId: number; readonly within: number; readonly use: Pick<StepUse, 'kind' | 'version'> },
  find: FindUsed = usedIn(tx),
): void {
  const used = find(of.use)
  if (!used) return
  for (const inner of used.steps) {
    const id =
      innerStep(tx, of.within, used.kind, inner.key) ??
      tx
        .insert(step)
        .values({
          caseId: of.caseId,
          withinStepId: of.within,
          ...(used.kind === 'routine' ? { innerKey: inner.key } : { innerStepId: inner.key }),
        })
        .returning({ id: step.id })
        .get().id
    if (inner.use) giveIdentities(tx, { caseId: of.caseId, within: id, use: inner.use }, find)
  }
}

export interface ExecutedStep {
  readonly id: number
  readonly action: string
  readonly expected: string
  readonly data: string
  /** Its verdict asks for evidence. */
  readonly evidence?: true | undefined
  /** What it comes from, such as `RT-3 Sign in as a clerk`; empty for the case's own. */
  readonly from: string
}

export type OwnStep = Omit<StepText, 'id'> & { readonly id: number }

/** Steps as they are executed: what they insert is written out, each with the identity results hang on. */
export function executedSteps(tx: Tx, steps: readonly OwnStep[]): ExecutedStep[] {
  if (!steps.some(({ use }) => use)) return steps.map(({ use: _, ...step }) => ({ ...step, from: '' }))
  const find = usedIn(tx)
  return flatSteps(
    steps.map(({ id, ...rest }) => ({ key: id, ...rest })),
    find,
  ).map(({ step: told, path, from }) => {
    const [first = 0, ...inner] = path
    const id = inner.reduce(
      (within, key, depth) => innerStep(tx, within, from[depth]?.kind ?? 'routine', key) ?? within,
      first,
    )
    return { id, ...told, from: from.map(({ ref, title }) => `${ref} ${title}`).join(' › ') }
  })
}

/** Ids of the steps an attempt on this version marks, in order. */
export function executedStepIds(tx: Tx, versionId: number): number[] {
  // Asked at every verdict; most versions insert nothing, and then their texts need not be read.
  const own = rowsOf(
    tx,
    { id: int, inserts: int },
    sql`
      select step_id as id, coalesce(use_routine_version_id, use_case_version_id) is not null as inserts
      from version_step
      where version_id = ${versionId}
      order by position`,
  )
  if (own.every(({ inserts }) => inserts === 0)) return own.map(({ id }) => id)
  const rows = rowsOf(
    tx,
    stepShape,
    sql`
      select s.step_id as id, s.action, s.expected, s.data, ${useRow}
      from version_step s
      where s.version_id = ${versionId}
      order by s.position`,
  )
  return executedSteps(tx, rows.map(withUse)).map(({ id }) => id)
}

/** Steps of a case that belong to it and not to what it inserts. */
export const ownStepIds = (tx: Tx, caseId: number): Set<number> =>
  new Set(
    tx
      .select({ id: step.id, within: step.withinStepId })
      .from(step)
      .where(eq(step.caseId, caseId))
      .all()
      .filter(({ within }) => within === null)
      .map(({ id }) => id),
  )

/** Everything that must have run before a case, and before that in turn. */
export const needsWithin = (tx: Tx, caseId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      with recursive w(id) as (
        select n.case_id
        from case_need n
        join case_version v on v.id = n.version_id and v.major is null
        where v.case_id = ${caseId}
        union
        select n.case_id
        from w
        join case_version v on v.case_id = w.id and v.major is null
        join case_need n on n.version_id = v.id
      )
      select id
      from w`,
  ).map(({ id }) => id)
