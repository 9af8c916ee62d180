import * as builds from '#core/projects/builds-contract.ts'
import * as contract from '#core/projects/contract.ts'
import * as custom from '#core/projects/custom.ts'
import * as words from '#core/projects/words-contract.ts'
import * as environments from '#core/projects/environments-contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { updateRelease } from './change-release.ts'
import { createBuild, readBuild, readPaths, setPaths, tellTouched, updateBuild } from './keep-builds.ts'
import {
  addOutage,
  changeOutage,
  listEnvironments,
  removeEnvironment,
  removeOutage,
  setFactors,
  updateEnvironment,
} from './keep-environments.ts'
import { createCustomField, deleteCustomField, listCustomFields, updateCustomField } from './keep-fields.ts'
import {
  addReason,
  addVerdict,
  copyVerdict,
  orderVerdicts,
  retireReason,
  setPolicy,
  updateVerdict,
} from './keep-words.ts'
import { readFrame } from './read-frame.ts'
import { readProject } from './read-project.ts'
import { readSample } from './read-sample.ts'
import { readToday } from './read-today.ts'
import { createEnvironment, createIteration, createProject, createRelease } from './set-up-project.ts'
import { readTracker, setHolidays, setTracker, updateProject } from './update-project.ts'

/** What may be asked of this area, each endpoint once. */
export const projectRoutes: readonly Route[] = [
  on(contract.readProject, readProject),
  on(contract.createProject, createProject),
  on(contract.updateProject, updateProject),
  on(contract.setHolidays, setHolidays),
  onOpen(contract.readTracker, readTracker),
  onOpen(contract.setTracker, setTracker),
  on(contract.createRelease, createRelease),
  on(contract.updateRelease, updateRelease),
  on(contract.createIteration, createIteration),
  on(builds.createBuild, createBuild),
  on(builds.updateBuild, updateBuild),
  onOpen(builds.readBuild, readBuild),
  on(builds.readPaths, readPaths),
  on(builds.setPaths, setPaths),
  on(builds.tellTouched, tellTouched),
  on(environments.listEnvironments, listEnvironments),
  on(environments.updateEnvironment, updateEnvironment),
  on(environments.removeEnvironment, removeEnvironment),
  on(environments.setFactors, setFactors),
  on(environments.addOutage, addOutage),
  on(environments.changeOutage, changeOutage),
  on(environments.removeOutage, removeOutage),
  on(contract.createEnvironment, createEnvironment),
  onOpen(contract.readFrame, readFrame),
  on(contract.readToday, readToday),
  on(contract.readSample, readSample),
  on(words.setPolicy, setPolicy),
  on(words.addVerdict, addVerdict),
  on(words.copyVerdict, copyVerdict),
  on(words.orderVerdicts, orderVerdicts),
  on(words.updateVerdict, updateVerdict),
  on(words.addReason, addReason),
  on(words.retireReason, retireReason),
  on(custom.listCustomFields, listCustomFields),
  on(custom.createCustomField, createCustomField),
  on(custom.updateCustomField, updateCustomField),
  on(custom.deleteCustomField, deleteCustomField),
]
