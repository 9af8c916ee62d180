import * as contract from '#core/people/contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { readMe, signIn, signOut } from './sign-in.ts'

/** What may be asked of this area, each endpoint once. */
export const peopleRoutes: readonly Route[] = [
  onOpen(contract.signIn, signIn),
  onOpen(contract.signOut, signOut),
  on(contract.readMe, readMe),
]
