import { emptyContent, type VersionContent } from '#core/cases/steps.ts'
import { pick, type Random } from '#core/lib/random.ts'
import { addCase, saveCase } from '#db/cases/cases.ts'
import { addFolder } from '#db/cases/folders.ts'
import { addLink } from '#db/cases/links.ts'
import { addVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { heroCases } from './hero-cases.ts'
import { openings, orphanCases, outline } from './outline.ts'
import { parseOutline } from './parse-outline.ts'
import { day, people, testers, type Filling, type Frame, type FilledCase, type Basis } from './fill.ts'

export function writeBasis(tx: Tx, frame: Frame, of: Filling, random: Random): Basis {
  const requirements = new Map<string, number>()
  const cases: FilledCase[] = []
  const nameId = new Map<string, string>(people.map(({ id, name }) => [name, id]))
  const branches = parseOutline(outline)
  const start = of.now - 83 * day
  branches.forEach((branch, place) => {
    const by = { now: start, personId: 'ansa' }
    const number = takeNumbers(tx, frame.projectId, 'requirement')
    const branchId = addRequirement(
      tx,
      {
        projectId: frame.projectId,
        number,
        parentId: null,
        position: place + 1,
        title: branch.title,
        component: branch.component,
        state: 'Agreed',
      },
      by,
    )
    const folderId = addFolder(tx, frame.projectId, branch.title, null)
    branch.requirements.forEach((each, index) => {
      const requirementId = addRequirement(
        tx,
        {
          projectId: frame.projectId,
          number: takeNumbers(tx, frame.projectId, 'requirement'),
          parentId: branchId,
          position: index + 1,
          title: each.title,
          text: `<p>${each.text}</p>`,
          kind: each.kind,
          component: branch.component,
          state: each.state,
          likelihood: each.likelihood,
          impact: each.impact,
          priority: index === 0 ? 1 : each.likelihood * each.impact >= 12 ? 2 : index % 3 === 2 ? null : 3,
          ownerId: nameId.get(each.owner) ?? null,
          outsideRef: `CD-${100 + requirements.size * 3}`,
          outsideUrl: `http://tracker.tarnsey.example/CD-${100 + requirements.size * 3}`,
        },
        by,
      )
      setTargets(tx, requirementId, [
        {
          release: frame.releases.get(each.release) ?? 0,
          iteration: frame.iterations.get(`${each.release}/${each.iteration}`) ?? null,
        },
      ])
      requirements.set(each.title, requirementId)
      for (const own of each.cases)
        cases.push(
          writeCase(tx, frame, {
            ...own,
            component: branch.component,
            requirementId,
            folderId,
            at: start + (2 + Math.floor(random() * 12)) * day,
            random,
          }),
        )
    })
  })
  const folderId = addFolder(tx, frame.projectId, 'Left over', null)
  for (const title of orphanCases)
    cases.push(
      writeCase(tx, frame, {
        title,
        importance: 'Low',
        written: true,
        component: 'Booking',
        requirementId: null,
        folderId,
        at: start,
        random,
      }),
    )
  return { cases, requirements }
}

interface NewDemoCase {
  readonly title: string
  readonly importance: 'Critical' | 'High' | 'Medium' | 'Low'
  readonly written: boolean
  readonly component: string
  readonly requirementId: number | null
  readonly folderId: number
  readonly at: number
  readonly random: Random
}

function writeCase(tx: Tx, frame: Frame, of: NewDemoCase): FilledCase {
  const content = of.written ? contentOf(of.title, of.component) : emptyContent
  const personId = pick(of.random, testers)
  const number = takeNumbers(tx, frame.projectId, 'case')
  const made = addCase(
    tx,
    {
      projectId: frame.projectId,
      number,
      title: of.title,
      position: number,
      folderId: of.folderId,
      component: of.component,
      importance: of.importance,
      ownerId: personId,
      steps: content.steps.length,
      createdAt: of.at,
      estimate: of.written ? 4 + Math.round(content.steps.length * 1.5 + of.random() * 12) : null,
      automation: of.random() < 0.12 ? 'Candidate' : 'Manual',
      type: of.component === 'Platform' ? 'Load' : of.component === 'Access' ? 'Accessibility' : 'Functional',
    },
    { now: of.at, personId, emptyFingerprint: stampOf(emptyContent) },
  )
  let versionId: number | null = null
  if (of.written) {
    writeContent(tx, { id: made.workingId, caseId: made.id }, content, stampOf(content))
    versionId = approve(tx, made.id, { at: of.at + day, author: personId, random: of.random })
  }
  if (of.requirementId !== null)
    addLink(
      tx,
      { projectId: frame.projectId, requirementId: of.requirementId, caseId: made.id, revision: 1, versionId },
      { now: of.at, personId },
    )
  return {
    id: made.id,
    title: of.title,
    component: of.component,
    requirementId: of.requirementId,
    importance: of.importance,
    versionId,
    written: of.written,
  }
}

function approve(tx: Tx, caseId: number, of: { at: number; author: string; random: Random }): number {
  const working = workingCopy(tx, caseId)
  const draft = addVersion(tx, working, {
    major: 0,
    minor: 1,
    state: 'Draft',
    why: '',
    now: of.at,
    personId: of.author,
  })
  if (of.random() < 0.15) {
    saveCase(tx, caseId, { newestVersionId: draft, state: 'Draft' })
    return draft
  }
  const approved = addVersion(tx, working, {
    major: 1,
    minor: 0,
    state: 'Approved',
    why: 'approved',
    now: of.at + day,
    personId: of.author === 'mira' ? 'ansa' : 'mira',
  })
  saveCase(tx, caseId, { newestVersionId: approved, approvedVersionId: approved, state: 'Approved' })
  return approved
}

export function contentOf(title: string, component: string): VersionContent {
  const hero = heroCases[title]
  if (hero) return hero
  const opening = (openings[component] ?? []).map(([action, expected]) => ({ id: null, action, expected, data: '' }))
  const subject = title.replace(/^./, (first) => first.toLowerCase())
  return {
    ...emptyContent,
    steps: [
      ...opening,
      { id: null, action: `Bring about what the case asks: ${subject}`, expected: `${title}.`, data: '' },
      {
        id: null,
        action: 'Look at the log of the booking',
        expected: 'What was done is there once, with its time',
        data: '',
      },
    ],
  }
}
