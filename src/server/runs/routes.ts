import { doubtOutage as doubtContract } from '#core/projects/environments-contract.ts'
import * as installed from '#core/projects/installed-contract.ts'
import * as composing from '#core/runs/compose-contract.ts'
import { sumOf } from '#core/lib/figures.ts'
import * as attempts from '#core/runs/attempts-contract.ts'
import * as contract from '#core/runs/contract.ts'
import * as desk from '#core/runs/desk-contract.ts'
import * as scope from '#core/runs/scope-contract.ts'
import * as shape from '#core/runs/shape-contract.ts'
import * as notes from '#core/runs/note-contract.ts'
import { readShared as shareContract } from '#core/runs/share-contract.ts'
import * as many from '#core/runs/many-contract.ts'
import * as quarantine from '#core/runs/quarantine-contract.ts'
import { watchRun as watchContract } from '#core/runs/watch-contract.ts'
import * as moving from '#core/runs/move-contract.ts'
import * as waits from '#core/runs/waits-contract.ts'
import { joinParts } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, onParts, type Route } from '#server/http/route.ts'
import { changeItems, dealItems, listItems, orderItems } from './assign-items.ts'
import { changeAttempts, listAttempts, orderAttempts, readAttempt } from './keep-attempts.ts'
import { doubtAttempts, liftDoubt, listDoubts, tellDoubt } from './doubt-attempts.ts'
import { doubtOutage } from './doubt-outage.ts'
import { correctInstalled, listInstalled, sayInstalled, takeBackInstalled } from './keep-installed.ts'
import { addEvidence, readEvidence, removeEvidence } from './keep-evidence.ts'
import { createRun, previewRun } from './create-run.ts'
import { composeItems, composeRun } from './compose-run.ts'
import { addToRun, dropItems, placeItems } from './change-scope.ts'
import { listRuns, orderRuns, readRun, updateRun } from './keep-runs.ts'
import { giveVerdicts, takeVerdictsBack } from './give-verdicts.ts'
import { clockAttempt, commentStep, setReason, timeAttempt } from './note-step.ts'
import { readShared } from './read-shared.ts'
import { deleteRuns, endRuns, mergeRuns, splitRun, tagRuns, unmergeRuns } from './shape-runs.ts'
import { watchRun } from './read-watch.ts'
import { moveAttempt, moveAttemptBack, swapAttemptRows } from './move-attempt.ts'
import { readRunScope } from './read-scope.ts'
import { readDesk } from './read-desk.ts'
import { recordStep, recordWhole, undoVerdict } from './record-verdict.ts'
import { startAttempt } from './start-attempt.ts'
import { endQuarantine, quarantineCases } from './keep-quarantine.ts'
import { holdItems, waitFor } from './keep-waits.ts'

/** What may be asked of this area, each endpoint once. */
export const runRoutes: readonly Route[] = [
  on(contract.listRuns, listRuns),
  on(contract.orderRuns, orderRuns),
  onParts(contract.createRun, createRun),
  onOpen(contract.previewRun, previewRun),
  onOpen(composing.composeRun, composeRun),
  onOpen(composing.composeItems, composeItems),
  onParts(composing.addItems, addToRun),
  onMany(composing.dropItems, dropItems, (parts, stopped) => ({
    changed: sumOf(parts, ({ changed }) => changed),
    begun: sumOf(parts, ({ begun }) => begun),
    stopped,
  })),
  onOpen(scope.readRunScope, readRunScope),
  on(scope.placeItems, placeItems),
  on(shape.splitRun, splitRun),
  on(shape.mergeRuns, mergeRuns),
  on(shape.unmergeRuns, unmergeRuns),
  on(shape.deleteRuns, deleteRuns),
  on(shape.endRuns, endRuns),
  on(shape.tagRuns, tagRuns),
  on(contract.readRun, readRun),
  on(contract.updateRun, updateRun),
  on(contract.listItems, listItems),
  on(contract.orderItems, orderItems),
  onMany(contract.changeItems, changeItems, joinParts),
  onOpen(contract.dealItems, dealItems),
  onMany(waits.waitFor, waitFor, (parts, stopped) => ({
    changed: sumOf(parts, ({ changed }) => changed),
    undo: parts.flatMap(({ undo }) => undo),
    stopped,
  })),
  on(watchContract, watchRun),
  on(waits.holdItems, holdItems),
  on(quarantine.quarantineCases, quarantineCases),
  on(quarantine.endQuarantine, endQuarantine),
  onMany(many.giveVerdicts, giveVerdicts, (parts, stopped) => ({
    changed: sumOf(parts, ({ changed }) => changed),
    undo: parts.flatMap(({ undo }) => undo),
    left: parts.flatMap(({ left }) => left),
    stopped,
  })),
  onMany(many.takeVerdictsBack, takeVerdictsBack, (parts, stopped) => ({
    changed: sumOf(parts, ({ changed }) => changed),
    stopped,
  })),
  onOpen(attempts.listAttempts, listAttempts),
  onOpen(attempts.orderAttempts, orderAttempts),
  on(attempts.readAttempt, readAttempt),
  onMany(attempts.changeAttempts, changeAttempts, joinParts),
  on(moving.moveAttempt, moveAttempt),
  on(moving.moveAttemptBack, moveAttemptBack),
  on(moving.swapAttemptRows, swapAttemptRows),
  onOpen(shareContract, readShared),
  onOpen(attempts.tellDoubt, tellDoubt),
  on(attempts.listDoubts, listDoubts),
  onOpen(attempts.doubtAttempts, doubtAttempts),
  onOpen(attempts.liftDoubt, liftDoubt),
  on(desk.readDesk, readDesk),
  on(desk.startAttempt, startAttempt),
  on(desk.recordStep, recordStep),
  on(desk.recordWhole, recordWhole),
  on(desk.undoVerdict, undoVerdict),
  on(notes.commentStep, commentStep),
  on(notes.setReason, setReason),
  on(notes.clockAttempt, clockAttempt),
  on(notes.timeAttempt, timeAttempt),
  onOpen(desk.addEvidence, addEvidence),
  onOpen(desk.readEvidence, readEvidence),
  on(notes.removeEvidence, removeEvidence),
  on(installed.listInstalled, listInstalled),
  onOpen(installed.sayInstalled, sayInstalled),
  onOpen(installed.correctInstalled, correctInstalled),
  onOpen(installed.takeBackInstalled, takeBackInstalled),
  onOpen(doubtContract, doubtOutage),
]
