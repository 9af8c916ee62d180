interface FileGiven {
  readonly name: string
  readonly mime: string
  /** What had no place in it, in words. */
  readonly left?: readonly string[]
  /** In bytes, where it is known before all of it is sent. */
  readonly size?: number
}

/** A file somebody takes away; it is kept nowhere on the way. */
export const fileAnswer = (body: BodyInit, { name, mime, left, size }: FileGiven): Response =>
  new Response(body, {
    headers: {
      'content-type': mime,
      ...(size !== undefined && { 'content-length': String(size) }),
      'content-disposition': `attachment; filename="${name}"`,
      ...(left && { 'x-rovant-left-out': encodeURIComponent(JSON.stringify(left)) }),
      'cache-control': 'no-store',
    },
  })
