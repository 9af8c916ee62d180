import type { allowHostsInside as allowContract, readHostsInside as readContract } from '#core/installation/contract.ts'
import { hostsInside, keepHostsInside } from '#db/installation/hosts.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const readHostsInside = ({ tx }: Context): Answer<typeof readContract> => ({ hosts: hostsInside(tx) })

export function allowHostsInside({ tx }: Context, { body }: Input<typeof allowContract>): Answer<typeof allowContract> {
  keepHostsInside(tx, body.hosts)
  return { ok: true }
}
