import * as contract from '#core/cases/contract.ts'
import * as folder from '#core/cases/folder-contract.ts'
import * as link from '#core/cases/link-contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { compareCase, restoreVersion } from './compare-case.ts'
import { cutVersion } from './cut-version.ts'
import { deleteCases } from './delete-cases.ts'
import { createFolder, deleteFolder, listFolders, mirrorFolders, updateFolder } from './keep-folders.ts'
import { confirmLink, createLinks, endLink, endLinks, updateLink } from './link-cases.ts'
import { listCases, orderCases } from './list-cases.ts'
import { readCase, readVersion } from './read-case.ts'
import { storeWorkingCopy } from './store-working-copy.ts'
import { changeCases, updateCase } from './update-case.ts'
import { writeCaseLines } from './write-case-lines.ts'

/** What may be asked of this area, each endpoint once. */
export const caseRoutes: readonly Route[] = [
  onOpen(contract.listCases, listCases),
  onOpen(contract.orderCases, orderCases),
  on(contract.writeCaseLines, writeCaseLines),
  onOpen(contract.readCase, readCase),
  on(contract.updateCase, updateCase),
  on(contract.changeCases, changeCases),
  on(contract.deleteCases, deleteCases),
  on(contract.storeWorkingCopy, storeWorkingCopy),
  on(contract.cutVersion, cutVersion),
  on(contract.readVersion, readVersion),
  on(contract.compareCase, compareCase),
  on(contract.restoreVersion, restoreVersion),
  on(folder.listFolders, listFolders),
  on(folder.updateFolder, updateFolder),
  on(folder.deleteFolder, deleteFolder),
  on(folder.mirrorFolders, mirrorFolders),
  on(folder.createFolder, createFolder),
  on(link.createLinks, createLinks),
  on(link.endLink, endLink),
  on(link.endLinks, endLinks),
  on(link.updateLink, updateLink),
  on(link.confirmLink, confirmLink),
]
