import { fromBuffer, type Entry, type ZipFile } from 'yauzl'
import { Refusal } from '#core/lib/refusal.ts'

export interface ZipLimits {
  /** Bytes of all entries unpacked, and of one of them. */
  readonly total: number
  readonly each: number
  readonly entries: number
}
const usualLimits: ZipLimits = { total: 600_000_000, each: 400_000_000, entries: 20_000 }

/** More than this many times its packed size, and large, is what is made to break readers. */
const mostRatio = 300

/**
 * The entries of a zip that is trusted in nothing: names that lead out of it, encrypted entries, more bytes than
 * it says or than anybody needs are refused. Entries that `wanted` turns down are checked by what they say, not unpacked.
 */
export async function readZip(
  bytes: Buffer,
  wanted: (name: string) => boolean,
  limits: ZipLimits = usualLimits,
): Promise<Map<string, Buffer>> {
  const zip = await open(bytes)
  const found = new Map<string, Buffer>()
  let [count, total] = [0, 0]
  try {
    for await (const entry of entriesOf(zip)) {
      count++
      total += entry.uncompressedSize
      if (count > limits.entries) throw new Refusal('too-large', `The archive has more than ${limits.entries} entries.`)
      if (entry.uncompressedSize > limits.each || total > limits.total)
        throw new Refusal(
          'too-large',
          `“${entry.fileName.slice(0, 80)}” unpacks to ${Math.round(entry.uncompressedSize / 1e6)} MB, which is more than is read.`,
        )
      if (entry.uncompressedSize > 20_000_000 && entry.uncompressedSize > entry.compressedSize * mostRatio)
        throw new Refusal(
          'too-large',
          `“${entry.fileName.slice(0, 80)}” is packed ${Math.round(entry.uncompressedSize / Math.max(1, entry.compressedSize))} times smaller than it unpacks; such files are made to break what reads them.`,
        )
      if (entry.isEncrypted())
        throw new Refusal(
          'invalid',
          `“${entry.fileName.slice(0, 80)}” is encrypted. Save the file without a password and try again.`,
        )
      if (!entry.fileName.endsWith('/') && wanted(entry.fileName)) found.set(entry.fileName, await unpack(zip, entry))
    }
  } finally {
    zip.close()
  }
  return found
}

const open = (bytes: Buffer): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    fromBuffer(bytes, { lazyEntries: true, strictFileNames: true, validateEntrySizes: true }, (error, zip) => {
      if (error) reject(damaged(error))
      else resolve(zip)
    }),
  )

const damaged = (error: Error): Refusal =>
  new Refusal(
    'invalid',
    /relative path|absolute path|invalid characters/.test(error.message)
      ? `The archive holds a name that leads out of it (${error.message.slice(0, 120)}); nothing of it was read.`
      : `The file is cut off or damaged and cannot be unpacked (${error.message.slice(0, 120)}).`,
  )

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const off = () => {
        zip.removeListener('entry', heard)
        zip.removeListener('end', ended)
        zip.removeListener('error', failed)
      }
      const heard = (each: Entry) => {
        off()
        resolve(each)
      }
      const ended = () => {
        off()
        resolve(null)
      }
      const failed = (error: Error) => {
        off()
        reject(damaged(error))
      }
      zip.once('entry', heard).once('end', ended).once('error', failed)
      zip.readEntry()
    })
    if (!entry) return
    yield entry
  }
}

/** Sizes are checked against what the entry says while it is unpacked, so that nothing grows unnoticed. */
const unpack = (zip: ZipFile, entry: Entry): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(damaged(error))
      const parts: Buffer[] = []
      stream.on('data', (part: Buffer) => parts.push(part))
      stream.on('error', (broken: Error) => reject(damaged(broken)))
      stream.on('end', () => resolve(Buffer.concat(parts)))
    }),
  )
