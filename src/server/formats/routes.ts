import * as contract from '#core/formats/contract.ts'
import * as runFiles from '#core/runs/file-contract.ts'
import { printPlan as printContract } from '#core/plans/versions-contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { exportChosen, exportFile } from './export-file.ts'
import { importFile } from './import-file.ts'
import { dropMapping, keepMapping, listImports, listMappings } from './keep-imports.ts'
import { printPlan } from './print-plan.ts'
import { printRun, sendItemsOut } from './print-run.ts'
import { bringItemsIn } from './bring-items.ts'
import { replaceText } from './replace-text.ts'
import { dropStanding, keepStanding, listStanding, runStanding } from './standing-imports.ts'
import { undoImport } from './undo-import.ts'

/** What may be asked of this area, each endpoint once. */
export const formatRoutes: readonly Route[] = [
  onOpen(contract.importFile, importFile),
  on(contract.listImports, listImports),
  onOpen(contract.undoImport, undoImport),
  on(contract.listMappings, listMappings),
  on(contract.keepMapping, keepMapping),
  on(contract.dropMapping, dropMapping),
  onOpen(contract.exportFile, exportFile),
  onOpen(contract.exportChosen, exportChosen),
  on(contract.listStanding, listStanding),
  on(contract.keepStanding, keepStanding),
  onOpen(contract.runStanding, runStanding),
  on(contract.dropStanding, dropStanding),
  onOpen(contract.replaceText, replaceText),
  onOpen(printContract, printPlan),
  onOpen(runFiles.printRun, printRun),
  onOpen(runFiles.sendItemsOut, sendItemsOut),
  onOpen(runFiles.bringItemsIn, bringItemsIn),
]
