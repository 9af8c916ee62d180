import * as contract from '#core/reuse/contract.ts'
import * as copy from '#core/reuse/copy-contract.ts'
import * as repeat from '#core/reuse/repeat-contract.ts'
import * as table from '#core/reuse/table-contract.ts'
import * as template from '#core/reuse/template-contract.ts'
import { joinDeleted } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { duplicateCases, moveSteps, sendCases, splitCase, takeBackCases } from './copy-cases.ts'
import { extractRoutine } from './extract-routine.ts'
import { findAlike, findRepeats, findSame } from './find-repeats.ts'
import {
  createRoutine,
  cutRoutine,
  deleteRoutines,
  listRoutines,
  orderRoutines,
  readRoutine,
  storeRoutine,
  updateRoutine,
} from './keep-routines.ts'
import {
  createTable,
  deleteTable,
  fillTable,
  holdRow,
  listTables,
  readTable,
  releaseRow,
  updateTable,
} from './keep-tables.ts'
import { createTemplate, deleteTemplate, listTemplates } from './keep-templates.ts'
import { mergeCases, unmergeCase } from './merge-cases.ts'
import { repinUses } from './repin-uses.ts'

/** What may be asked of this area, each endpoint once. */
export const reuseRoutes: readonly Route[] = [
  on(contract.listRoutines, listRoutines),
  on(contract.orderRoutines, orderRoutines),
  on(contract.createRoutine, createRoutine),
  on(contract.readRoutine, readRoutine),
  on(contract.updateRoutine, updateRoutine),
  on(contract.storeRoutine, storeRoutine),
  on(contract.cutRoutine, cutRoutine),
  onMany(contract.deleteRoutines, deleteRoutines, joinDeleted),
  on(contract.repinUses, repinUses),
  on(contract.extractRoutine, extractRoutine),
  on(copy.mergeCases, mergeCases),
  on(copy.unmergeCase, unmergeCase),
  on(copy.duplicateCases, duplicateCases),
  on(copy.sendCases, sendCases),
  on(copy.takeBackCases, takeBackCases),
  on(copy.splitCase, splitCase),
  on(copy.moveSteps, moveSteps),
  onOpen(repeat.findRepeats, findRepeats),
  onOpen(repeat.findSame, findSame),
  onOpen(repeat.findAlike, findAlike),
  on(table.listTables, listTables),
  on(table.createTable, createTable),
  on(table.readTable, readTable),
  on(table.updateTable, updateTable),
  on(table.deleteTable, deleteTable),
  on(table.fillTable, fillTable),
  on(table.releaseRow, releaseRow),
  on(table.holdRow, holdRow),
  on(template.listTemplates, listTemplates),
  on(template.createTemplate, createTemplate),
  on(template.deleteTemplate, deleteTemplate),
]
