import { createHash } from 'node:crypto'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { buffer } from 'node:stream/consumers'

/**
 * A stand-in for a store that speaks the S3 interface: buckets in memory, as far as Rovant asks of one (put, get, list, delete). It
 * takes in nothing whose hash is not the one that was told, and knows who asks by the name of the key, not by the signature.
 */
export interface StoreManner {
  /** So many of the next requests are answered by 503. */
  refuse: number
  /** What is listed at one go. */
  page: number
  /** Cuts the line in the midst of what is read. */
  cut: boolean
}

interface Kept {
  readonly bytes: Buffer
  readonly at: Date
}

/** Starts it on a free port with one key that is let in; `kept` is what it holds, by `bucket/name`. */
export async function startStore(keyName: string): Promise<{
  url: string
  kept: Map<string, Kept>
  manner: StoreManner
  stop: () => Promise<void>
}> {
  const kept = new Map<string, Kept>()
  const manner: StoreManner = { refuse: 0, page: 1000, cut: false }
  const server = createServer((request, response) => {
    void answer(request, response, { keyName, kept, manner }).catch((error: unknown) => {
      refuse(response, 500, 'InternalError', String(error))
    })
  })
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve))
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    kept,
    manner,
    stop: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve())
        server.closeAllConnections()
      }),
  }
}

interface Store {
  readonly keyName: string
  readonly kept: Map<string, Kept>
  readonly manner: StoreManner
}

async function answer(request: IncomingMessage, response: ServerResponse, of: Store): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://store')
  const name = decodeURIComponent(url.pathname.slice(1))
  const body = await buffer(request)
  if (!request.headers.authorization?.includes(`Credential=${of.keyName}/`))
    return refuse(response, 403, 'InvalidAccessKeyId', 'The key is not known here.')
  if (of.manner.refuse > 0) {
    of.manner.refuse -= 1
    return refuse(response, 503, 'SlowDown', 'Too much is asked at once.')
  }
  if (url.searchParams.get('list-type') === '2') return list(response, name.replace(/\/$/, ''), url.searchParams, of)
  if (request.method === 'PUT') return put(request, response, name, body, of)
  if (request.method === 'DELETE') {
    of.kept.delete(name)
    response.writeHead(204).end()
    return
  }
  get(response, name, of)
}

function put(request: IncomingMessage, response: ServerResponse, name: string, bytes: Buffer, { kept }: Store): void {
  const told = request.headers['x-amz-checksum-sha256']
  if (told !== createHash('sha256').update(bytes).digest('base64'))
    return refuse(response, 400, 'BadDigest', 'The bytes are not those whose hash was told.')
  kept.set(name, { bytes, at: new Date() })
  response.writeHead(200).end()
}

function get(response: ServerResponse, name: string, { kept, manner }: Store): void {
  const found = kept.get(name)
  if (!found) return refuse(response, 404, 'NoSuchKey', 'There is no such name.')
  response.writeHead(200, { 'content-length': found.bytes.length })
  if (!manner.cut) {
    response.end(found.bytes)
    return
  }
  response.write(found.bytes.subarray(0, found.bytes.length / 2), () => response.destroy())
}

function list(response: ServerResponse, bucket: string, asked: URLSearchParams, { kept, manner }: Store): void {
  const begin = `${bucket}/${asked.get('prefix') ?? ''}`
  const after = asked.get('continuation-token') ?? ''
  const names = [...kept.keys()].filter((name) => name.startsWith(begin) && name > after).sort()
  const page = names.slice(0, manner.page)
  const isMore = names.length > page.length
  const contents = page.map((name) => {
    const { bytes, at } = kept.get(name)!
    return `<Contents><Key>${name.slice(bucket.length + 1)}</Key><Size>${bytes.length}</Size><LastModified>${at.toISOString()}</LastModified></Contents>`
  })
  const next = isMore ? `<NextContinuationToken>${page.at(-1)}</NextContinuationToken>` : ''
  send(
    response,
    200,
    `<ListBucketResult><Name>${bucket}</Name><IsTruncated>${isMore}</IsTruncated>${next}${contents.join('')}</ListBucketResult>`,
  )
}

const refuse = (response: ServerResponse, status: number, code: string, message: string): void =>
  send(response, status, `<Error><Code>${code}</Code><Message>${message}</Message></Error>`)

function send(response: ServerResponse, status: number, xml: string): void {
  response.writeHead(status, { 'content-type': 'application/xml' })
  response.end(`<?xml version="1.0" encoding="UTF-8"?>${xml}`)
}
