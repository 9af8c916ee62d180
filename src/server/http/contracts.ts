import { bulkCases, compareCase, confirmLink, createFolder, createLinks, cutVersion, deleteCases, endLink, listCases, listFolders, orderCases, readCase, readVersion, restoreVersion, reviewCase, storeWorkingCopy, updateCase, writeCaseLines, deleteFolder, mirrorFolders, updateFolder, updateLink } from '#core/cases/contract.ts'
import { bulkDefects, createDefect, deleteDefects, draftDefectFrom, linkDefect, listDefects, orderDefects, readDefect, updateDefect } from '#core/defects/contract.ts'
import { deleteView, findAnything, listViews, saveView } from '#core/finding/contract.ts'
import { dropMapping, exportFile, health, importFile, keepMapping, listImports, listMappings, readImport, replaceText, undoImport, dropStanding, keepStanding, listStanding, runStanding } from '#core/formats/contract.ts'
import { createCustomField, deleteCustomField, listCustomFields, updateCustomField } from '#core/projects/custom.ts'
import { askNothing, doNothing, listHistory, readMe, restoreObject, setUpFirst, signIn, signOut, streamEvents } from '#core/people/contract.ts'
import { createPlan, createSuite, listPlans, listSuites, orderPlans, orderSuites, pinCases, readPlan, readSuite, updatePlan, updateSuite } from '#core/plans/contract.ts'
import { createBuild, createEnvironment, createIteration, createProject, createRelease, readFrame, readProject, readToday, updateBuild, readTracker, setTracker, updateProject } from '#core/projects/contract.ts'
import { coverageCsv, readBoard, readCoverage, readGaps, readStale } from '#core/reports/contract.ts'
import { bulkRequirements, compareRevisions, deleteRequirements, listRequirements, listRevisions, moveRequirement, orderRequirements, readRequirement, updateRequirement, writeRequirementLines, fetchOutside, fetchRequirements, mergeRequirements, readOutside, splitRequirement } from '#core/requirements/contract.ts'
import { addEvidence, assignItems, clockAttempt, commentStep, createRun, dealItems, listItems, listRuns, orderItems, orderRuns, readDesk, readEvidence, readRun, recordStep, recordWhole, removeEvidence, startAttempt, undoVerdict, updateRun } from '#core/runs/contract.ts'
import { addComment, listComments, addFile, listAttachments, listInbox, readInbox, removeFile } from '#core/talk/contract.ts'
import { createRoutine, createTable, createTemplate, cutRoutine, deleteRoutines, deleteTable, deleteTemplate, duplicateCases, extractRoutine, findAlike, findRepeats, holdRow, listRoutines, listTables, listTemplates, mergeCases, moveSteps, orderRoutines, readRoutine, readTable, releaseRow, repinUses, sendCases, splitCase, storeRoutine, unmergeCase, updateRoutine, updateTable, findSame } from '#core/cases/routine-contract.ts'
import { decideSuggestion, readSuggestion, startSuggestion, storeSuggestion } from '#core/cases/review-contract.ts'
import { acceptRows, createModel, decideRows, deleteModel, exportModel, listModelRevisions, readDesigned, readDrafting, restoreModel, tickChecklist, updateModel, writeChecklist } from '#core/techniques/contract.ts'
import type { Contract } from '#core/lib/contract.ts'

/** Everything that may be asked of the server, in the order of the areas: what the description and the permission matrix are made from. */
export const contracts: readonly Contract[] = [
  bulkCases, compareCase, confirmLink, createFolder, createLinks, cutVersion, deleteCases, endLink, listCases, listFolders, orderCases, readCase, readVersion, restoreVersion, reviewCase, storeWorkingCopy, updateCase, writeCaseLines, deleteFolder, mirrorFolders, updateFolder, updateLink,
  bulkDefects, createDefect, deleteDefects, draftDefectFrom, linkDefect, listDefects, orderDefects, readDefect, updateDefect,
  deleteView, findAnything, listViews, saveView,
  dropMapping, exportFile, health, importFile, keepMapping, listImports, listMappings, readImport, replaceText, undoImport, dropStanding, keepStanding, listStanding, runStanding,
  createCustomField, deleteCustomField, listCustomFields, updateCustomField,
  askNothing, doNothing, listHistory, readMe, restoreObject, setUpFirst, signIn, signOut, streamEvents,
  createPlan, createSuite, listPlans, listSuites, orderPlans, orderSuites, pinCases, readPlan, readSuite, updatePlan, updateSuite,
  createBuild, createEnvironment, createIteration, createProject, createRelease, readFrame, readProject, readToday, updateBuild, readTracker, setTracker, updateProject,
  coverageCsv, readBoard, readCoverage, readGaps, readStale,
  bulkRequirements, compareRevisions, deleteRequirements, listRequirements, listRevisions, moveRequirement, orderRequirements, readRequirement, updateRequirement, writeRequirementLines, fetchOutside, fetchRequirements, mergeRequirements, readOutside, splitRequirement,
  addEvidence, assignItems, clockAttempt, commentStep, createRun, dealItems, listItems, listRuns, orderItems, orderRuns, readDesk, readEvidence, readRun, recordStep, recordWhole, removeEvidence, startAttempt, undoVerdict, updateRun,
  addComment, listComments, addFile, listAttachments, listInbox, readInbox, removeFile,
  createRoutine, createTable, createTemplate, cutRoutine, deleteRoutines, deleteTable, deleteTemplate, duplicateCases, extractRoutine, findAlike, findRepeats, holdRow, listRoutines, listTables, listTemplates, mergeCases, moveSteps, orderRoutines, readRoutine, readTable, releaseRow, repinUses, sendCases, splitCase, storeRoutine, unmergeCase, updateRoutine, updateTable, findSame,
  decideSuggestion, readSuggestion, startSuggestion, storeSuggestion,
  acceptRows, createModel, decideRows, deleteModel, exportModel, listModelRevisions, readDesigned, readDrafting, restoreModel, tickChecklist, updateModel, writeChecklist,
]
