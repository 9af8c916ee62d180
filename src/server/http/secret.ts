import { createHash, randomBytes } from 'node:crypto'

/** Something to come in by, 192 bits of chance: it is told once, and its hash is kept. */
export const newSecret = (): string => randomBytes(24).toString('base64url')

/** SHA-256, hexadecimal: what is kept of a secret that no person chose. */
export const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex')

/** The id of somebody new. */
export const newPersonId = (): string => `p-${randomBytes(6).toString('hex')}`
