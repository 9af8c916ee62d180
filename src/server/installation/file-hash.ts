import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'

/** SHA-256 of bytes that come in parts, in hexadecimal. */
export async function hashOf(parts: AsyncIterable<Uint8Array>): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of parts) hash.update(part)
  return hash.digest('hex')
}

export const fileHash = (file: string): Promise<string> => hashOf(createReadStream(file))
