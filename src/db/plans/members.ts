import { type SQL, sql } from 'drizzle-orm'
import { ruleFields } from '#core/finding/fields.ts'
import { conditionsOf, filterIn } from '#core/lib/filter.ts'
import { sumOf } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import { keyOf } from '#core/lib/key.ts'
import { once, remembered, rememberedIn } from '#core/lib/once.ts'
import { inSuiteOrder, type Members, membership } from '#core/plans/members.ts'
import type { Rule } from '#core/plans/source.ts'
import { assumedRisk } from '#core/reports/coverage.ts'
import { select } from '#core/schedule/select.ts'
import { caseAskSource, ownFieldsOf } from '#db/cases/ask.ts'
import { steadyMinutes } from '#db/cases/list.ts'
import { inIds, listIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { findsAny, int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { isLiveCase } from '#db/rules.ts'
import { frozenIn, type SourceStored, sourcesOf, suiteDefinitions, type SuiteKept } from './definitions.ts'
import { type Live, liveCases, memberFacts, renewLive } from './member-order.ts'

/** Who is in the suites of a project now, reckoned when it is asked. */
export interface SuitesNow {
  readonly definitions: ReadonlyMap<number, SuiteKept>
  readonly sources: readonly SourceStored[]
  readonly members: (suite: number) => Members
  /** The same in the suite's order. */
  readonly ordered: (suite: number) => readonly number[]
  /** How long they take together. */
  readonly minutes: (suite: number) => number
  /** Cases a source brings by itself. */
  readonly broughtBy: (source: SourceStored) => readonly number[]
  /** Why a source cannot be followed, in a sentence; `null` when it can. */
  readonly problem: (source: SourceStored) => string | null
  /** Why a case is among the best in some minutes. */
  readonly why: (source: SourceStored) => Readonly<Record<number, string>>
  /** Cases a rule would bring that is only tried, in the order of their numbers. */
  readonly tried: (rule: Rule) => { readonly problem: string } | { readonly cases: readonly number[] }
  readonly minutesOf: (cases: readonly number[]) => number
  /**
   * Whether all that was reckoned holds still after nothing changed but what these few cases say of themselves; that is read anew. Where it
   * does not, or that cannot be told quickly, everything is to be reckoned again.
   */
  readonly holds: (changed: readonly number[]) => boolean
}

/** Reads what the suites of a project are made of; each is reckoned when somebody asks for it, and once. */
export function suitesNow(tx: Tx, projectId: number): SuitesNow {
  const sources = sourcesOf(tx, projectId)
  const definitions = suiteDefinitions(tx, projectId, sources)
  const stored = new Map(sources.map((source) => [source.id, source]))
  const rules = once(() => rulesOf(tx, projectId))
  let known: Live | null = null
  const live = () => (known ??= liveCases(tx, projectId))
  const minutesOf = (cases: readonly number[]) => {
    const { at, minutes } = live()
    return sumOf(cases, (id) => minutes[at.get(id) ?? -1] ?? 0)
  }
  const problem = (source: SourceStored) => sourceProblem(tx, source, rules().fields)
  const bestOf = remembered((id) => {
    const source = stored.get(id)
    if (!source) return { cases: [], why: {} }
    return source.frozen === null ? bestWithin(tx, projectId, source) : asFrozen(source.frozen, live().at)
  })
  const brought = new Map<number, readonly number[]>()
  const broughtBy = rememberedIn(brought, (id): readonly number[] => {
    const source = stored.get(id)
    if (!source || problem(source) !== null) return []
    if (source.kind === 'branch') return casesOfBranch(tx, source.requirementId ?? 0)
    if (source.kind === 'rule') return rules().ids(ruleOf(source))
    if (source.kind === 'best') return bestOf(source.id).cases
    return source.includedId === null ? [] : [...members(source.includedId).keys()]
  })
  const members = membership(definitions, ({ id }) => broughtBy(id))
  const orders = new Map<number, readonly number[]>()
  const inRule = remembered((id) => new Set(broughtBy(id)))
  const isAlike = (id: number, changed: readonly number[]) =>
    bringsAlike(stored.get(id), changed, {
      isBroken: (source) => problem(source) !== null,
      now: (source) => rules().among(ruleOf(source), changed),
      before: inRule,
    })
  return {
    definitions,
    sources,
    members,
    broughtBy: ({ id }) => broughtBy(id),
    problem,
    why: ({ id, kind }) => (kind === 'best' ? bestOf(id).why : {}),
    ordered: rememberedIn(orders, (suite) => {
      const order = definitions.get(suite)?.order ?? 'hand'
      return inSuiteOrder(members(suite).keys(), order, memberFacts(tx, projectId, { suite, order, live: live() }))
    }),
    minutes: (suite) => minutesOf([...members(suite).keys()]),
    minutesOf,
    holds: (changed) => {
      if (known === null) return false
      if (![...brought.keys()].every((id) => isAlike(id, changed)) || !renewLive(tx, known, changed)) return false
      for (const suite of orders.keys()) if (definitions.get(suite)?.order !== 'hand') orders.delete(suite)
      return true
    },
    tried: (rule) => {
      const wrong = ruleProblem(tx, rule, rules().fields)
      return wrong === null ? { cases: rules().ids(rule) } : { problem: wrong }
    },
  }
}

interface Brought {
  readonly isBroken: (source: SourceStored) => boolean
  readonly now: (source: SourceStored) => readonly number[]
  readonly before: (id: number) => ReadonlySet<number>
}

/** A rule brings of some cases what it brought before; of other kinds of sources that is not looked at case by case. */
function bringsAlike(
  source: SourceStored | undefined,
  changed: readonly number[],
  { isBroken, now, before }: Brought,
): boolean {
  if (source?.kind === 'suite') return true
  if (source?.kind !== 'rule') return false
  if (isBroken(source)) return true
  const [brings, brought] = [new Set(now(source)), before(source.id)]
  return changed.every((each) => brings.has(each) === brought.has(each))
}

export const ruleOf = ({ words, filter }: Pick<SourceStored, 'words' | 'filter'>): Rule => ({
  words,
  filter: filterIn(filter),
})

const ruleSource = (projectId: number, own: ReturnType<typeof ownFieldsOf>): ListSource => {
  const source = caseAskSource(projectId, own)
  return { ...source, where: sql`${source.where} and c.retired_at is null` }
}

function rulesOf(tx: Tx, projectId: number) {
  const own = ownFieldsOf(tx, projectId)
  const source = ruleSource(projectId, own)
  return {
    fields: new Set(ruleFields(own).map(({ name }) => name)),
    ids: ({ words, filter }: Rule): number[] => listIds(tx, source, { text: words, filter }),
    /** Of some cases alone. */
    among: ({ words, filter }: Rule, cases: readonly number[]): number[] =>
      listIds(tx, { ...source, where: sql`${source.where} and ${inIds(sql`c.id`, cases)}` }, { text: words, filter }),
  }
}

function sourceProblem(tx: Tx, source: SourceStored, fields: ReadonlySet<string>): string | null {
  if (source.kind === 'rule') return ruleProblem(tx, ruleOf(source), fields)
  if (source.kind === 'suite') return gone(tx, 'suite', source.includedId)
  return source.requirementId === null && source.kind === 'best' ? null : gone(tx, 'requirement', source.requirementId)
}

/** What of a rule cannot be asked any more. */
function ruleProblem(tx: Tx, { filter }: Rule, fields: ReadonlySet<string>): string | null {
  const unknown = (filter === null ? [] : conditionsOf(filter)).find(({ field }) => !fields.has(field))
  if (!unknown) return null
  const name = deletedFieldName(tx, unknown.field)
  return name === null
    ? `It asks for “${unknown.field}”, which a rule cannot ask for.`
    : `It asks for the field “${name}”, which was deleted.`
}

function deletedFieldName(tx: Tx, field: string): string | null {
  const id = Number(/own:(\d+)$/.exec(field)?.[1] ?? 0)
  return rowOf(tx, { name: text }, sql`select name from custom_field where id = ${id}`)?.name ?? null
}

function gone(tx: Tx, table: 'suite' | 'requirement', id: number | null): string | null {
  const is = findsAny(tx, sql`select 1 from ${sql.identifier(table)} where id = ${id} and deleted_at is null`)
  return is ? null : `The ${table} was deleted.`
}

/** A requirement and all below it, as `branch(id)`. */
const branchFrom = (requirementId: number): SQL => sql`
  with recursive branch(id) as (
    select ${requirementId}
    union
    select q.id
    from requirement q
    join branch b on q.parent_id = b.id
    where q.deleted_at is null
  )`

/** Live cases that prove a requirement or one below it. */
export const casesOfBranch = (tx: Tx, requirementId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      ${branchFrom(requirementId)}
      select distinct c.id
      from branch b
      join requirement r on r.id = b.id
      join link l on l.requirement_id = r.id
      join test_case c on c.id = l.case_id
      where r.deleted_at is null and r.state <> 'Dropped' and l.until_at is null and ${isLiveCase('c')}`,
  ).map(({ id }) => id)

interface Best {
  readonly cases: readonly number[]
  readonly why: Readonly<Record<number, string>>
}

function asFrozen(json: string, live: ReadonlyMap<number, unknown>): Best {
  const chosen = frozenIn(json).filter((each) => live.has(each.case))
  return {
    cases: chosen.map((each) => each.case),
    why: Object.fromEntries(chosen.map((each) => [each.case, each.why])),
  }
}

/** The cases that cover the most risk within some minutes: each requirement's risk counts once, whatever covers it. */
export function bestWithin(
  tx: Tx,
  projectId: number,
  { minutes, requirementId }: Pick<SourceStored, 'minutes' | 'requirementId'>,
): Best {
  const branch =
    requirementId === null
      ? sql`1`
      : sql`
        r.id in (
          ${branchFrom(requirementId)}
          select id from branch
        )`
  const links = rowsOf(
    tx,
    { case: int, minutes: int, requirement: int, risk: maybe(int) },
    sql`
      select distinct c.id as "case", ${steadyMinutes} as minutes, r.number as requirement,
        r.likelihood * r.impact as risk
      from link l
      join test_case c on c.id = l.case_id
      join requirement r on r.id = l.requirement_id
      where l.project_id = ${projectId}
        and l.until_at is null
        and ${isLiveCase('c')}
        and (c.steps > 0 or c.automation = 'Automated')
        and r.deleted_at is null
        and r.state <> 'Dropped'
        and ${branch}
      order by c.id, r.number`,
  )
  const byCase = groupBy(links, (link) => link.case)
  const { chosen, why } = select({
    budget: minutes ?? 0,
    of: 'risk',
    items: [...byCase].map(([id, own]) => ({
      key: String(id),
      minutes: own[0]?.minutes ?? 0,
      covers: own.map(({ requirement }) => keyOf('requirement', requirement)),
    })),
    worth: Object.fromEntries(
      links.map(({ requirement, risk }) => [keyOf('requirement', requirement), risk ?? assumedRisk]),
    ),
  })
  return { cases: chosen.map(Number), why: Object.fromEntries(chosen.map((key) => [Number(key), why[key] ?? ''])) }
}
