import { z } from 'zod'
import { type Tracker, type TrackerIssue, TrackerProblem } from '#core/integrations/tracker.ts'
import { askOutside, type OutsideAnswer, OutsideProblem } from './outside.ts'

const issueShape = z.object({
  ref: z.string().max(80),
  title: z.string().max(300),
  state: z.string().max(60),
  assignee: z.string().max(120).nullable(),
  body: z.string().max(100_000),
  address: z.string().max(500),
  changed: z.string(),
})

interface TrackerAt {
  readonly name: string
  readonly url: string
  readonly token: string
  /** Hosts inside our network that may be asked. */
  readonly allowed: readonly string[]
}

async function reach(url: URL, { name, token, allowed }: TrackerAt): Promise<OutsideAnswer> {
  try {
    return await askOutside({ url, allowed, headers: token === '' ? {} : { authorization: `Bearer ${token}` } })
  } catch (error) {
    if (error instanceof OutsideProblem) throw new TrackerProblem(`${name} ${error.message}.`)
    throw error
  }
}

/** A tracker that answers JSON over HTTP, as `docs/api.md` says; nothing it sends is trusted, and it is not followed elsewhere. */
export function httpTracker(of: TrackerAt): Tracker {
  const ask = async (path: string): Promise<unknown> => {
    const { status, text } = await reach(new URL(path, of.url.endsWith('/') ? of.url : `${of.url}/`), of)
    if (status === 404) return null
    if (status !== 200)
      throw new TrackerProblem(
        `${of.name} answered ${status}${status === 401 || status === 403 ? ': it does not accept the token in the set-up' : ''}.`,
      )
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
