import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto'

/** Keeps secrets of others in the database so that a copy of it alone tells none of them. */
export interface Seal {
  readonly close: (secret: string) => string
  /** The secret, or `null` where it was sealed with another key; what was never sealed is answered as it is. */
  readonly open: (kept: string) => string | null
}

const sign = 'sealed.'
export const isSealed = (kept: string): boolean => kept.startsWith(sign)

/** AES-256-GCM with a key derived from that of the installation (NIST SP 800-38D, RFC 5869). */
export function sealBy(key: string): Seal {
  const own = Buffer.from(hkdfSync('sha256', key, 'rovant', 'secrets in the database', 32))
  return {
    close: (secret) => {
      if (secret === '') return ''
      const start = randomBytes(12)
      const cipher = createCipheriv('aes-256-gcm', own, start)
      const hidden = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
      return `${sign}${Buffer.concat([start, cipher.getAuthTag(), hidden]).toString('base64url')}`
    },
    open: (kept) => {
      if (!isSealed(kept)) return kept
      const bytes = Buffer.from(kept.slice(sign.length), 'base64url')
      try {
        const decipher = createDecipheriv('aes-256-gcm', own, bytes.subarray(0, 12))
        decipher.setAuthTag(bytes.subarray(12, 28))
        return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
      } catch {
        // Not with this key, or somebody changed it.
        return null
      }
    },
  }
}
