import type { Contract } from '#core/lib/contract.ts'
import * as contract from '#core/installation/contract.ts'
import { caseRoutes } from '#server/cases/routes.ts'
import { defectRoutes } from '#server/defects/routes.ts'
import { findingRoutes } from '#server/finding/routes.ts'
import { formatRoutes } from '#server/formats/routes.ts'
import { historyRoutes } from '#server/history/routes.ts'
import { openapi } from '#server/http/openapi.ts'
import { on, type Route } from '#server/http/route.ts'
import { installationRoutes } from '#server/installation/routes.ts'
import { peopleRoutes } from '#server/people/routes.ts'
import { planRoutes } from '#server/plans/routes.ts'
import { projectRoutes } from '#server/projects/routes.ts'
import { reportRoutes } from '#server/reports/routes.ts'
import { requirementRoutes } from '#server/requirements/routes.ts'
import { reuseRoutes } from '#server/reuse/routes.ts'
import { reviewRoutes } from '#server/review/routes.ts'
import { runRoutes } from '#server/runs/routes.ts'
import { scheduleRoutes } from '#server/schedule/routes.ts'
import { talkRoutes } from '#server/talk/routes.ts'
import { techniqueRoutes } from '#server/techniques/routes.ts'

const described: readonly Route[] = [
  ...installationRoutes,
  ...peopleRoutes,
  ...historyRoutes,
  ...projectRoutes,
  ...findingRoutes,
  ...requirementRoutes,
  ...caseRoutes,
  ...reuseRoutes,
  ...reviewRoutes,
  ...techniqueRoutes,
  ...planRoutes,
  ...runRoutes,
  ...scheduleRoutes,
  ...defectRoutes,
  ...talkRoutes,
  ...reportRoutes,
  ...formatRoutes,
]

/** Everything that may be asked of the server: what the description and the permission test are made from. */
export const contracts: readonly Contract[] = described.map((route) => route.contract)

export const routes: readonly Route[] = [...described, on(contract.describeApi, () => openapi(contracts))]
