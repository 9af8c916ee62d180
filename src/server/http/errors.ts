import { type FieldProblem, Refusal, type RefusalCode } from '#core/lib/refusal.ts'
import { isDiskFull } from './disk.ts'

/** The one table: every refusal's status and title. */
export const errorTable: Readonly<Record<RefusalCode, { readonly status: number; readonly title: string }>> = {
  'not-signed-in': { status: 401, title: 'Not signed in' },
  'not-allowed': { status: 403, title: 'Not allowed' },
  'not-found': { status: 404, title: 'Not found' },
  deleted: { status: 410, title: 'Deleted' },
  moved: { status: 410, title: 'Moved' },
  conflict: { status: 412, title: 'Changed by somebody else' },
  'needs-version': { status: 428, title: 'Version needed' },
  refused: { status: 422, title: 'Refused' },
  'key-reused': { status: 409, title: 'Key used before' },
  invalid: { status: 400, title: 'Not valid' },
  'too-slow': { status: 408, title: 'Too slow' },
  'too-large': { status: 413, title: 'Too large' },
  'wrong-kind': { status: 415, title: 'Wrong kind of content' },
  'too-many': { status: 429, title: 'Too many' },
  'wrong-method': { status: 405, title: 'Not asked like this' },
  'disk-full': { status: 507, title: 'Disk full' },
  'not-reached': { status: 503, title: 'Not reached' },
}

/** A refusal, or a bug, as an RFC 9457 problem document. A bug tells nothing of itself but that it was written down. */
export function problemOf(error: unknown, log: (error: unknown) => void): Response {
  if (namesNothing(error))
    return problemOf(
      new Refusal(
        'invalid',
        'Something that is named here is not there, or is no longer; nothing was stored. Look at it anew and try again.',
      ),
      log,
    )
  if (isDiskFull(error)) {
    log(error)
    return problemOf(diskFull(), log)
  }
  if (!(error instanceof Refusal)) {
    log(error)
    return problem(500, {
      type: 'about:blank',
      title: 'Something broke',
      detail: 'The server could not do this; nothing was changed. The failure is in the server’s log.',
    })
  }
  const { status, title } = errorTable[error.code]
  const { fields, current } = error.detail
  return problem(status, {
    type: `urn:rovant:${error.code}`,
    title,
    detail: error.sentence,
    ...(fields && { field: fields }),
    ...(current !== undefined && { current }),
  })
}

/** What everybody is told while the disk has no room: their words are theirs still, and reading goes on. */
const diskFull = (): Refusal =>
  new Refusal(
    'disk-full',
    'The disk of the server is full, so nothing was stored; reading goes on. Tell whoever runs the server; what is written on this page is kept.',
  )

/** The database refused a number or an id that stands for nothing. */
const namesNothing = (error: unknown): boolean =>
  error instanceof Error &&
  (('code' in error && error.code === 'SQLITE_CONSTRAINT_FOREIGNKEY') || namesNothing(error.cause))

interface Problem {
  readonly type: string
  readonly title: string
  readonly detail: string
  readonly field?: readonly FieldProblem[]
  readonly current?: unknown
}

const problem = (status: number, body: Problem): Response =>
  new Response(JSON.stringify({ ...body, status }), {
    status,
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store' },
  })
