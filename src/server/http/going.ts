import { setImmediate } from 'node:timers/promises'
import type { Asked } from './asked.ts'
import type { Context } from './context.ts'
import { longestHeld } from './held.ts'

/** What a long act is called by whoever asked for it, so that they can ask how far it is, and stop it. */
const jobHeader = 'rovant-job'

/** A long act that goes on. */
export interface Going {
  readonly report: (done: number, of: number) => void
  readonly stopped: () => boolean
  readonly end: () => void
}
interface Entry {
  done: number
  of: number
  stopped: boolean
}

/** They end with the process, as the acts do. */
const entries = new Map<string, Entry>()
/** Each has names of their own, so that nobody takes another’s. */
const nameOf = (project: number, person: string, job: string): string => `${project}/${person}/${job}`

/** Notes that a long act of somebody begins; without a name in its request nobody can ask about it. */
export function goingFor({ request, person }: Pick<Asked, 'request' | 'person'>, project: number): Going {
  const job = request.headers.get(jobHeader)?.slice(0, 60)
  const entry: Entry = { done: 0, of: 0, stopped: false }
  const name = job === undefined ? null : nameOf(project, person.id, job)
  if (name !== null) entries.set(name, entry)
  return {
    report: (done, all) => void Object.assign(entry, { done, of: all }),
    stopped: () => entry.stopped,
    end: () => void (name !== null && entries.get(name) === entry && entries.delete(name)),
  }
}

/** One’s own act of this name. */
export const goingOf = ({ project, person }: Pick<Context, 'project' | 'person'>, job: string): Entry | undefined =>
  entries.get(nameOf(project.id, person.id, job))

/** A slice aims at so long, in ms: now and then one takes five times as long as the one before it, and even that may not hold the process. */
const aim = longestHeld * 0.2
/** A request takes some turns of the loop from its first byte to its transaction; it gets them all between two slices. */
const turns = 4

/** Gives everybody else their turn. */
export async function breathe(): Promise<void> {
  for (let turn = 0; turn < turns; turn++) await setImmediate()
}

/** Works through `count` things one by one, in slices short enough that nobody's verdict waits for them; `before` each slice may end it. */
export async function inSlices<C>(
  count: number,
  store: <T>(work: (context: C) => T) => T,
  step: (context: C, index: number) => void,
  each: { readonly before?: () => void; readonly after?: (done: number) => void } = {},
): Promise<void> {
  // What led here had a turn of its own.
  await breathe()
  for (let next = 0; next < count;) {
    each.before?.()
    next = store((context) => {
      const until = performance.now() + aim
      let index = next
      for (; index < count && performance.now() < until; index++) step(context, index)
      return index
    })
    each.after?.(next)
    await breathe()
  }
}

/** So many of something are done by one transaction, all of them or none; more go in sets. */
export const atOnce = 100
const sizes = { first: 1, least: 1, most: 1000 }

/** The same by sets of neighbours, for what sets do at once; a set is as large as the last ones were quick. `work` answers whether it goes on. */
export async function inSets<T>(all: readonly T[], work: (some: readonly T[], from: number) => boolean): Promise<void> {
  let size = sizes.first
  await breathe()
  for (let at = 0; at < all.length;) {
    const some = all.slice(at, at + size)
    const began = performance.now()
    if (!work(some, at)) return
    at += some.length
    const fitting = (size * aim) / Math.max(0.5, performance.now() - began)
    size = Math.round(Math.min(sizes.most, size * 2, Math.max(sizes.least, fitting)))
    await breathe()
  }
}
