import type { Contract } from '#core/lib/contract.ts'
import { markedIn } from '#core/lib/marked.ts'
import { richMark } from '#core/lib/rich-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Incoming } from './asked.ts'
import { cleanHtml } from './clean-html.ts'
import type { Input } from './route.ts'

/** How much of a body is read, and for how long. */
export interface BodyLimit {
  readonly bytes: number
  readonly seconds: number
  /** What is said of one that is larger. */
  readonly tooLarge: string
}

const jsonLimit: BodyLimit = {
  bytes: 8_000_000,
  seconds: 60,
  tooLarge: 'This is more than 8 MB of text; nothing was stored. Send it in parts, or import it as a file.',
}

/**
 * The parts of a body as they come, counted while they are read: what a request says of its length is a claim, and may be absent.
 * The rest of one that is refused is left to the front door; to end it here would cut the line before the refusal is read.
 */
export async function* partsOf({ body, headers }: Request, limit: BodyLimit): AsyncGenerator<Uint8Array> {
  const tooLarge = new Refusal('too-large', limit.tooLarge)
  if (Number(headers.get('content-length') ?? 0) > limit.bytes) throw tooLarge
  if (body === null) return
  const reader = body.getReader()
  const clock = clockOf(limit.seconds)
  let size = 0
  try {
    for (;;) {
      const part = await Promise.race([reader.read(), clock.over])
      if (part.done) return
      size += part.value.length
      if (size > limit.bytes) throw tooLarge
      yield part.value
    }
  } finally {
    clock.stop()
  }
}

function clockOf(seconds: number): { readonly over: Promise<never>; readonly stop: () => void } {
  let timer: NodeJS.Timeout | undefined
  const over = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Refusal('too-slow', tooSlow(seconds))), seconds * 1000)
  })
  // Nobody may be waiting for it at the moment.
  over.catch(() => undefined)
  return { over, stop: () => clearTimeout(timer) }
}

const tooSlow = (seconds: number): string =>
  `It was still coming after ${seconds} seconds, which is the longest that is waited; nothing was stored. Try again with a better connection.`

export async function bytesOf(request: Request, limit: BodyLimit): Promise<Buffer> {
  const parts: Uint8Array[] = []
  for await (const part of partsOf(request, limit)) parts.push(part)
  return Buffer.concat(parts)
}

export const bodyText = async (contract: Contract, request: Request): Promise<string> =>
  contract.method === 'GET' ? '' : (await bytesOf(request, jsonLimit)).toString('utf8')

export function json(text: string): unknown {
  try {
    const read: unknown = JSON.parse(text)
    // The escape may itself be escaped; then it is six letters and no sign.
    if (/(?<!\\)(?:\\\\)*\\u0000/.test(text)) throw nulRefusal()
    return read
  } catch (error) {
    if (error instanceof Refusal) throw error
    throw new Refusal('invalid', 'The body is not JSON; nothing was stored.')
  }
}

/** Texts end at this sign for much of what reads them, so that two of them could be taken for one. */
const nulRefusal = (): Refusal =>
  new Refusal('invalid', 'It holds the sign NUL, which no text may hold; nothing was stored.')

/** Rich text wherever the schema says there is some, made safe: the one way in for all endpoints. */
function cleaned(schema: Contract['body'], body: unknown): unknown {
  for (const { path, value } of markedIn(schema, body, richMark)) {
    const [last, ...way] = path.toReversed()
    const owner = way.reduceRight<unknown>((inside, name) => Reflect.get(Object(inside), name), body)
    // The schema has made the object that holds it just now.
    if (last !== undefined) Object.assign(Object(owner), { [last]: cleanHtml(String(value)) })
  }
  return body
}

/** What was asked, before any schema has read it. */
export interface Raw {
  readonly params: unknown
  readonly query: unknown
  readonly body: unknown
}

/** Path, query and body as the contract's schemas read them, or a refusal that names every field that does not fit. */
export function inputOf<C extends Contract>(
  contract: C,
  { params, url }: Pick<Incoming, 'params' | 'url'>,
  body: unknown,
): { readonly input: Input<C>; readonly raw: Raw } {
  const raw = { params, query: Object.fromEntries(url.searchParams), body }
  for (const value of [...Object.values(params), ...url.searchParams.values()])
    if (value?.includes('\0')) throw nulRefusal()
  const parts = {
    params: contract.params.safeParse(params),
    query: contract.query.safeParse(raw.query),
    body: contract.raw ? { success: true as const, data: undefined } : contract.body.safeParse(body),
  }
  const fields = Object.entries(parts).flatMap(([part, parsed]) =>
    parsed.success
      ? []
      : parsed.error.issues.map((issue) => ({
          field: part === 'body' ? issue.path.join('.') : `${part}.${issue.path.join('.')}`,
          message: issue.message,
        })),
  )
  if (fields.length > 0)
    throw new Refusal(
      'invalid',
      `Nothing was stored: ${fields
        .map(({ field, message }) => `${field || 'the body'} ${message}`)
        .slice(0, 3)
        .join('; ')}.`,
      { fields },
    )
  // The schemas are the contract's own, which the compiler cannot see through its general type.
  const input = {
    params: parts.params.data,
    query: parts.query.data,
    body: cleaned(contract.body, parts.body.data),
  } as Input<C>
  return { input, raw }
}
