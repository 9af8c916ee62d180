import { keyOf } from '#core/lib/key.ts'
import { emptyContent, type StepText, type StepUse, type VersionContent } from '#core/cases/steps.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { pick, type Random } from '#core/lib/random.ts'
import { addCase, type NewCase, saveCase } from '#db/cases/cases.ts'
import { addFolder } from '#db/cases/folders.ts'
import { addLink } from '#db/cases/links.ts'
import { addVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { addRoutine, addRoutineVersion, routineWorking, saveRoutine, writeRoutineSteps } from '#db/reuse/routines.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { basis, basisRoutines } from './basis/all.ts'
import { oddCases } from './basis/odd.ts'
import type { WrittenCase, WrittenRequirement, WrittenRoutine } from './basis/read-basis.ts'
import { people } from './fill-people.ts'
import { minutesOf, testers } from './story/attempts.ts'
import type { Basis, FilledCase, Filling, Frame } from './fill.ts'

interface Writing {
  readonly frame: Frame
  readonly random: Random
  /** When the requirements were written. */
  readonly start: number
  readonly routines: ReadonlyMap<string, Routine>
  readonly requirements: Map<string, number>
  readonly cases: FilledCase[]
}
export interface Routine {
  readonly id: number
  readonly title: string
  readonly asks: readonly string[]
  readonly ref: string
  /** Its versions, the oldest first. */
  readonly versions: readonly { readonly id: number; readonly name: string }[]
}

const textsIn = (text: string): string => escapeText(text)

/** Everything that `basis` says, as the people of Crossing Desk would have stored it. */
export function writeBasis(tx: Tx, frame: Frame, of: Filling, random: Random): Basis {
  const routines = writeRoutines(tx, frame, of.now)
  const writing: Writing = { frame, random, start: of.now - 83 * day, routines, requirements: new Map(), cases: [] }
  const branches = new Map<string, WrittenRequirement[]>()
  for (const each of basis.requirements) branches.set(each.branch, [...(branches.get(each.branch) ?? []), each])
  ;[...branches].forEach(([title, all], place) => writeBranch(tx, writing, { title, all, position: place + 1 }))
  const folderId = addFolder(tx, frame.projectId, 'Left over', null)
  for (const own of oddCases) writing.cases.push(writeCase(tx, writing, { own, requirement: null, folderId }))
  const { cases, requirements } = writing
  return { cases, requirements, routines }
}

/** One was worded anew since; half of the cases still insert the wording of before. */
const wordedAnew = 'Pay by card'

function writeRoutines(tx: Tx, { projectId }: Frame, now: number): Map<string, Routine> {
  return new Map(basisRoutines.map((own) => [own.title, writeRoutine(tx, projectId, own, now)]))
}

function writeRoutine(tx: Tx, projectId: number, own: WrittenRoutine, now: number): Routine {
  const by = { now: now - 82 * day, personId: 'ansa' }
  const number = takeNumbers(tx, projectId, 'routine')
  const empty = { ...by, emptyFingerprint: stampOf(emptyContent) }
  const { id } = addRoutine(tx, { projectId, number, title: own.title }, empty)
  const write = (steps: readonly StepText[]) =>
    writeRoutineSteps(tx, routineWorking(tx, id), steps, stampOf({ ...emptyContent, steps }))
  const cut = (minor: number, why: string, at: number) => {
    const version = addRoutineVersion(tx, routineWorking(tx, id), { major: 0, minor, why, now: at, personId: 'ansa' })
    saveRoutine(tx, id, { newestVersionId: version })
    return { id: version, name: `0.${minor}` }
  }
  const steps = own.steps.map(({ action, expected }, at): StepText => ({
    id: at + 1,
    action: textsIn(action),
    expected: textsIn(expected),
    data: '',
  }))
  const before = own.title === wordedAnew ? steps.map((step) => ({ ...step, expected: 'The receipt opens' })) : steps
  write(before)
  const versions = [cut(1, '', by.now)]
  if (own.title === wordedAnew) {
    write(steps)
    versions.push(cut(2, 'the receipt of a held booking looks alike: its state is to be read', now - 15 * day))
  }
  return { id, title: own.title, asks: own.asks, ref: keyOf('routine', number), versions }
}

const byAnsa = ({ start }: Writing) => ({ now: start, personId: 'ansa' })

interface Branch {
  readonly title: string
  readonly all: readonly WrittenRequirement[]
  readonly position: number
}

function writeBranch(tx: Tx, writing: Writing, { title, all, position }: Branch): void {
  const { frame, cases } = writing
  const { projectId } = frame
  const component = all[0]?.component ?? ''
  const number = takeNumbers(tx, projectId, 'requirement')
  const branch = { projectId, number, parentId: null, position, title, component, state: 'Agreed' as const }
  const parentId = addRequirement(tx, branch, byAnsa(writing))
  const folderId = addFolder(tx, projectId, title, null)
  all.forEach((each, index) => {
    const id = writeRequirement(tx, writing, { of: each, parentId, index })
    for (const own of basis.cases.filter(({ requirement }) => requirement === each.title))
      cases.push(writeCase(tx, writing, { own, requirement: { ...each, id }, folderId }))
  })
}

const idOf = (name: string): string | null => people.find((each) => each.name === name)?.id ?? null

interface Placed {
  readonly of: WrittenRequirement
  readonly parentId: number
  readonly index: number
}

/** The first of a branch comes first; what is risky comes soon; some nobody has given a priority yet. */
function priorityOf({ of: { likelihood, impact }, index }: Placed): number | null {
  if (index === 0) return 1
  if (likelihood * impact >= 12) return 2
  return index % 3 === 2 ? null : 3
}

const states = ['Draft', 'Agreed', 'Done', 'Dropped'] as const

function writeRequirement(tx: Tx, writing: Writing, placed: Placed): number {
  const { frame, requirements } = writing
  const { of, parentId, index } = placed
  const { title, kind, component, likelihood, impact, reference } = of
  const id = addRequirement(
    tx,
    {
      projectId: frame.projectId,
      number: takeNumbers(tx, frame.projectId, 'requirement'),
      parentId,
      position: index + 1,
      title,
      text: `<p>${textsIn(of.text)}</p>`,
      kind,
      component,
      state: states.find((state) => state === of.state) ?? 'Agreed',
      likelihood,
      impact,
      priority: priorityOf(placed),
      ownerId: idOf(of.owner),
      ...(reference !== '' && { outsideRef: reference, outsideUrl: `http://tracker.tarnsey.example/${reference}` }),
    },
    byAnsa(writing),
  )
  const release = frame.releases.get(of.release) ?? 0
  setTargets(tx, id, [{ release, iteration: frame.iterations.get(`${of.release}/${of.iteration}`) ?? null }])
  requirements.set(title, id)
  return id
}

interface NewDemoCase {
  readonly own: WrittenCase
  readonly requirement: (WrittenRequirement & { readonly id: number }) | null
  readonly folderId: number
}

const typeOf = (component: string): string =>
  component === 'Platform' ? 'Load' : component === 'Access' ? 'Accessibility' : 'Functional'

/** One in three has no minutes, so that they are learned; of the others every second is a round guess, far too long. */
const givenMinutes = (own: Parameters<typeof minutesOf>[0], number: number): number | null =>
  [null, minutesOf(own), 5 * Math.ceil(minutesOf(own))][number % 3] ?? null

function writeCase(tx: Tx, writing: Writing, { own, requirement, folderId }: NewDemoCase): FilledCase {
  const { frame, random } = writing
  const at = writing.start + (2 + Math.floor(random() * 12)) * day
  const content = contentOf(own, writing.routines, requirement?.release === '2.3' ? 'old' : 'new')
  const personId = pick(random, testers)
  const number = takeNumbers(tx, frame.projectId, 'case')
  const { release = '', iteration = 0 } = requirement ?? {}
  const told = { ...own, release, iteration }
  const id = storeCase(
    tx,
    {
      projectId: frame.projectId,
      number,
      title: own.title,
      position: number,
      folderId,
      component: own.component,
      importance: own.importance,
      ownerId: personId,
      createdAt: at,
      estimate: own.draft ? null : givenMinutes(told, number),
      automation: random() < 0.12 ? 'Candidate' : 'Manual',
      type: typeOf(own.component),
    },
    content,
    { now: at, personId },
  )
  const approved = !own.draft && requirement !== null && !staysDraft(told)
  const versionId = own.draft ? null : cutVersions(tx, id, { at: at + day, author: personId, approved })
  if (requirement)
    addLink(
      tx,
      { projectId: frame.projectId, requirementId: requirement.id, caseId: id, revision: 1, versionId },
      { now: at, personId },
    )
  return { id, own: told, requirementId: requirement?.id ?? null, versionId, approved }
}

/** A new case with what its working copy says; one without steps stays the empty one it is made as. Answers its id. */
export function storeCase(
  tx: Tx,
  of: NewCase,
  content: VersionContent,
  by: { readonly now: number; readonly personId: string },
): number {
  const made = addCase(tx, { ...of, steps: content.steps.length }, { ...by, emptyFingerprint: stampOf(emptyContent) })
  if (content.steps.length > 0) writeContent(tx, { id: made.workingId, caseId: made.id }, content, stampOf(content))
  return made.id
}

/** Some of what is new in this release is written and not approved yet; nothing that matters much, and nothing that finds a fault. */
const staysDraft = ({ title, importance, release, steps }: WrittenCase & { readonly release: string }): boolean =>
  release === '2.4' &&
  ['Medium', 'Low'].includes(importance) &&
  title.length % 4 === 1 &&
  !steps.some((step) => 'fault' in step && step.fault !== null)

function cutVersions(tx: Tx, caseId: number, of: { at: number; author: string; approved: boolean }): number {
  const working = workingCopy(tx, caseId)
  const first = { major: 0, minor: 1, state: 'Draft' as const, why: '', now: of.at, personId: of.author }
  const draft = addVersion(tx, working, first)
  if (!of.approved) {
    saveCase(tx, caseId, { newestVersionId: draft, state: 'Draft' })
    return draft
  }
  const personId = of.author === 'mira' ? 'ansa' : 'mira'
  const second = { major: 1, minor: 0, state: 'Approved' as const, why: 'approved', now: of.at + day, personId }
  const approved = addVersion(tx, working, second)
  saveCase(tx, caseId, { newestVersionId: approved, approvedVersionId: approved, state: 'Approved' })
  return approved
}

/** What a case says, with its routines inserted in the version that was there when it was written. */
export function contentOf(
  own: Pick<WrittenCase, 'steps' | 'columns' | 'rows'> & { readonly before?: string },
  routines: ReadonlyMap<string, Routine>,
  age: 'old' | 'new',
): VersionContent {
  const steps = own.steps.map((step): StepText => {
    if ('action' in step) return { id: null, action: textsIn(step.action), expected: textsIn(step.expected), data: '' }
    const routine = routines.get(step.routine)
    if (!routine) throw new Error(`the demo has no routine “${step.routine}”`)
    return useOf(routine, age, Object.fromEntries(routine.asks.map((name, at) => [name, step.values[at] ?? ''])))
  })
  const rows = own.rows.map((row) => Object.fromEntries(own.columns.map((name, at) => [name, row[at] ?? ''])))
  return { preconditions: textsIn(own.before ?? ''), steps, parameters: own.columns, rows }
}

/** A step that stands for a routine. */
function useOf(routine: Routine, age: 'old' | 'new', values: Readonly<Record<string, string>>): StepText {
  const version = age === 'old' ? routine.versions[0] : routine.versions.at(-1)
  const use: StepUse = {
    kind: 'routine',
    version: version?.id ?? 0,
    ref: routine.ref,
    name: version?.name ?? '',
    values,
  }
  return { id: null, action: routine.title, expected: '', data: '', use }
}
