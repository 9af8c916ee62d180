import * as contract from '#core/plans/contract.ts'
import { joinDeleted, joinParts } from '#server/finding/change-many.ts'
import { on, onMany, type Route } from '#server/http/route.ts'
import { createPlan, listPlans, orderPlans, readPlan, updatePlan } from './keep-plans.ts'
import {
  changeSuites,
  createSuite,
  deleteSuites,
  listSuites,
  orderSuites,
  pinCases,
  readSuite,
  updateSuite,
} from './keep-suites.ts'

/** What may be asked of this area, each endpoint once. */
export const planRoutes: readonly Route[] = [
  on(contract.listSuites, listSuites),
  on(contract.orderSuites, orderSuites),
  on(contract.createSuite, createSuite),
  on(contract.readSuite, readSuite),
  on(contract.updateSuite, updateSuite),
  onMany(contract.changeSuites, changeSuites, joinParts),
  onMany(contract.deleteSuites, deleteSuites, joinDeleted),
  on(contract.pinCases, pinCases),
  on(contract.listPlans, listPlans),
  on(contract.orderPlans, orderPlans),
  on(contract.createPlan, createPlan),
  on(contract.readPlan, readPlan),
  on(contract.updatePlan, updatePlan),
]
