import type { restoreObject as contract } from '#core/history/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { restoreByRef } from '#db/finding/search.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Brings back what was deleted, all of it or nothing. */
export function restoreObject(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  for (const ref of body.refs) {
    const back = restoreByRef(context.tx, context.project.id, ref)
    if (!back) throw new Refusal('not-found', `There is no ${ref} to bring back; nothing was changed.`)
    context.change({ kind: back.kind, id: back.id, ref, action: 'restored' })
  }
  return { ok: true }
}
