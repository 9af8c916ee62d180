import type { Contract } from '#core/lib/contract.ts'
import { type Keyed, keyOf, readKey } from '#core/lib/key.ts'
import type { Served } from '#core/lib/question.ts'
import type { Me } from '#core/people/contract.ts'
import type { Member } from '#core/people/members-contract.ts'
import type { ListQuery, OrderAnswer } from '#core/lib/shapes.ts'
import { casesPageOf } from '#server/cases/list-cases.ts'
import { caseSheetOf } from '#server/cases/read-case.ts'
import { listDefects, readDefect } from '#server/defects/keep-defects.ts'
import type { Asker } from '#server/http/permission.ts'
import type { Input } from '#server/http/route.ts'
import { readMember } from '#server/people/read-member.ts'
import { meOf } from '#server/people/sign-in.ts'
import { listPlans, readPlan } from '#server/plans/keep-plans.ts'
import { listSuites } from '#server/plans/keep-suites.ts'
import { suiteSheetOf } from '#server/plans/read-suite.ts'
import { todayOf } from '#server/projects/read-today.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { requirementsPageOf } from '#server/requirements/list-requirements.ts'
import { requirementSheetOf } from '#server/requirements/read-requirement.ts'
import { listRoutines, routineSheetOf } from '#server/reuse/keep-routines.ts'
import { deskOf } from '#server/runs/desk-of.ts'
import { listRuns, readRun } from '#server/runs/keep-runs.ts'
import { readDrafting } from '#server/techniques/keep-models.ts'
import { coverageJob } from '#server/workers/questions.ts'
import { servedUnlessRefused } from './served.ts'
import { services } from './services.ts'
import type { PageContext } from './shell-page.ts'

const first: ListQuery = { limit: 100 }
const stations: Readonly<Record<Keyed, string>> = {
  requirement: 'requirements',
  case: 'cases',
  routine: 'routines',
  plan: 'plans',
  suite: 'suites',
  run: 'runs',
  defect: 'defects',
}

export interface Place {
  readonly station: string
  /** Kind and number of the object whose sheet is open. */
  readonly kind: Keyed | null
  readonly number: number
}

/** A station by its name, or the one an object's key belongs to. */
export function placeOf(text: string): Place {
  const key = readKey(text)
  return { station: key ? stations[key.kind] : text, kind: key?.kind ?? null, number: key?.number ?? 0 }
}

interface Rows<Row> {
  readonly rows: Row[]
  readonly total: number
}
interface ServedRows<Row> {
  readonly order: Served<OrderAnswer>
  readonly rows: Rows<Row>
}

/** The first rows of a list, with their ids in place of the whole order: a page of 50,000 rows must not carry them all. */
function listOf<Row extends { id: number }>(page: PageContext, answer: Rows<Row>): ServedRows<Row> {
  const ids = answer.rows.map(({ id }) => id)
  const order = { ids, total: answer.total, all: answer.total, groups: null }
  return { order: { asked: { params: { key: page.row.key }, query: {} }, answer: order }, rows: answer }
}

/** The sheet of the place, when it is one of the kind; its figures are of the scope in the address. */
async function sheetOf<Sheet>(
  page: PageContext,
  place: Place,
  { kind, scoped = false, read }: { kind: Keyed; scoped?: boolean; read: () => Sheet | Promise<Sheet> },
): Promise<Served<Sheet> | null> {
  if (place.kind !== kind) return null
  const asked = {
    params: { key: page.row.key, ref: keyOf(kind, place.number) },
    ...(scoped && { query: page.scope }),
  }
  return servedUnlessRefused(asked, read)
}

// What a contract's own parsing would make of a question that has no body and nothing else to say.
const listed = { params: { key: '', ref: 0 }, body: undefined, query: first }
const about = (number: number): Input<Contract> & { params: { key: string; ref: number } } => ({
  params: { key: '', ref: number },
  query: undefined,
  body: undefined,
})

export async function requirementsPage(page: PageContext, place: Place) {
  const list = listOf(page, requirementsPageOf(page.context, first))
  const ids = list.rows.rows.slice(0, 60).map(({ id }) => id)
  const read = () => requirementSheetOf(page.own, page.row, place.number, page.scope)
  return {
    list,
    coverage: await coverageOf(page, ids),
    sheet: await sheetOf(page, place, { kind: 'requirement', scoped: true, read }),
  }
}

export async function casesPage(page: PageContext, place: Place) {
  const asking = { project: page.row, personId: page.context.person.id }
  const read = () => caseSheetOf(page.own, asking, { number: place.number, query: page.scope })
  return {
    list: listOf(page, casesPageOf(page.context, first)),
    sheet: await sheetOf(page, place, { kind: 'case', scoped: true, read }),
  }
}

export const routinesPage = async (page: PageContext, place: Place) => ({
  list: listOf(page, listRoutines(page.context, listed)),
  sheet: await sheetOf(page, place, {
    kind: 'routine',
    read: () => routineSheetOf(page.own.db, page.row.id, place.number),
  }),
})

export const plansPage = async (page: PageContext, place: Place) => ({
  list: listOf(page, listPlans(page.context, listed)),
  sheet: await sheetOf(page, place, { kind: 'plan', read: () => readPlan(page.context, about(place.number)) }),
})

export const suitesPage = async (page: PageContext, place: Place) => ({
  list: listOf(page, listSuites(page.context, listed)),
  sheet: await sheetOf(page, place, { kind: 'suite', read: () => suiteSheetOf(page.own, page.row, place.number) }),
})

export const runsPage = async (page: PageContext, place: Place) => ({
  list: listOf(page, listRuns(page.context, listed)),
  sheet: await sheetOf(page, place, { kind: 'run', read: () => readRun(page.context, about(place.number)) }),
})

export const defectsPage = async (page: PageContext, place: Place) => ({
  list: listOf(page, listDefects(page.context, listed)),
  sheet: await sheetOf(page, place, { kind: 'defect', read: () => readDefect(page.context, about(place.number)) }),
})

async function coverageOf(page: PageContext, ids: readonly number[] | 'all') {
  const scope = scopeOf(page.own.db, page.row, page.scope)
  const asked = ids === 'all' ? { ids } : ids.length > 0 ? { ids: ids.join(',') } : {}
  return {
    asked: { params: { key: page.row.key }, query: { ...page.scope, ...asked } },
    answer: await page.own.jobs.run(coverageJob, { projectId: page.row.id, scope, ids }),
  }
}

export const reportsPage = (page: PageContext) => coverageOf(page, 'all')

export const todayPage = (page: PageContext) => ({
  asked: { params: { key: page.row.key }, query: page.scope },
  answer: todayOf(page.own.db, page.row, page.person, page.own.now()),
})

export const deskPage = (page: PageContext, of: { readonly item: number; readonly mine: boolean }) => ({
  asked: { params: { key: page.row.key, id: of.item }, query: of.mine ? { mine: 'yes' } : {} },
  answer: deskOf(page.own.db, page.row, page.person.id, { ...of, now: page.own.now(), role: page.role }),
})

export const draftingPage = (page: PageContext, place: Place) => ({
  asked: { params: { key: page.row.key, ref: keyOf('requirement', place.number) } },
  answer: readDrafting({ tx: page.own.db, project: page.row }, about(place.number)),
})

export const ownPage = ({ person }: Asker): { me: Me; at: number } => ({
  me: meOf(services().db, person),
  at: services().now(),
})

export function memberPage(page: PageContext, person: string): Served<Member> {
  const params = { key: page.row.key, person }
  return { asked: { params }, answer: readMember(page.context, { params, query: undefined, body: undefined }) }
}
