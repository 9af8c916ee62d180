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
import { people } from './fill-people.ts'
import { day, testers, type Filling, type Frame, type FilledCase, type Basis } from './fill.ts'

interface Writing {
  readonly frame: Frame
  readonly random: Random
  /** When the requirements were written. */
  readonly start: number
  readonly requirements: Map<string, number>
  readonly cases: FilledCase[]
}
type Branch = ReturnType<typeof parseOutline>[number]

export function writeBasis(tx: Tx, frame: Frame, of: Filling, random: Random): Basis {
  const writing: Writing = { frame, random, start: of.now - 83 * day, requirements: new Map(), cases: [] }
  parseOutline(outline).forEach((branch, place) => writeBranch(tx, writing, branch, place + 1))
  const { cases, requirements, start } = writing
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

const byAnsa = ({ start }: Writing) => ({ now: start, personId: 'ansa' })

function writeBranch(tx: Tx, writing: Writing, branch: Branch, position: number): void {
  const { frame, random, start, cases } = writing
  const { projectId } = frame
  const { title, component } = branch
  const number = takeNumbers(tx, projectId, 'requirement')
  const state = 'Agreed' as const
  const parentId = addRequirement(
    tx,
    { projectId, number, parentId: null, position, title, component, state },
    byAnsa(writing),
  )
  const folderId = addFolder(tx, projectId, title, null)
  branch.requirements.forEach((each, index) => {
    const requirementId = writeRequirement(tx, writing, { of: each, component, parentId, index })
    for (const own of each.cases)
      cases.push(
        writeCase(tx, frame, {
          ...own,
          component,
          requirementId,
          folderId,
          at: start + (2 + Math.floor(random() * 12)) * day,
          random,
        }),
      )
  })
}

const idOf = (name: string): string | null => people.find((each) => each.name === name)?.id ?? null

interface Placed {
  readonly of: Branch['requirements'][number]
  readonly component: string
  readonly parentId: number
  readonly index: number
}

/** The first of a branch comes first; what is risky comes soon; some nobody has given a priority yet. */
function priorityOf({ of: { likelihood, impact }, index }: Placed): number | null {
  if (index === 0) return 1
  if (likelihood * impact >= 12) return 2
  return index % 3 === 2 ? null : 3
}

function writeRequirement(tx: Tx, writing: Writing, placed: Placed): number {
  const { frame, requirements } = writing
  const { of, component, parentId, index } = placed
  const outside = `CD-${100 + requirements.size * 3}`
  const id = addRequirement(
    tx,
    {
      projectId: frame.projectId,
      number: takeNumbers(tx, frame.projectId, 'requirement'),
      parentId,
      position: index + 1,
      title: of.title,
      text: `<p>${of.text}</p>`,
      kind: of.kind,
      component,
      state: of.state,
      likelihood: of.likelihood,
      impact: of.impact,
      priority: priorityOf(placed),
      ownerId: idOf(of.owner),
      outsideRef: outside,
      outsideUrl: `http://tracker.tarnsey.example/${outside}`,
    },
    byAnsa(writing),
  )
  const release = frame.releases.get(of.release) ?? 0
  const iteration = frame.iterations.get(`${of.release}/${of.iteration}`) ?? null
  setTargets(tx, id, [{ release, iteration }])
  requirements.set(of.title, id)
  return id
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
