import { rm } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { fileTypeFromFile } from 'file-type'
import { type BodyLimit, partsOf } from '#server/http/body.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findAttachment } from '#db/talk/queries.ts'
import { comeIn } from '#server/integrations/coming.ts'
import type { Services } from '#server/http/services.ts'
import type { OpenContext } from '#server/http/route.ts'

/** Shown in the page as they are; everything else is downloaded. */
const pictures = ['image/png', 'image/jpeg', 'image/gif', 'image/webp']
const files = [...pictures, 'application/pdf', 'video/mp4', 'video/webm', 'application/zip']
const texts = ['text/plain', 'text/csv', 'application/json']

/** A file under its hash where evidence is kept, its kind judged by its content; nothing stays of what is refused. */
export async function landFile(
  services: Services,
  request: Request,
  what: string,
): Promise<{ hash: string; size: number; mime: string }> {
  const claimed = (request.headers.get('content-type') ?? '').split(';')[0]?.trim() ?? ''
  const landed = await land(services, request)
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
  await services.evidence.put(landed.hash, landed.file)
  return { hash: landed.hash, size: landed.size, mime }
}

const fileLimit: BodyLimit = {
  bytes: 50_000_000,
  seconds: 300,
  tooLarge: 'A piece of evidence has at most 50 MB; nothing was stored.',
}

async function land({ data }: Services, request: Request): Promise<{ file: string; hash: string; size: number }> {
  const landed = await comeIn(data, partsOf(request, fileLimit))
  if (landed.size > 0) return landed
  await rm(landed.file, { force: true })
  throw new Refusal('invalid', 'The file is empty; nothing was stored.')
}

export async function fileAnswer({ services, project, tx }: OpenContext, id: number): Promise<Response> {
  const stored = findAttachment(tx, project.id, id)
  if (!stored || stored.deletedAt !== null)
    throw new Refusal('not-found', 'This evidence is not there, or was removed.')
  const parts = await services.evidence.read(stored.hash)
  if (!parts)
    throw new Refusal(
      'not-found',
      'The file of this evidence is not where it is kept; whoever runs the server finds it by “rovant verify”.',
    )
  const shown = pictures.includes(stored.mime) ? 'inline' : 'attachment'
  const body = Readable.toWeb(Readable.from(parts)) as ReadableStream<Uint8Array>
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
