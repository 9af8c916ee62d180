import type { askNothing as askContract, doNothing as doContract } from '#core/installation/contract.ts'
import type { Answer } from '#server/http/route.ts'

export const askNothing = (): Answer<typeof askContract> => ({ ok: true })
export const doNothing = (): Answer<typeof doContract> => ({ ok: true })
