import { addDays, format } from 'date-fns'
import { addCase } from '#db/cases/cases.ts'
import { addLink } from '#db/cases/links.ts'
import type { Tx } from '#db/open.ts'
import { addMember } from '#db/people/members.ts'
import { addBuild, addRelease } from '#db/projects/releases.ts'
import { addProject, takeNumbers } from '#db/projects/projects.ts'
import { addRequirement } from '#db/requirements/requirements.ts'

const day = 86_400_000

/** A second, small project, so that more than one is there to choose from. */
export function fillDepot(tx: Tx, of: { readonly now: number; readonly emptyFingerprint: string }): void {
  const projectId = addProject(tx, {
    key: 'DEPOT',
    name: 'Spare-parts store',
    product: 'Depot',
    timeZone: 'Europe/Oslo',
    createdAt: of.now - 60 * day,
  })
  addMember(tx, projectId, 'mira', { role: 'lead' })
  addMember(tx, projectId, 'piet', { role: 'tester', sharePercent: 50 })
  const releaseId = addRelease(tx, projectId, {
    name: '1.0',
    state: 'In test',
    startOn: null,
    dueOn: format(addDays(of.now, 40), 'yyyy-MM-dd'),
  })
  addBuild(tx, projectId, { releaseId, name: '1.0.0-a', offeredAt: of.now - 5 * day })
  const by = { now: of.now - 20 * day, personId: 'mira' }
  for (const [index, title] of [
    'A part is found by its number',
    'Stock never falls below nought',
    'An order is placed before the last part is used',
  ].entries()) {
    const requirementId = addRequirement(
      tx,
      {
        projectId,
        number: takeNumbers(tx, projectId, 'requirement'),
        parentId: null,
        position: index + 1,
        title,
        state: 'Agreed',
        component: 'Stock',
        likelihood: 3,
        impact: 3,
      },
      by,
    )
    const made = addCase(
      tx,
      {
        projectId,
        number: takeNumbers(tx, projectId, 'case'),
        title: `${title}: the usual way`,
        position: index + 1,
        component: 'Stock',
      },
      { ...by, emptyFingerprint: of.emptyFingerprint },
    )
    addLink(tx, { projectId, requirementId, caseId: made.id, revision: 1, versionId: null }, by)
  }
}
