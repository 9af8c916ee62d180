import { setImmediate } from 'node:timers/promises'
import { emptyContent, fingerprintText } from '#core/cases/steps.ts'
import type { CaseRead, Problem, RequirementRead } from '#core/formats/read-sheet.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addCase, addFolder, addLink, findFolder, lastCasePosition, writeContent } from '#db/cases/queries.ts'
import { dropStaged, findByTitle, showStaged } from '#db/formats/staging.ts'
import { projectDetail, takeNumbers } from '#db/projects/queries.ts'
import { addRequirement, findRequirement, lastPosition, setTargets } from '#db/requirements/queries.ts'
import { type Context, fingerprint } from '#server/http/context.ts'

export type Store = <T>(work: (context: Context) => T) => T

const sliceMs = 12

/**
 * Stores what was read: rows are staged out of sight in slices short enough that nobody's verdict waits for them,
 * then shown by one short transaction. What goes wrong leaves nothing behind.
 */
export async function importRequirements(store: Store, read: readonly RequirementRead[], release: number | null): Promise<string[]> {
  const plan = store((context) => resolveRequirements(context, read, release))
  const ids: number[] = []
  return staged(store, 'requirement', {
    count: read.length,
    stage: (context, index) => {
      const row = read[index]
      const own = plan.rows[index]
      if (!row || !own) return undefined
      const id = addRequirement(context.tx, {
        projectId: context.project.id, number: plan.firstNumber + index, parentId: null, position: plan.firstPosition + index, title: row.title, text: row.text, kind: row.kind, component: row.component, state: row.state,
        likelihood: row.likelihood, impact: row.impact, ownerId: own.ownerId, outsideRef: row.reference, deletedAt: 1,
      }, context.by)
      if (own.release !== null) setTargets(context.tx, id, [{ release: own.release, iteration: own.iteration }])
      ids[index] = id
      return id
    },
    show: (context) => showStaged(context.tx, 'requirement', ids, read.map(({ parent }, index) => ({ id: ids[index] ?? 0, parent: typeof parent === 'number' ? (ids[parent] ?? null) : (plan.rows[index]?.parentId ?? null) }))),
    refs: read.map((_, index) => `RQ-${plan.firstNumber + index}`),
  })
}

function resolveRequirements(context: Context, read: readonly RequirementRead[], release: number | null) {
  const { tx, project } = context
  const detail = projectDetail(tx, project, 'lead')
  const problems: Problem[] = []
  const rows = read.map((row) => {
    const named = row.release === '' ? (release ?? undefined) : detail.releases.find(({ name }) => name.toLowerCase() === row.release.toLowerCase())?.id
    if (row.release !== '' && named === undefined) problems.push({ at: `row ${row.row}`, message: `there is no release “${row.release}” in this project` })
    const iteration = row.iteration === '' ? undefined : detail.iterations.find((each) => each.release === named && each.name.toLowerCase() === row.iteration.toLowerCase())
    if (row.iteration !== '' && !iteration) problems.push({ at: `row ${row.row}`, message: `there is no iteration “${row.iteration}” in that release` })
    const parentId = row.parent !== null && typeof row.parent === 'object' ? parentInProject(context, row.parent.named) : null
    if (row.parent !== null && typeof row.parent === 'object' && parentId === null) problems.push({ at: `row ${row.row}`, message: `its parent “${row.parent.named}” is neither in the file nor in the project` })
    return { release: named ?? null, iteration: iteration?.id ?? null, parentId, ownerId: ownerOf(detail.people, row.owner, row.row, problems) }
  })
  problems.push(...circles(read))
  if (problems.length > 0) throw refusal(problems)
  return { rows, firstNumber: takeNumbers(tx, project.id, 'RQ', read.length), firstPosition: lastPosition(tx, project.id, null) + 1 }
}

/** Rows that are, by way of their parents, below themselves. */
function circles(read: readonly RequirementRead[]): Problem[] {
  return read.flatMap((row, index) => {
    let at = row.parent
    for (let hops = 0; typeof at === 'number' && hops <= read.length; hops++) {
      if (at === index) return [{ at: `row ${row.row}`, message: 'is below itself by way of its parents' }]
      at = read[at]?.parent ?? null
    }
    return []
  })
}

function parentInProject({ tx, project }: Context, named: string): number | null {
  const key = /^RQ-(\d+)$/i.exec(named)
  const byKey = key ? findRequirement(tx, project.id, Number(key[1])) : undefined
  return byKey && byKey.deletedAt === null ? byKey.id : findByTitle(tx, 'requirement', project.id, named)
}

function ownerOf(people: readonly { id: string; name: string }[], name: string, row: number, problems: Problem[]): string | null {
  if (name === '') return null
  const person = people.find((each) => each.name.toLowerCase() === name.toLowerCase())
  if (!person) problems.push({ at: `row ${row}`, message: `there is nobody called “${name}” in this project` })
  return person?.id ?? null
}

export function refusal(problems: readonly Problem[]): Refusal {
  const some = problems.slice(0, 3).map(({ at, message }) => `${at}: ${message}`).join('; ')
  return new Refusal('invalid', `Nothing was imported. ${problems.length === 1 ? 'One problem' : `${problems.length} problems`}: ${some}${problems.length > 3 ? '; and more' : ''}.`, { fields: problems.slice(0, 200).map(({ at, message }) => ({ field: at, message })) })
}

export async function importCases(store: Store, read: readonly CaseRead[]): Promise<string[]> {
  const plan = store((context) => resolveCases(context, read))
  const ids: number[] = []
  const emptyFingerprint = fingerprint(fingerprintText(emptyContent))
  return staged(store, 'test_case', {
    count: read.length,
    stage: (context, index) => {
      const row = read[index]
      const own = plan.rows[index]
      if (!row || !own) return undefined
      const made = addCase(context.tx, {
        projectId: context.project.id, number: plan.firstNumber + index, title: row.title, objective: row.objective, position: plan.firstPosition + index, folderId: own.folderId, importance: row.importance, component: row.component, estimate: row.estimate, ownerId: own.ownerId, steps: row.steps.length, deletedAt: 1,
        ...(row.type !== '' && { type: row.type }),
      }, { ...context.by, emptyFingerprint })
      const content = { ...emptyContent, preconditions: row.preconditions, steps: row.steps }
      if (row.steps.length > 0 || row.preconditions !== '') writeContent(context.tx, { id: made.workingId, caseId: made.id }, content, fingerprint(fingerprintText(content)))
      for (const requirement of own.requirements) addLink(context.tx, { projectId: context.project.id, requirementId: requirement.id, caseId: made.id, revision: requirement.revision, versionId: null }, context.by)
      ids[index] = made.id
      return made.id
    },
    show: (context) => showStaged(context.tx, 'test_case', ids, []),
    refs: read.map((_, index) => `TC-${plan.firstNumber + index}`),
  })
}

function resolveCases(context: Context, read: readonly CaseRead[]) {
  const { tx, project } = context
  const people = projectDetail(tx, project, 'lead').people
  const problems: Problem[] = []
  const links = read.map((row) => row.requirements.flatMap((ref) => {
    const number = /^RQ-(\d+)$/i.exec(ref)?.[1]
    const stored = number ? findRequirement(tx, project.id, Number(number)) : undefined
    if (!stored || stored.deletedAt !== null) problems.push({ at: `row ${row.row}`, message: `there is no requirement “${ref}” in this project` })
    return stored ? [{ id: stored.id, revision: stored.revision }] : []
  }))
  const owners = read.map((row) => ownerOf(people, row.owner, row.row, problems))
  if (problems.length > 0) throw refusal(problems)
  const folders = new Map<string, number | null>()
  const rows = read.map((row, index) => ({ requirements: links[index] ?? [], ownerId: owners[index] ?? null, folderId: folderOf(context, row.folder, folders) }))
  return { rows, firstNumber: takeNumbers(tx, project.id, 'TC', read.length), firstPosition: lastCasePosition(tx, project.id, null) + 1 }
}

function folderOf({ tx, project }: Context, path: readonly string[], known: Map<string, number | null>): number | null {
  return path.reduce<number | null>((parent, name) => {
    const key = `${parent}/${name}`
    const id = known.get(key) ?? findFolder(tx, project.id, name, parent) ?? addFolder(tx, project.id, name, parent)
    known.set(key, id)
    return id
  }, null)
}

interface Staging {
  readonly count: number
  readonly stage: (context: Context, index: number) => number | undefined
  readonly show: (context: Context) => void
  readonly refs: readonly string[]
}

async function staged(store: Store, table: 'requirement' | 'test_case', of: Staging): Promise<string[]> {
  const made: number[] = []
  try {
    for (let next = 0; next < of.count; ) {
      next = store((context) => {
        const until = performance.now() + sliceMs
        let index = next
        for (; index < of.count && performance.now() < until; index++) {
          const id = of.stage(context, index)
          if (id !== undefined) made.push(id)
        }
        return index
      })
      await setImmediate()
    }
    store((context) => {
      of.show(context)
      const kind = table === 'requirement' ? 'requirement' : 'case'
      // One entry for the whole import keeps its transaction short; the rows carry when they were made.
      context.change({ kind, id: made[0] ?? 0, ref: of.refs[0] ?? '', action: 'imported', detail: { imported: [null, `${of.refs[0] ?? ''} to ${of.refs.at(-1) ?? ''}`] } })
    })
  } catch (error) {
    store(({ tx }) => dropStaged(tx, table, made))
    throw error
  }
  return [...of.refs]
}
