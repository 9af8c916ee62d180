import * as contract from '#core/requirements/contract.ts'
import { joinDeleted, joinParts } from '#server/finding/change-many.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { compareRevisions, listRevisions } from './compare-revisions.ts'
import { deleteRequirements } from './delete-requirements.ts'
import { listRequirements, orderRequirements } from './list-requirements.ts'
import { moveRequirement } from './move-requirement.ts'
import { fetchOutside, fetchRequirements, readOutside } from './outside.ts'
import { readRequirement } from './read-requirement.ts'
import { mergeRequirements, splitRequirement } from './split-merge.ts'
import { changeRequirements, updateRequirement } from './update-requirement.ts'
import { writeRequirementLines } from './write-requirement-lines.ts'

/** What may be asked of this area, each endpoint once. */
export const requirementRoutes: readonly Route[] = [
  onOpen(contract.listRequirements, listRequirements),
  onOpen(contract.orderRequirements, orderRequirements),
  on(contract.writeRequirementLines, writeRequirementLines),
  onOpen(contract.readRequirement, readRequirement),
  on(contract.updateRequirement, updateRequirement),
  on(contract.moveRequirement, moveRequirement),
  onMany(contract.changeRequirements, changeRequirements, joinParts),
  onMany(contract.deleteRequirements, deleteRequirements, joinDeleted),
  on(contract.listRevisions, listRevisions),
  on(contract.compareRevisions, compareRevisions),
  on(contract.splitRequirement, splitRequirement),
  on(contract.mergeRequirements, mergeRequirements),
  on(contract.readOutside, readOutside),
  onOpen(contract.fetchOutside, fetchOutside),
  onOpen(contract.fetchRequirements, fetchRequirements),
]
