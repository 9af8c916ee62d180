import * as contract from '#core/projects/contract.ts'
import * as custom from '#core/projects/custom.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { createCustomField, deleteCustomField, listCustomFields, updateCustomField } from './keep-fields.ts'
import { readFrame } from './read-frame.ts'
import { readProject } from './read-project.ts'
import { readSample } from './read-sample.ts'
import { readToday } from './read-today.ts'
import {
  createBuild,
  createEnvironment,
  createIteration,
  createProject,
  createRelease,
  updateBuild,
} from './set-up-project.ts'
import { readTracker, setTracker, updateProject } from './update-project.ts'

/** What may be asked of this area, each endpoint once. */
export const projectRoutes: readonly Route[] = [
  on(contract.readProject, readProject),
  on(contract.createProject, createProject),
  on(contract.updateProject, updateProject),
  onOpen(contract.readTracker, readTracker),
  onOpen(contract.setTracker, setTracker),
  on(contract.createRelease, createRelease),
  on(contract.createIteration, createIteration),
  on(contract.createBuild, createBuild),
  on(contract.updateBuild, updateBuild),
  on(contract.createEnvironment, createEnvironment),
  onOpen(contract.readFrame, readFrame),
  on(contract.readToday, readToday),
  on(contract.readSample, readSample),
  on(custom.listCustomFields, listCustomFields),
  on(custom.createCustomField, createCustomField),
  on(custom.updateCustomField, updateCustomField),
  on(custom.deleteCustomField, deleteCustomField),
]
