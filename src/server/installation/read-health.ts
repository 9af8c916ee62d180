import type { health as contract } from '#core/installation/contract.ts'
import type { Answer } from '#server/http/route.ts'
import { version } from '#server/http/version.ts'

export const readHealth = (): Answer<typeof contract> => ({ ok: true, version })
