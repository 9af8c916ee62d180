import { type Keyed, readKey } from '#core/lib/key.ts'
import type { ListQuery, OrderAnswer } from '#core/lib/shapes.ts'
import { casesPageOf } from '#server/cases/list-cases.ts'
import { caseSheetOf } from '#server/cases/read-case.ts'
import { listRoutines, routineSheetOf } from '#server/reuse/keep-routines.ts'
import { listDefects, readDefect } from '#server/defects/keep-defects.ts'
import { listPlans, readPlan } from '#server/plans/keep-plans.ts'
import { listSuites, readSuite } from '#server/plans/keep-suites.ts'
import { requirementsPageOf } from '#server/requirements/list-requirements.ts'
import { requirementSheetOf } from '#server/requirements/read-requirement.ts'
import { listRuns, readRun } from '#server/runs/keep-runs.ts'
import { scopeOf } from '#server/projects/scope-of.ts'
import { type PageContext, unlessRefused } from './shell-page.ts'
import { coverageJob } from '#server/workers/questions.ts'

const first: ListQuery = { limit: 100 }
const stations: Readonly<Record<Keyed, string>> = {
  requirement: 'requirements',
  case: 'cases',
  routine: 'routines',
  plan: 'plans',
  suite: 'plans',
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

/** The first rows' ids in place of the whole order: a page of 50,000 rows must not carry them all; the browser asks for the rest. */
const orderOf = ({ rows, total }: { rows: readonly { id: number }[]; total: number }): OrderAnswer => ({
  ids: rows.map(({ id }) => id),
  total,
  all: total,
  groups: null,
})

const asked = { params: { key: '', ref: 0 }, body: undefined }

export async function requirementsPage(page: PageContext, place: Place) {
  const rows = requirementsPageOf(page.context, first)
  const question = { projectId: page.row.id, scope: scopeOf(page.own.db, page.row, page.scope) }
  return {
    order: orderOf(rows),
    rows,
    coverage: await page.own.jobs.run(coverageJob, { ...question, ids: rows.rows.slice(0, 60).map(({ id }) => id) }),
    sheet:
      place.kind === 'requirement'
        ? await unlessRefused(() => requirementSheetOf(page.own, page.row, place.number, page.scope))
        : null,
  }
}

export async function casesPage(page: PageContext, place: Place) {
  const rows = casesPageOf(page.context, first)
  return {
    order: orderOf(rows),
    rows,
    sheet:
      place.kind === 'case'
        ? await unlessRefused(() =>
            caseSheetOf(
              page.own,
              { project: page.row, personId: page.context.person.id },
              { number: place.number, query: page.scope },
            ),
          )
        : null,
  }
}

export async function routinesPage(page: PageContext, place: Place) {
  const rows = listRoutines(page.context, { ...asked, query: first })
  return {
    order: orderOf(rows),
    rows,
    sheet:
      place.kind === 'routine'
        ? await unlessRefused(() => routineSheetOf(page.own.db, page.row.id, place.number))
        : null,
  }
}

export async function plansPage(page: PageContext, place: Place) {
  const input = { ...asked, query: first }
  const one = { params: { key: '', ref: place.number }, query: undefined, body: undefined }
  const rows = listPlans(page.context, input)
  return {
    order: orderOf(rows),
    rows,
    suites: listSuites(page.context, { ...asked, query: { limit: 200 } }),
    plan: place.kind === 'plan' ? await unlessRefused(() => readPlan(page.context, one)) : null,
    suite: place.kind === 'suite' ? await unlessRefused(() => readSuite(page.context, one)) : null,
  }
}

export async function runsPage(page: PageContext, place: Place) {
  const input = { ...asked, query: first }
  const rows = listRuns(page.context, input)
  return {
    order: orderOf(rows),
    rows,
    sheet:
      place.kind === 'run'
        ? await unlessRefused(() =>
            readRun(page.context, { params: { key: '', ref: place.number }, query: undefined, body: undefined }),
          )
        : null,
  }
}

export async function defectsPage(page: PageContext, place: Place) {
  const input = { ...asked, query: first }
  const rows = listDefects(page.context, input)
  return {
    order: orderOf(rows),
    rows,
    sheet:
      place.kind === 'defect'
        ? await unlessRefused(() =>
            readDefect(page.context, { params: { key: '', ref: place.number }, query: undefined, body: undefined }),
          )
        : null,
  }
}

export async function reportsPage(page: PageContext) {
  return page.own.jobs.run(coverageJob, {
    projectId: page.row.id,
    scope: scopeOf(page.own.db, page.row, page.scope),
    ids: 'all',
  })
}
