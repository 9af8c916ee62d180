import type {
  createFolder as createContract,
  deleteFolder as deleteContract,
  listFolders as listContract,
  mirrorFolders as mirrorContract,
  updateFolder as updateContract,
} from '#core/cases/folder-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { outlineOrder, wouldCycle } from '#core/requirements/outline.ts'
import { addFolder, casesInFolder, findFolder, folderById, folders, saveFolder } from '#db/cases/folders.ts'
import { firstRequirementOf } from '#db/cases/cases.ts'
import { outlinePlaces } from '#db/requirements/outline.ts'
import { titlesOf } from '#db/requirements/requirements.ts'
import { changeMany } from '#server/finding/change-many.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listFolders = ({ tx, project }: Context): Answer<typeof listContract> => ({
  rows: folders(tx, project.id),
})

export function createFolder(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  refuseTwin(context, body.name, body.parent, null)
  const id = addFolder(context.tx, context.project.id, body.name, body.parent)
  context.change({ kind: 'folder', id, ref: body.name, action: 'created' })
  return { id }
}

function refuseTwin({ tx, project }: Context, name: string, parent: number | null, but: number | null): void {
  const twin = findFolder(tx, project.id, name, parent)
  if (twin !== undefined && twin !== but)
    throw new Refusal('refused', `There is a folder “${name}” here already; nothing was changed.`)
}

function folderIn({ tx, project }: Context, id: number) {
  const stored = folderById(tx, project.id, id)
  if (!stored) throw new Refusal('not-found', 'That folder is not there any more; nothing was changed.')
  return stored
}

/** Renames, or moves: under a parent, before a sibling (else last). */
export function updateFolder(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project } = context
  const stored = folderIn(context, params.id)
  const parent = body.parent === undefined ? stored.parentId : body.parent
  if (parent !== null) folderIn(context, parent)
  if (wouldCycle(folders(tx, project.id), stored.id, parent))
    throw new Refusal('refused', `${stored.name} cannot be moved into itself; nothing was changed.`)
  const name = body.name ?? stored.name
  refuseTwin(context, name, parent, stored.id)
  if (name !== stored.name) saveFolder(tx, stored.id, { name })
  if (body.parent !== undefined || body.before !== undefined) place(context, stored.id, parent, body.before ?? null)
  context.change({
    kind: 'folder',
    id: stored.id,
    ref: name,
    action: name === stored.name ? 'moved' : 'renamed',
    ...(name !== stored.name && { detail: { name: [stored.name, name] } }),
  })
  return { ok: true }
}

function place({ tx, project }: Context, id: number, parent: number | null, before: number | null): void {
  const others = folders(tx, project.id)
    .filter((each) => each.parent === parent && each.id !== id)
    .map((each) => each.id)
  const at = before === null ? others.length : others.indexOf(before)
  if (at < 0) throw new Refusal('invalid', 'The folder to move before is not there; nothing was changed.')
  const order = [...others.slice(0, at), id, ...others.slice(at)]
  order.forEach((each, index) =>
    saveFolder(tx, each, { position: index + 1, ...(each === id && { parentId: parent }) }),
  )
}

/** What is in it goes to the folder above; nothing is deleted but the folder. */
export function deleteFolder(
  context: Context,
  { params }: Input<typeof deleteContract>,
): Answer<typeof deleteContract> {
  const { tx, project, now } = context
  const stored = folderIn(context, params.id)
  const below = folders(tx, project.id).filter(({ parent }) => parent === stored.id)
  for (const { name } of below) refuseTwin(context, name, stored.parentId, stored.id)
  saveFolder(tx, stored.id, { deletedAt: now })
  for (const { id } of below) place(context, id, stored.parentId, null)
  const cases = casesInFolder(tx, project.id, stored.id)
  if (cases.length > 0) changeMany(context, { kind: 'case', ids: cases, set: { folderId: stored.parentId } })
  context.change({ kind: 'folder', id: stored.id, ref: stored.name, action: 'deleted' })
  return { cases, folders: below.map(({ id }) => id) }
}

/** Folders named after the branches of the requirements, with the cases that prove them; folders that are there are used. */
export function mirrorFolders(context: Context, { body }: Input<typeof mirrorContract>): Answer<typeof mirrorContract> {
  const { tx, project } = context
  if (body.under !== null) folderIn(context, body.under)
  const places = outlineOrder(outlinePlaces(tx, project.id)).map(({ place: at }) => at)
  const parents = new Set(places.map(({ parent }) => parent))
  const titles = titlesOf(tx, project.id)
  const folderOf = new Map<number, number>()
  let made = 0
  for (const { id, parent } of places) {
    if (!parents.has(id)) continue
    const name = (titles.get(id) ?? '').slice(0, 100)
    const above = parent === null ? body.under : (folderOf.get(parent) ?? body.under)
    const known = above !== null && above < 0 ? undefined : findFolder(tx, project.id, name, above)
    if (known === undefined) made += 1
    folderOf.set(id, known ?? (body.dry ? -made : addFolder(tx, project.id, name, above)))
  }
  const parentOf = new Map(places.map(({ id, parent }) => [id, parent]))
  const moves = firstRequirementOf(tx, project.id).flatMap(({ caseId, requirementId, folderId }) => {
    const branch = folderOf.has(requirementId) ? requirementId : (parentOf.get(requirementId) ?? null)
    const to = branch === null ? undefined : folderOf.get(branch)
    return to === undefined || to === folderId ? [] : [{ caseId, to }]
  })
  if (body.dry) return { folders: made, cases: moves.length, undo: [] }
  const undo = [...new Set(moves.map(({ to }) => to))].flatMap(
    (to) =>
      changeMany(context, {
        kind: 'case',
        ids: moves.filter((move) => move.to === to).map(({ caseId }) => caseId),
        set: { folderId: to },
      }).undo,
  )
  if (made > 0)
    context.change({
      kind: 'folder',
      id: [...folderOf.values()][0] ?? 0,
      ref: 'requirements',
      action: 'mirrored',
      detail: { folders: [null, made] },
    })
  return { folders: made, cases: moves.length, undo: [...undo] }
}
