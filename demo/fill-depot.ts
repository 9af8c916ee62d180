import { escapeText } from '#core/lib/plain-text.ts'
import { addFolder } from '#db/cases/folders.ts'
import { addLink } from '#db/cases/links.ts'
import type { Tx } from '#db/open.ts'
import { addMember } from '#db/people/members.ts'
import { addBuild, addRelease } from '#db/projects/releases.ts'
import { addProject, takeNumbers } from '#db/projects/projects.ts'
import { addRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { depotBasis } from './basis/depot.ts'
import type { WrittenRequirement } from './basis/read-basis.ts'
import { contentOf, storeCase } from './fill-basis.ts'

import { day } from '../standins/crossing-desk/clock.ts'
import { datesFrom, zone } from './story/calendar.ts'

interface Depot {
  readonly projectId: number
  readonly releaseId: number
  readonly by: { readonly now: number; readonly personId: string }
}

/** A second, small project, so that more than one is there to choose from. */
export function fillDepot(tx: Tx, now: number): void {
  const projectId = addProject(tx, {
    key: 'DEPOT',
    name: 'Spare-parts store',
    product: 'Depot',
    timeZone: zone,
    createdAt: now - 60 * day,
  })
  addMember(tx, projectId, 'mira', { role: 'lead' })
  addMember(tx, projectId, 'piet', { role: 'tester', sharePercent: 50 })
  const dueOn = datesFrom(now)(40)
  const releaseId = addRelease(tx, projectId, { name: '1.0', state: 'In test', startOn: null, dueOn })
  addBuild(tx, projectId, { releaseId, name: '1.0.0-a', offeredAt: now - 5 * day })
  const depot = { projectId, releaseId, by: { now: now - 20 * day, personId: 'mira' } }
  depotBasis.requirements.forEach((own, index) => writeRequirement(tx, depot, own, index + 1))
}

function writeRequirement(tx: Tx, depot: Depot, own: WrittenRequirement, position: number): void {
  const { projectId, releaseId, by } = depot
  const { title, kind, component, likelihood, impact } = own
  const requirementId = addRequirement(
    tx,
    {
      projectId,
      number: takeNumbers(tx, projectId, 'requirement'),
      parentId: null,
      position,
      title,
      text: `<p>${escapeText(own.text)}</p>`,
      kind,
      state: 'Agreed',
      component,
      likelihood,
      impact,
    },
    by,
  )
  setTargets(tx, requirementId, [{ release: releaseId, iteration: null }])
  const folderId = addFolder(tx, projectId, own.branch, null)
  for (const each of depotBasis.cases.filter(({ requirement }) => requirement === title)) {
    const content = contentOf(each, new Map(), 'new')
    const number = takeNumbers(tx, projectId, 'case')
    const { title: named, importance } = each
    const of = { projectId, number, title: named, position: number, component, importance, folderId }
    const caseId = storeCase(tx, of, content, by)
    addLink(tx, { projectId, requirementId, caseId, revision: 1, versionId: null }, by)
  }
}
