import { z } from 'zod'
import type { Tx } from '#db/open.ts'
import { readSetting, writeSetting } from './settings.ts'

const name = 'single sign-on'
const shape = z.object({
  name: z.string(),
  issuer: z.string(),
  clientId: z.string(),
  /** Sealed. */
  secret: z.string(),
  only: z.boolean(),
  groupsClaim: z.string(),
  groups: z.array(z.object({ outside: z.string(), group: z.number() })),
})
export type SignOnStored = z.infer<typeof shape>

const none: SignOnStored = {
  name: '',
  issuer: '',
  clientId: '',
  secret: '',
  only: false,
  groupsClaim: 'groups',
  groups: [],
}

/** The provider people may sign in by; without an issuer there is none. */
export function signOnOf(tx: Tx): SignOnStored {
  const kept = readSetting(tx, name)
  return kept === null ? none : shape.parse(JSON.parse(kept))
}

export const keepSignOn = (tx: Tx, of: SignOnStored): void =>
  writeSetting(tx, name, of.issuer === '' ? null : JSON.stringify(of))
