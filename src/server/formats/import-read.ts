import { numberIn } from '#core/lib/key.ts'
import { fingerprintText } from '#core/cases/steps.ts'
import { caseChanges, contentAfter, requirementChanges, type RowStatus } from '#core/formats/plan-import.ts'
import type { CaseRead, FileRead, Problem, RequirementRead } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { appliesTo, customProblem, type CustomField, valuesFromCell } from '#core/projects/custom.ts'
import { addFolder, findFolder } from '#db/cases/folders.ts'
import { idsByNumber, origins, type OwnerKind, revisionsOf, titlesOf } from '#db/formats/imports.ts'
import { type StoredCase, storedCases, type StoredRequirement, storedRequirements } from '#db/formats/stored.ts'
import { customFields } from '#db/projects/fields.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { findByTitle } from '#db/formats/staging.ts'
import { type Context, fingerprint } from '#server/http/context.ts'
import { inSlices as slices } from '#server/http/going.ts'

/** Runs work in a transaction of its own; between two of them everybody else gets a turn. */
export type Store = <T>(work: (context: Context) => T) => T

export interface ImportOptions {
  /** What the file came from: objects are found again by their outside id and this. */
  readonly source: string
  readonly release: number | null
  readonly signal?: AbortSignal
  readonly onProgress?: (done: number, of: number) => void
}

export interface Entry {
  readonly index: number
  readonly status: RowStatus
  readonly id: number | null
  readonly key: string | null
  readonly changes: readonly string[]
  readonly ownerId: string | null
  readonly release: number | null
  readonly iteration: number | null
  /** Index of the parent in the file, or an id. */
  readonly parent: { readonly index: number } | { readonly id: number } | null
  readonly links: readonly { readonly id: number; readonly revision: number }[]
  readonly custom: readonly { readonly field: CustomField; readonly values: readonly string[] }[]
  readonly stored: StoredCase | StoredRequirement | null
}
export interface ImportPlan {
  readonly kind: OwnerKind
  readonly entries: readonly Entry[]
  readonly gone: readonly { readonly key: string; readonly title: string }[]
  readonly problems: readonly Problem[]
  /** What the file says and the project has no place for. */
  readonly notices: readonly Problem[]
}

export interface Counts {
  readonly new: number
  readonly changed: number
  readonly unchanged: number
  readonly gone: number
}

export function countsOf({ entries, gone }: Pick<ImportPlan, 'entries' | 'gone'>): Counts {
  const count = (status: RowStatus) => entries.filter((entry) => entry.status === status).length
  return { new: count('new'), changed: count('changed'), unchanged: count('unchanged'), gone: gone.length }
}

/** Works through `count` rows in slices; one that is cancelled ends with nothing imported. */
export const inSlices = (
  store: Store,
  count: number,
  { signal, onProgress }: Pick<ImportOptions, 'signal' | 'onProgress'>,
  step: (context: Context, index: number) => void,
): Promise<void> =>
  slices(count, store, step, {
    before: () => {
      if (signal?.aborted) throw new Refusal('refused', 'The import was cancelled; nothing was imported.')
    },
    after: (done) => onProgress?.(done, count),
  })

export const kindOf = (read: FileRead): OwnerKind => (read.cases.length > 0 ? 'case' : 'requirement')

/** What an import would do: each row new, changed or unchanged, and what its source named before and does not any more. */
/** New steps from a file take the place of what a case inserts: nobody should find that out later. */
function written({ key, changes, stored }: Entry): Problem[] {
  return stored && 'inserted' in stored && stored.inserted.length > 0 && changes.includes('steps')
    ? [
        {
          at: key ?? '',
          message: `the steps of the file take the place of ${stored.inserted.join(', ')}, which ${key ?? ''} inserts`,
        },
      ]
    : []
}

/** So many rows are held against what is stored at a time. */
const chunk = 50

export async function planImport(store: Store, read: FileRead, options: ImportOptions): Promise<ImportPlan> {
  const kind = kindOf(read)
  const rows = kind === 'case' ? read.cases : read.requirements
  const problems: Problem[] = []
  const frame = store((context) => frameOf(context, read, kind, options))
  const entries: Entry[] = []
  const waiting = options.signal ? { signal: options.signal } : {}
  await inSlices(store, Math.ceil(rows.length / chunk), waiting, (context, at) => {
    const length = Math.min(chunk, rows.length - at * chunk)
    const indexes = Array.from({ length }, (_, offset) => at * chunk + offset)
    const stored = storedOf(context, kind, frame, indexes)
    for (const index of indexes)
      entries.push(entryOf(context, { read, index, frame, problems, options, stored: stored(index) }))
  })
  problems.push(...circles(read.requirements), ...twins(entries, rows))
  const kept = new Set(entries.flatMap(({ id }) => id ?? []))
  const missing = [...frame.own.values()].filter((id) => !kept.has(id))
  return {
    kind,
    entries,
    gone: store(({ tx }) => titlesOf(tx, kind, missing)),
    problems,
    notices: [...unknownFields(read, frame), ...entries.flatMap(written)],
  }
}

/** What is stored of the objects these rows are found to be. */
function storedOf({ tx, project }: Context, kind: 'requirement' | 'case', frame: Frame, indexes: readonly number[]) {
  const { custom, found } = frame
  const ids = indexes.flatMap((index) => found.get(index) ?? [])
  const stored: readonly (StoredCase | StoredRequirement)[] =
    kind === 'case'
      ? storedCases(tx, project.id, { ids, custom, written: true })
      : storedRequirements(tx, project.id, ids, custom)
  const byId = new Map(stored.map((each) => [each.objectId, each]))
  return (index: number) => byId.get(found.get(index) ?? 0) ?? null
}

/** Columns for fields the project does not have. */
const unknownFields = (read: FileRead, { custom }: Frame): ImportPlan['notices'] =>
  read.fields
    .filter((field) => field.startsWith('custom:') && !custom.some(({ name }) => `custom:${name}` === field))
    .map((field) => ({
      at: 'the file',
      message: `“${field.slice('custom:'.length)}” is no field of this project and is left out; a lead can define it in the set-up`,
    }))

interface Frame {
  readonly found: ReadonlyMap<number, number>
  readonly own: ReadonlyMap<string, number>
  readonly custom: readonly CustomField[]
  readonly people: readonly { readonly id: string; readonly name: string }[]
  readonly releases: readonly { readonly id: number; readonly name: string }[]
  readonly iterations: readonly { readonly id: number; readonly name: string; readonly release: number }[]
  readonly requirements: ReadonlyMap<string, { readonly id: number; readonly revision: number }>
  /** Outside id → requirement, those of this source first. */
  readonly outside: ReadonlyMap<string, number>
}

/** What all rows are held against, read once. */
function frameOf({ tx, project }: Context, read: FileRead, kind: OwnerKind, options: ImportOptions): Frame {
  const rows = kind === 'case' ? read.cases : read.requirements
  const byNumber = idsByNumber(
    tx,
    project.id,
    kind,
    rows.flatMap(({ id }) => numberIn(kind, id) || []),
  )
  const { all, own } = origins(tx, project.id, kind, options.source)
  const found = new Map(
    rows.flatMap(({ id }, index) => {
      const number = numberIn(kind, id)
      const there = number > 0 ? byNumber.get(number) : id === '' ? undefined : all.get(id)
      return there === undefined ? [] : [[index, there] as const]
    }),
  )
  const named = [...new Set(read.cases.flatMap(({ requirements }) => requirements))]
  const detail = projectDetail(tx, project, 'lead')
  return {
    found,
    own,
    custom: customFields(tx, project.id, kind),
    people: detail.people,
    releases: detail.releases,
    iterations: detail.iterations,
    requirements: requirementsNamed(tx, project.id, named),
    outside: kind === 'requirement' ? all : new Map(),
  }
}

function requirementsNamed(
  tx: Context['tx'],
  projectId: number,
  named: readonly string[],
): Map<string, { id: number; revision: number }> {
  const numbers = named.flatMap((name) => numberIn('requirement', name) || [])
  const ids = idsByNumber(tx, projectId, 'requirement', numbers)
  const outside = origins(tx, projectId, 'requirement', '').all
  const revisions = revisionsOf(tx, [...ids.values(), ...outside.values()])
  return new Map(
    named.flatMap((name) => {
      const number = numberIn('requirement', name)
      const id = number > 0 ? ids.get(number) : outside.get(name)
      return id === undefined ? [] : [[name, { id, revision: revisions.get(id) ?? 1 }] as const]
    }),
  )
}

interface Asked {
  readonly read: FileRead
  readonly index: number
  readonly frame: Frame
  readonly problems: Problem[]
  readonly options: ImportOptions
  readonly stored: Entry['stored']
}

function entryOf(context: Context, asked: Asked): Entry {
  const { read, index, frame, stored } = asked
  const ofCase = read.cases[index]
  const of = ofCase ?? read.requirements[index]
  if (!of) throw new Error(`row ${index} is not there`)
  const complain = (message: string) => asked.problems.push({ at: `row ${of.row}`, message })
  const owner = of.owner === '' ? null : frame.people.find(({ name }) => name.toLowerCase() === of.owner.toLowerCase())
  if (owner === undefined) complain(`there is nobody called “${of.owner}” in this project`)
  if (/^(TC|RQ)-\d+$/i.test(of.id) && stored === null)
    complain(
      `there is no ${of.id.toUpperCase()} in this project, or it was deleted; leave its id empty to make a new one`,
    )
  const type = ofCase ? ofCase.type : 'kind' in of ? of.kind : ''
  const custom = customOf(frame, of.custom, type, read.fields, complain)
  const links = (ofCase?.requirements ?? []).flatMap((name) => {
    const there = frame.requirements.get(name)
    if (!there) complain(`there is no requirement “${name}” in this project`)
    return there ? [there] : []
  })
  const target = targetOf(asked, complain)
  const parent = ofCase || !('parent' in of) ? null : parentOf(context, of, frame, complain)
  const changes =
    stored === null
      ? []
      : ofCase && 'steps' in stored
        ? caseChanges(ofCase, stored, read.fields)
        : 'parent' in of && 'parentKey' in stored
          ? requirementChanges(of, stored, read.fields, {
              rich: read.rich,
              parents: [parentKeyOf(context, parent, frame), stored.parentKey],
            })
          : []
  return {
    index,
    status: stored === null ? 'new' : changes.length > 0 ? 'changed' : 'unchanged',
    id: stored?.objectId ?? null,
    key: stored?.key ?? null,
    changes,
    ownerId: owner?.id ?? null,
    ...target,
    parent,
    links,
    custom,
    stored,
  }
}

function targetOf(
  { read, index, frame, options }: Asked,
  complain: (message: string) => void,
): { release: number | null; iteration: number | null } {
  const of = read.requirements[index]
  if (!of || read.cases.length > 0) return { release: null, iteration: null }
  const named =
    of.release === ''
      ? options.release
      : frame.releases.find(({ name }) => name.toLowerCase() === of.release.toLowerCase())?.id
  if (named === undefined) complain(`there is no release “${of.release}” in this project`)
  const iteration =
    of.iteration === ''
      ? null
      : frame.iterations.find(
          (each) => each.release === named && each.name.toLowerCase() === of.iteration.toLowerCase(),
        )?.id
  if (iteration === undefined) complain(`there is no iteration “${of.iteration}” in that release`)
  return { release: named ?? null, iteration: iteration ?? null }
}

function parentOf(
  { tx, project }: Context,
  of: RequirementRead,
  frame: Frame,
  complain: (message: string) => void,
): Entry['parent'] {
  if (of.parent === null) return null
  if (typeof of.parent === 'number') return { index: of.parent }
  const { named } = of.parent
  const number = numberIn('requirement', named)
  const id =
    number > 0
      ? idsByNumber(tx, project.id, 'requirement', [number]).get(number)
      : (frame.outside.get(named) ?? findByTitle(tx, 'requirement', project.id, named))
  if (id === undefined || id === null) complain(`its parent “${named}” is neither in the file nor in the project`)
  return id === undefined || id === null ? null : { id }
}

/** The key of a parent as it will be; one that is new in this file is called so. */
function parentKeyOf({ tx }: Context, parent: Entry['parent'], frame: Frame): string {
  const id = parent === null ? null : 'id' in parent ? parent.id : (frame.found.get(parent.index) ?? null)
  if (id === null) return parent === null ? '' : 'new'
  return titlesOf(tx, 'requirement', [id])[0]?.key ?? ''
}

function customOf(
  frame: Frame,
  values: Readonly<Record<string, string>>,
  type: string,
  fields: readonly string[],
  complain: (message: string) => void,
): Entry['custom'] {
  return frame.custom.flatMap((field) => {
    if (!fields.includes(`custom:${field.name}`)) return []
    const own = valuesFromCell(field, values[field.name] ?? '').map((value) =>
      field.kind === 'person'
        ? (frame.people.find(({ name }) => name.toLowerCase() === value.toLowerCase())?.id ?? value)
        : value,
    )
    const problem = customProblem(field, own)
    if (problem !== null) complain(`${field.name}: ${problem}`)
    if (own.length === 0 && field.required && appliesTo(field, type))
      complain(`${field.name} is required in this project`)
    return [{ field, values: own }]
  })
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

/** Two rows that are the same object: which of them counts cannot be known. */
function twins(entries: readonly Entry[], rows: readonly (CaseRead | RequirementRead)[]): Problem[] {
  const seen = new Map<number, number>()
  return entries.flatMap(({ id, index, key }) => {
    if (id === null) return []
    const first = seen.get(id)
    seen.set(id, first ?? index)
    return first === undefined
      ? []
      : [
          {
            at: `row ${rows[index]?.row ?? index + 1}`,
            message: `is ${key ?? 'the same object'} again, which row ${rows[first]?.row ?? ''} is already`,
          },
        ]
  })
}

/** The folder of a path, made where it is missing. */
export function folderOf(
  { tx, project }: Context,
  path: readonly string[],
  known: Map<string, number | null>,
): number | null {
  return path.reduce<number | null>((parent, name) => {
    const key = `${parent}/${name}`
    const id = known.get(key) ?? findFolder(tx, project.id, name, parent) ?? addFolder(tx, project.id, name, parent)
    known.set(key, id)
    return id
  }, null)
}

export function refusal(problems: readonly Problem[]): Refusal {
  const some = problems
    .slice(0, 3)
    .map(({ at, message }) => `${at}: ${message}`)
    .join('; ')
  return new Refusal(
    'invalid',
    `Nothing was imported. ${problems.length === 1 ? 'One problem' : `${problems.length} problems`}: ${some}${problems.length > 3 ? '; and more' : ''}.`,
    { fields: problems.slice(0, 200).map(({ at, message }) => ({ field: at, message })) },
  )
}

export const contentOf = (of: CaseRead, stored: Entry['stored'], fields: readonly string[]) => {
  const content = contentAfter(of, stored && 'steps' in stored ? stored : null, fields)
  return { content, stamp: fingerprint(fingerprintText(content)) }
}
