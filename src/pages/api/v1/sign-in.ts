import { signIn as signInContract, signOut as signOutContract } from '#core/people/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { signIn, signOut } from '#server/people/sign-in.ts'

export const POST = openRoute(signInContract, signIn)
export const DELETE = openRoute(signOutContract, signOut)
