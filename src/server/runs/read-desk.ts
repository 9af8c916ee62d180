import type { readDesk as contract } from '#core/runs/desk-contract.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { deskOf } from './desk-of.ts'

export const readDesk = (
  { tx, project, person, now, role }: Context,
  { params, query }: Input<typeof contract>,
): Answer<typeof contract> => deskOf(tx, project, person.id, { item: params.id, mine: query.mine === 'yes', now, role })
