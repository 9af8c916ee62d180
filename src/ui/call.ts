import { z } from 'zod'
import type { BodyOf, Contract, OutputOf, ParamsOf, QueryOf } from '#core/lib/contract.ts'

export interface CallInput<C extends Contract> {
  readonly params?: ParamsOf<C>
  readonly query?: QueryOf<C>
  readonly body?: BodyOf<C>
  /** The version an edit was made against. */
  readonly version?: number
  readonly signal?: AbortSignal | undefined
  /** Let it finish although the page is being left. */
  readonly keepalive?: boolean
  /** What a long act is called, to ask how far it is. */
  readonly job?: string | undefined
  /** A file, for contracts whose body is not JSON. */
  readonly file?: Blob
}

const problemShape = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string(),
  field: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional(),
})
export type Problem = z.infer<typeof problemShape>

/** An answer that is not yes. `detail` is a sentence for the person; `status` 0 means the server was not reached. */
export class CallProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

export const sentenceOf = (error: unknown): string =>
  error instanceof CallProblem ? error.problem.detail : error instanceof Error ? error.message : 'Something broke.'

/** The only fetch: typed by the contract, relative to this server. */
export async function call<C extends Contract>(contract: C, input: CallInput<C> = {}): Promise<OutputOf<C>> {
  const headers: Record<string, string> = {}
  if (input.body !== undefined) headers['content-type'] = 'application/json'
  if (input.file) headers['content-type'] = input.file.type || 'application/octet-stream'
  if (input.version !== undefined) headers['if-match'] = String(input.version)
  if (input.job !== undefined) headers['rovant-job'] = input.job
  const init: RequestInit = {
    method: contract.method,
    headers,
    signal: input.signal ?? null,
    keepalive: input.keepalive ?? false,
  }
  if (contract.method !== 'GET')
    init.body = input.file ?? (input.body === undefined ? null : JSON.stringify(input.body))
  const response = await reach(addressOf(contract, input), init)
  if (!response.ok) throw new CallProblem(await problemIn(response))
  // The server answers by the same contract; a test of our own holds every answer against it.
  return (await response.json()) as OutputOf<C>
}

export interface FileAnswer {
  readonly blob: Blob
  readonly name: string
  /** What the format of the file had no place for. */
  readonly left: readonly string[]
}

/** Is what was sent refused whenever it comes again? An ended sign-in, a slow line and too many at once pass. */
export const isForGood = (status: number): boolean => status >= 400 && status < 500 && ![401, 408, 429].includes(status)

/** A contract whose answer is a file to keep. */
export async function callFile<C extends Contract>(contract: C, input: CallInput<C>): Promise<FileAnswer> {
  const response = await reach(addressOf(contract, input), {
    method: contract.method,
    signal: input.signal ?? null,
    ...(input.body !== undefined && {
      body: JSON.stringify(input.body),
      headers: { 'content-type': 'application/json' },
    }),
  })
  if (!response.ok) throw new CallProblem(await problemIn(response))
  const left = z
    .array(z.string())
    .parse(JSON.parse(decodeURIComponent(response.headers.get('x-rovant-left-out') ?? '[]')))
  return {
    blob: await response.blob(),
    name: /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'file',
    left,
  }
}

/** The address a contract is asked at. */
export function addressOf<C extends Contract>(contract: C, input: Pick<CallInput<C>, 'params' | 'query'>): string {
  const params = recordOf(input.params)
  const path = contract.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])))
  const query = new URLSearchParams(
    Object.entries(recordOf(input.query)).flatMap(([name, value]): [string, string][] =>
      value === undefined || value === null ? [] : [[name, String(value)]],
    ),
  )
  return `/api/v1${path}${query.size > 0 ? `?${query}` : ''}`
}

const recordOf = (of: unknown): Record<string, unknown> =>
  typeof of === 'object' && of !== null ? Object.fromEntries(Object.entries(of)) : {}

async function reach(address: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(address, init)
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new CallProblem({
      type: 'urn:rovant:unreached',
      title: 'Not reached',
      status: 0,
      detail: 'The server cannot be reached; this is not stored.',
    })
  }
}

async function problemIn(response: Response): Promise<Problem> {
  const parsed = problemShape.safeParse(await response.json().catch(() => null))
  return parsed.success
    ? parsed.data
    : {
        type: 'about:blank',
        title: 'Something broke',
        status: response.status,
        detail: `The server answered ${response.status} and no reason. Nothing was stored.`,
      }
}
