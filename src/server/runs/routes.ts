import * as contract from '#core/runs/contract.ts'
import { joinParts } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { changeItems, dealItems, listItems, orderItems } from './assign-items.ts'
import { addEvidence, readEvidence, removeEvidence } from './keep-evidence.ts'
import { createRun, listRuns, orderRuns, readRun, updateRun } from './keep-runs.ts'
import { clockAttempt, commentStep } from './note-step.ts'
import { readDesk } from './read-desk.ts'
import { recordStep, recordWhole, undoVerdict } from './record-verdict.ts'
import { startAttempt } from './start-attempt.ts'

/** What may be asked of this area, each endpoint once. */
export const runRoutes: readonly Route[] = [
  on(contract.listRuns, listRuns),
  on(contract.orderRuns, orderRuns),
  on(contract.createRun, createRun),
  on(contract.readRun, readRun),
  on(contract.updateRun, updateRun),
  on(contract.listItems, listItems),
  on(contract.orderItems, orderItems),
  onMany(contract.changeItems, changeItems, joinParts),
  on(contract.dealItems, dealItems),
  on(contract.readDesk, readDesk),
  on(contract.startAttempt, startAttempt),
  on(contract.recordStep, recordStep),
  on(contract.recordWhole, recordWhole),
  on(contract.undoVerdict, undoVerdict),
  on(contract.commentStep, commentStep),
  on(contract.clockAttempt, clockAttempt),
  onOpen(contract.addEvidence, addEvidence),
  onOpen(contract.readEvidence, readEvidence),
  on(contract.removeEvidence, removeEvidence),
]
