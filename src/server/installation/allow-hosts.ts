import type { allowHostsInside as allowContract, readHostsInside as readContract } from '#core/installation/contract.ts'
import { hostsInside, keepHostsInside } from '#db/installation/hosts.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const readHostsInside = ({ tx }: Context): Answer<typeof readContract> => ({ hosts: hostsInside(tx) })

export function allowHostsInside(
  context: Context,
  { body }: Input<typeof allowContract>,
): Answer<typeof allowContract> {
  keepHostsInside(context.tx, body.hosts)
  const told =
    body.hosts.length === 0
      ? 'No host inside may be asked any more'
      : `Hosts inside that may be asked: ${body.hosts.join(', ')}`
  context.secure({ kind: 'setting', told, person: null })
  return { ok: true }
}
