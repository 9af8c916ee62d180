import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, existsSync, readdirSync, rmSync } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { fileTypeFromFile } from 'file-type'
import { type BodyLimit, partsOf } from '#server/http/body.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { evidenceFolder } from '#db/open.ts'
import { findAttachment } from '#db/talk/queries.ts'
import type { Services } from '#server/http/services.ts'
import type { OpenContext } from '#server/http/route.ts'

/** Shown in the page as they are; everything else is downloaded. */
const pictures = ['image/png', 'image/jpeg', 'image/gif', 'image/webp']
const files = [...pictures, 'application/pdf', 'video/mp4', 'video/webm', 'application/zip']
const texts = ['text/plain', 'text/csv', 'application/json']

/** A file under its hash in the folder of evidence, its kind judged by its content; nothing stays of what is refused. */
export async function landFile(
  services: Services,
  request: Request,
  what: string,
): Promise<{ hash: string; size: number; mime: string }> {
  const claimed = (request.headers.get('content-type') ?? '').split(';')[0]?.trim() ?? ''
  const landed = await land(services.evidence, request)
  const mime = (await fileTypeFromFile(landed.file))?.mime ?? (texts.includes(claimed) ? claimed : null)
  if (
    mime === null ||
    (!files.includes(mime) && !texts.includes(mime)) ||
    (claimed.startsWith('image/') && mime !== claimed)
  ) {
    await rm(landed.file, { force: true })
    throw new Refusal(
      'wrong-kind',
      `This is not a ${claimed.startsWith('image/') ? 'picture' : 'kind of file'} that can be ${what}${mime ? ` (it reads as ${mime})` : ''}. Pictures, PDF, video, zip and plain text are; nothing was stored.`,
    )
  }
  await rename(landed.file, join(services.evidence, landed.hash))
  return { hash: landed.hash, size: landed.size, mime }
}

const fileLimit: BodyLimit = {
  bytes: 50_000_000,
  seconds: 300,
  tooLarge: 'A piece of evidence has at most 50 MB; nothing was stored.',
}

/** Files that come in are called this until all of them is there. */
const comingName = 'coming-'

/** Takes away what uploads into a data directory left that were cut off; nobody may be uploading. */
export function dropComing(data: string): void {
  const folder = evidenceFolder(data)
  if (!existsSync(folder)) return
  for (const name of readdirSync(folder)) if (name.startsWith(comingName)) rmSync(join(folder, name), { force: true })
}

async function land(folder: string, request: Request): Promise<{ file: string; hash: string; size: number }> {
  await mkdir(folder, { recursive: true })
  const file = join(folder, `${comingName}${process.hrtime.bigint()}`)
  const hash = createHash('sha256')
  let size = 0
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length
      hash.update(chunk)
      done(null, chunk)
    },
  })
  try {
    await pipeline(partsOf(request, fileLimit), measure, createWriteStream(file, { flush: true }))
  } catch (error) {
    await rm(file, { force: true })
    throw error
  }
  if (size === 0) {
    await rm(file, { force: true })
    throw new Refusal('invalid', 'The file is empty; nothing was stored.')
  }
  return { file, hash: hash.digest('hex'), size }
}

export function fileAnswer({ services, project, tx }: OpenContext, id: number): Response {
  const stored = findAttachment(tx, project.id, id)
  if (!stored || stored.deletedAt !== null)
    throw new Refusal('not-found', 'This evidence is not there, or was removed.')
  const shown = pictures.includes(stored.mime) ? 'inline' : 'attachment'
  const body = Readable.toWeb(createReadStream(join(services.evidence, stored.hash))) as ReadableStream<Uint8Array>
  return new Response(body, {
    headers: {
      // What an archive says of a file is a claim of somebody else; it goes into a header only where it is a kind of ours.
      'content-type': [...files, ...texts].includes(stored.mime) ? stored.mime : 'application/octet-stream',
      'content-length': String(stored.size),
      'content-disposition': `${shown}; filename*=UTF-8''${encodeURIComponent(stored.name.replace(/[\ud800-\udfff]/gu, '\ufffd'))}`,
      'x-content-type-options': 'nosniff',
      'content-security-policy': "default-src 'none'; sandbox",
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
}
