import * as contract from '#core/installation/contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { allowHostsInside, readHostsInside } from './allow-hosts.ts'
import { readHealth } from './read-health.ts'
import { askNothing, doNothing } from './do-nothing.ts'
import { setUpFirst } from './set-up-first.ts'

/** What may be asked of this area, each endpoint once. */
export const installationRoutes: readonly Route[] = [
  on(contract.health, readHealth),
  onOpen(contract.setUpFirst, setUpFirst),
  on(contract.readHostsInside, readHostsInside),
  on(contract.allowHostsInside, allowHostsInside),
  on(contract.askNothing, askNothing),
  on(contract.doNothing, doNothing),
]
