import { z } from 'zod'
import { type Tracker, type TrackerIssue, TrackerProblem } from '#core/integrations/tracker.ts'

const issueShape = z.object({
  ref: z.string().max(80),
  title: z.string().max(300),
  state: z.string().max(60),
  assignee: z.string().max(120).nullable(),
  body: z.string().max(100_000),
  address: z.string().max(500),
  changed: z.string(),
})
const patience = 8000
const mostBytes = 2_000_000

/** A tracker that answers JSON over HTTP, as `docs/api.md` says; nothing it sends is trusted, and it is not followed elsewhere. */
export function httpTracker(of: { readonly name: string; readonly url: string; readonly token: string }): Tracker {
  const ask = async (path: string): Promise<unknown> => {
    const response = await reach(new URL(path, of.url.endsWith('/') ? of.url : `${of.url}/`), of)
    if (response.status === 404) return null
    if (!response.ok)
      throw new TrackerProblem(
        `${of.name} answered ${response.status}${response.status === 401 || response.status === 403 ? ': it does not accept the token in the set-up' : ''}.`,
      )
    const text = await response.text()
    if (text.length > mostBytes) throw new TrackerProblem(`${of.name} answered more than can be read.`)
    try {
      return JSON.parse(text)
    } catch {
      throw new TrackerProblem(`${of.name} answered something that is not JSON.`)
    }
  }
  const asIssue = (told: unknown): TrackerIssue => {
    const parsed = issueShape.safeParse(told)
    if (!parsed.success)
      throw new TrackerProblem(
        `${of.name} answered an issue that cannot be read: ${parsed.error.issues[0]?.path.join('.') ?? ''} ${parsed.error.issues[0]?.message ?? ''}.`,
      )
    const { assignee, body, address, changed, ...rest } = parsed.data
    const at = Date.parse(changed)
    return {
      ...rest,
      who: assignee ?? '',
      text: body,
      url: /^https?:\/\//.test(address) ? address : '',
      changedAt: Number.isNaN(at) ? null : at,
    }
  }
  return {
    issue: async (ref) => {
      const told = await ask(`api/issues/${encodeURIComponent(ref)}`)
      return told === null ? null : asIssue(told)
    },
    search: async (words) => {
      const told = z
        .object({ issues: z.array(z.unknown()).max(500) })
        .safeParse(await ask(`api/issues?${new URLSearchParams({ words })}`))
      if (!told.success) throw new TrackerProblem(`${of.name} answered no list of issues.`)
      return told.data.issues.map(asIssue)
    },
  }
}

async function reach(url: URL, { name, token }: { name: string; token: string }): Promise<Response> {
  try {
    return await fetch(url, {
      redirect: 'error',
      signal: AbortSignal.timeout(patience),
      headers: token === '' ? {} : { authorization: `Bearer ${token}` },
    })
  } catch (error) {
    throw new TrackerProblem(
      error instanceof DOMException && error.name === 'TimeoutError'
        ? `${name} did not answer within ${patience / 1000} seconds.`
        : `${name} cannot be reached.`,
    )
  }
}
