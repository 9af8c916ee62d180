import * as contract from '#core/installation/contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { allowHostsInside, readHostsInside } from './allow-hosts.ts'
import { readHealth } from './read-health.ts'
import { askNothing, doNothing } from './do-nothing.ts'
import { readStorage } from './read-storage.ts'
import { setUpFirst } from './set-up-first.ts'
import { readSigningIn, updateSigningIn } from './signing-in.ts'

/** What may be asked of this area, each endpoint once. */
export const installationRoutes: readonly Route[] = [
  onOpen(contract.health, readHealth),
  onOpen(contract.setUpFirst, setUpFirst),
  onOpen(contract.readSigningIn, readSigningIn),
  on(contract.updateSigningIn, updateSigningIn),
  onOpen(contract.readStorage, readStorage),
  on(contract.readHostsInside, readHostsInside),
  on(contract.allowHostsInside, allowHostsInside),
  on(contract.askNothing, askNothing),
  on(contract.doNothing, doNothing),
]
