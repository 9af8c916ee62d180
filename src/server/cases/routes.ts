import { sumOf } from '#core/lib/figures.ts'
import * as contract from '#core/cases/contract.ts'
import * as folder from '#core/cases/folder-contract.ts'
import * as link from '#core/cases/link-contract.ts'
import { joinDeleted, joinParts } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { compareCase, restoreVersion } from './compare-case.ts'
import { cutVersion } from './cut-version.ts'
import { deleteCases } from './delete-cases.ts'
import { createFolder, deleteFolder, listFolders, mirrorFolders, updateFolder } from './keep-folders.ts'
import { byLongerSide, confirmLink, createLinks, endLink, endLinks, joinLinked, updateLink } from './link-cases.ts'
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
  onMany(contract.changeCases, changeCases, joinParts),
  onMany(contract.deleteCases, deleteCases, joinDeleted),
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
  onMany(link.createLinks, createLinks, joinLinked, byLongerSide),
  on(link.endLink, endLink),
  onMany(link.endLinks, endLinks, (parts, stopped) => ({ ended: sumOf(parts, ({ ended }) => ended), stopped })),
  on(link.updateLink, updateLink),
  on(link.confirmLink, confirmLink),
]
