import { hydrateRoot } from 'react-dom/client'
import { renderToString } from 'react-dom/server'
import { cleanup, render } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { readFrame, readProject } from '#core/projects/contract.ts'
import { readMe } from '#core/people/contract.ts'
import { readDrafting } from '#core/techniques/contract.ts'
import { findPerson } from '#db/people/people.ts'
import {
  casesPage,
  defectsPage,
  deskPage,
  draftingPage,
  memberPage,
  placeOf,
  plansPage,
  reportsPage,
  requirementsPage,
  routinesPage,
  runsPage,
  suitesPage,
  todayPage,
} from '#server/app/place-page.ts'
import type { PageContext } from '#server/app/shell-page.ts'
import { contextOf } from '#server/http/context.ts'
import { roleOf } from '#server/http/permission.ts'
import { CasesPage } from '#ui/cases/CasesPage.tsx'
import { DefectsPage } from '#ui/defects/DefectsPage.tsx'
import { PlansPage } from '#ui/plans/PlansPage.tsx'
import { HistoryPage } from '#ui/people/HistoryPage.tsx'
import { PersonPage } from '#ui/people/PersonPage.tsx'
import { SuitesPage } from '#ui/plans/SuitesPage.tsx'
import { SamplePage } from '#ui/projects/SamplePage.tsx'
import { SetUpPage } from '#ui/projects/SetUpPage.tsx'
import { TodayPage } from '#ui/projects/TodayPage.tsx'
import { ReportsPage } from '#ui/reports/ReportsPage.tsx'
import { RequirementsPage } from '#ui/requirements/RequirementsPage.tsx'
import { RoutinesPage } from '#ui/reuse/RoutinesPage.tsx'
import { AttemptsPage } from '#ui/runs/AttemptsPage.tsx'
import { BesidePage } from '#ui/runs/BesidePage.tsx'
import { ComposePage } from '#ui/runs/ComposePage.tsx'
import { DeskPage } from '#ui/runs/DeskPage.tsx'
import { RunsPage } from '#ui/runs/RunsPage.tsx'
import { CalendarPage } from '#ui/schedule/CalendarPage.tsx'
import { CutLinePage } from '#ui/schedule/CutLinePage.tsx'
import { MinutesPage } from '#ui/schedule/MinutesPage.tsx'
import { WhatIfPage } from '#ui/schedule/WhatIfPage.tsx'
import { DraftingPage } from '#ui/techniques/DraftingPage.tsx'
import type { Shop } from '#test/app.ts'
import { leaveWith, network, type Shown } from './screen.tsx'

// Whole pages, as the server hands them out, in front of the same server.

/** A page of the shop at an address below `/p/SHOP/`, such as `TC-1?full=yes`, as a person sees it. */
export async function pageOf(shop: Shop, person: string, address: string): Promise<Shown> {
  history.replaceState(null, '', `/p/SHOP/${address}`)
  const page = await contextFor(shop, person)
  const line = network(shop, person)
  const shown = render(await partOf(page, address))
  leaveWith(cleanup)
  return { ...shown, user: userEvent.setup(), line }
}

/**
 * The same drawn by the server and taken over in the browser so many milliseconds later; answers what the browser had to draw anew,
 * which is nothing on a page that is the same in both.
 */
export async function takenOver(shop: Shop, person: string, address: string, later: number): Promise<string[]> {
  history.replaceState(null, '', `/p/SHOP/${address}`)
  const page = await contextFor(shop, person)
  network(shop, person)
  const part = await partOf(page, address)
  const place = document.body.appendChild(document.createElement('div'))
  place.innerHTML = renderToString(part)
  const clock = Date.now
  Date.now = () => clock() + later
  const anew: string[] = []
  const root = hydrateRoot(place, part, { onRecoverableError: (error) => anew.push(String(error)) })
  await new Promise((done) => setTimeout(done, 50))
  root.unmount()
  place.remove()
  Date.now = clock
  return anew
}

async function contextFor(shop: Shop, id: string): Promise<PageContext> {
  const { services: own } = shop
  const row = shop.project()
  const person = findPerson(own.db, id)
  const role = person && roleOf(own.db, row, { person, limit: null })
  if (!person || !role) throw new Error(`${id} is nobody of the shop`)
  const { context } = contextOf({ tx: own.db, now: own.now(), person, project: row, role, expected: 0, limit: null })
  const as = shop.as(id)
  const [me, project, frame] = [await as.ask(readMe), await as.ask(readProject), await as.ask(readFrame)]
  const shell = {
    me,
    project,
    frame: { asked: { params: { key: row.key }, query: {} }, answer: frame },
    path: location.pathname,
    search: location.search.slice(1),
    at: Date.now(),
  }
  return { own, row, person, role, scope: {}, context, shell }
}

async function partOf(page: PageContext, address: string): Promise<ReactNode> {
  const { shell } = page
  const [path = '', id = ''] = address.split('?')[0]!.split('/')
  if (path === 'desk' && id === 'beside') return <BesidePage {...shell} station="runs" />
  if (path === 'desk')
    return <DeskPage {...shell} station="runs" initial={deskPage(page, { item: Number(id), mine: true })} />
  if (path === 'runs' && id === 'attempts') return <AttemptsPage {...shell} station="runs" />
  if (path === 'runs' && id === 'again') return <ComposePage {...shell} station="runs" />
  if (path === 'runs' && id === 'minutes') return <MinutesPage {...shell} station="runs" />
  if (path === 'runs' && id === 'line') return <CutLinePage {...shell} station="runs" />
  if (path === 'runs' && id === 'what-if') return <WhatIfPage {...shell} station="runs" />
  if (path === 'runs' && id === 'calendar') return <CalendarPage {...shell} station="runs" />
  const place = placeOf(path)
  if (id === 'draft') {
    const { asked, answer } = draftingPage(page, place)
    const initial = { asked, answer: readDrafting.output.parse(answer) }
    return <DraftingPage {...shell} station="requirements" initial={initial} />
  }
  switch (place.station) {
    case 'sample':
      return <SamplePage {...shell} station={null} />
    case '':
      return <TodayPage {...shell} station={null} initial={todayPage(page)} />
    case 'requirements':
      return <RequirementsPage {...shell} station="requirements" initial={await requirementsPage(page, place)} />
    case 'cases':
      return <CasesPage {...shell} station="cases" initial={await casesPage(page, place)} />
    case 'routines':
      return <RoutinesPage {...shell} station="cases" initial={await routinesPage(page, place)} />
    case 'plans':
      return <PlansPage {...shell} station="plans" initial={await plansPage(page, place)} />
    case 'suites':
      return <SuitesPage {...shell} station="plans" initial={await suitesPage(page, place)} />
    case 'runs':
      return <RunsPage {...shell} station="runs" initial={await runsPage(page, place)} />
    case 'defects':
      return <DefectsPage {...shell} station="defects" initial={await defectsPage(page, place)} />
    case 'reports':
      return <ReportsPage {...shell} station="reports" report="coverage" initial={await reportsPage(page)} />
    case 'set-up':
      return <SetUpPage {...shell} station={null} />
    case 'history':
      return <HistoryPage {...shell} station={null} />
    case 'people':
      return <PersonPage {...shell} station={null} person={id} initial={memberPage(page, id)} />
    default:
      throw new Error(`no page at ${address}`)
  }
}
