import type {
  dropMapping as dropContract,
  keepMapping as keepContract,
  listImports as listContract,
  listMappings as mappingsContract,
} from '#core/formats/contract.ts'
import { type Mapping, mappingShape } from '#core/formats/mapping.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  acts,
  dropMapping as drop,
  findMapping,
  keepMapping as keep,
  listMappings as mappings,
} from '#db/formats/imports.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

const parse = (text: string): Mapping => mappingShape.parse(JSON.parse(text))

/** The mapping that is kept under a name, or `null`. */
export function keptMapping(tx: Context['tx'], projectId: number, name: string): Mapping | null {
  const kept = findMapping(tx, projectId, name)
  return kept === undefined ? null : parse(kept)
}

/** All mappings of a project with their names. */
export const keptMappings = (tx: Context['tx'], projectId: number): { name: string; mapping: Mapping }[] =>
  mappings(tx, projectId).map(({ name, mapping }) => ({ name, mapping: parse(mapping) }))

export const listImports = ({ tx, project }: Context): Answer<typeof listContract> => ({
  rows: acts(tx, project.id, 50),
})

export const listMappings = ({ tx, project }: Context): Answer<typeof mappingsContract> => ({
  rows: mappings(tx, project.id).map(({ id, name, mapping }) => ({ id, name, mapping: parse(mapping) })),
})

export function keepMapping(context: Context, { body }: Input<typeof keepContract>): Answer<typeof keepContract> {
  const id = keep(context.tx, {
    projectId: context.project.id,
    name: body.name,
    mapping: JSON.stringify(body.mapping),
    personId: context.by.personId,
    at: context.now,
  })
  context.change({ kind: 'mapping', id, ref: body.name, action: 'kept', verdict: true })
  return { id }
}

export function dropMapping(context: Context, { params }: Input<typeof dropContract>): Answer<typeof dropContract> {
  if (drop(context.tx, context.project.id, params.id) === 0)
    throw new Refusal('not-found', 'There is no such mapping in this project.')
  return { ok: true }
}
