import type { createFolder as createContract, listFolders as listContract } from '#core/cases/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addFolder, findFolder, folders } from '#db/cases/queries.ts'
import { belongs } from '#db/projects/queries.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listFolders = ({ tx, project }: Context): Answer<typeof listContract> => ({ rows: folders(tx, project.id) })

export function createFolder(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  if (body.parent !== null && !belongs(context.tx, context.project.id, 'folder', body.parent)) throw new Refusal('invalid', 'That folder is not one of this project.')
  if (findFolder(context.tx, context.project.id, body.name, body.parent) !== undefined) throw new Refusal('refused', `There is a folder “${body.name}” here already.`)
  const id = addFolder(context.tx, context.project.id, body.name, body.parent)
  context.change({ kind: 'folder', id, ref: body.name, action: 'created' })
  return { id }
}
