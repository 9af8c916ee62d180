import * as carry from '#core/plans/carry-contract.ts'
import * as contract from '#core/plans/contract.ts'
import * as asks from '#core/plans/asks-contract.ts'
import * as criteria from '#core/plans/criteria-contract.ts'
import * as versions from '#core/plans/versions-contract.ts'
import * as suite from '#core/plans/suite-contract.ts'
import { joinDeleted, joinParts } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { carryPlan, readCarry, takeCarryBack } from './carry-plan.ts'
import { addSource, changeSource, excludeCases, removeSource } from './compose-suite.ts'
import { readCriteria, readReadiness, readShortestWay } from './evaluate-criteria.ts'
import { addCriterion, changeCriterion, removeCriterion, waiveCriterion } from './keep-criteria.ts'
import { createPlan, listPlans, orderPlans, readPlan, readPlanSince, updatePlan } from './keep-plans.ts'
import {
  changeSuites,
  createSuite,
  deleteSuites,
  listSuites,
  orderSuites,
  pinCases,
  placeMembers,
  updateSuite,
} from './keep-suites.ts'
import { answerPlanReview, askPlanReview, listPlanVersions, readPlanVersion } from './keep-versions.ts'
import { dealPlan, readMatrix, readMatrixSlots, readPrice } from './read-asks.ts'
import {
  listMembers,
  readSuite,
  readSuiteChanges,
  readSuiteNotYet,
  readSuiteRequirements,
  tryBest,
  tryRule,
} from './read-suite.ts'

/** What may be asked of this area, each endpoint once. */
export const planRoutes: readonly Route[] = [
  on(suite.listSuites, listSuites),
  on(suite.orderSuites, orderSuites),
  on(suite.createSuite, createSuite),
  onOpen(suite.readSuite, readSuite),
  onOpen(suite.listMembers, listMembers),
  onOpen(suite.readSuiteChanges, readSuiteChanges),
  onOpen(suite.readSuiteNotYet, readSuiteNotYet),
  onOpen(suite.readSuiteRequirements, readSuiteRequirements),
  onOpen(suite.tryRule, tryRule),
  onOpen(suite.tryBest, tryBest),
  on(suite.updateSuite, updateSuite),
  onMany(suite.changeSuites, changeSuites, joinParts),
  onMany(suite.deleteSuites, deleteSuites, joinDeleted),
  on(suite.pinCases, pinCases),
  on(suite.placeMembers, placeMembers),
  on(suite.excludeCases, excludeCases),
  on(suite.addSource, addSource),
  on(suite.changeSource, changeSource),
  on(suite.removeSource, removeSource),
  on(contract.listPlans, listPlans),
  on(contract.orderPlans, orderPlans),
  on(contract.createPlan, createPlan),
  on(contract.readPlan, readPlan),
  on(contract.updatePlan, updatePlan),
  on(contract.readPlanSince, readPlanSince),
  on(versions.listPlanVersions, listPlanVersions),
  on(versions.readPlanVersion, readPlanVersion),
  on(versions.askPlanReview, askPlanReview),
  on(versions.answerPlanReview, answerPlanReview),
  onOpen(carry.readCarry, readCarry),
  on(carry.carryPlan, carryPlan),
  on(carry.takeCarryBack, takeCarryBack),
  onOpen(asks.readPrice, readPrice),
  onOpen(asks.readMatrix, readMatrix),
  onOpen(asks.readMatrixSlots, readMatrixSlots),
  onOpen(asks.dealPlan, dealPlan),
  onOpen(criteria.readCriteria, readCriteria),
  onOpen(criteria.readReadiness, readReadiness),
  onOpen(criteria.readShortestWay, readShortestWay),
  on(criteria.addCriterion, addCriterion),
  on(criteria.changeCriterion, changeCriterion),
  on(criteria.removeCriterion, removeCriterion),
  on(criteria.waiveCriterion, waiveCriterion),
]
