import { keyOf, numberIn } from '#core/lib/key.ts'
import { lower } from '#core/lib/lower.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  deleteRuns as deleteContract,
  endRuns as endContract,
  tagRuns as tagContract,
  mergeRuns as mergeContract,
  splitRun as splitContract,
  unmergeRuns as unmergeContract,
} from '#core/runs/shape-contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { setTags, tagsOf } from '#db/projects/fields.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRun, findRun, runById, type RunStored, saveRun, setTeam, teamIds } from '#db/runs/runs.ts'
import { attemptsIn, groupsOf, itemCount, moveItems } from '#db/runs/shape.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { endOf, refuseOwing } from './keep-runs.ts'

const keyed = ({ number }: Pick<RunStored, 'number'>): string => keyOf('run', number)
const mostParts = 50

function goingOn({ tx, project }: Context, number: number): RunStored {
  const run = found(findRun(tx, project.id, number), keyOf('run', number))
  if (hasEnded(run.state))
    throw new Refusal('refused', `${keyed(run)} is ${run.state}; open it again first. Nothing was changed.`)
  return run
}

/** Writes that a run has become another, and makes edits of before collide. */
function told(
  { tx, now, change }: Context,
  run: RunStored,
  action: 'split' | 'merged' | 'merge taken back',
  detail: Readonly<Record<string, readonly [unknown, unknown]>>,
): void {
  saveRun(tx, run.id, { version: (runById(tx, run.id)?.version ?? run.version) + 1, updatedAt: now })
  change({ kind: 'run', id: run.id, ref: keyed(run), action, detail })
}

/** The largest part stays; each other goes into a run like this one, with its attempts. */
export function splitRun(
  context: Context,
  { params, body }: Input<typeof splitContract>,
): Answer<typeof splitContract> {
  const { tx, project, now } = context
  const run = goingOn(context, params.ref)
  const [first, ...others] = groupsOf(tx, run.id, body.by)
  if (!first || others.length === 0)
    throw new Refusal('refused', `All of ${keyed(run)} is of one ${body.by}; there is nothing to split by that.`)
  if (others.length >= mostParts)
    throw new Refusal('refused', `That would make ${others.length + 1} runs; ${mostParts} are the most at once.`)
  const runs = others.map(({ name, ids }) => {
    const { id: _id, number: _number, createdAt: _at, updatedAt: _then, ...like } = run
    const number = takeNumbers(tx, project.id, 'run')
    const title = `${run.title}: ${name}`.slice(0, 200)
    const id = addRun(tx, { ...like, number, title, version: 1 }, now)
    setTeam(tx, id, teamIds(tx, run.id))
    moveItems(tx, run.id, id, ids)
    context.change({
      kind: 'run',
      id,
      ref: keyOf('run', number),
      action: 'split',
      detail: { from: [null, keyed(run)] },
    })
    return { key: keyOf('run', number), title, items: ids.length }
  })
  told(context, run, 'split', { by: [null, body.by], into: [null, runs.map(({ key }) => key).join(', ')] })
  return { runs }
}

/** All items of other runs come into this one; what is in both stays where it is. */
export function mergeRuns(
  context: Context,
  { params, body }: Input<typeof mergeContract>,
): Answer<typeof mergeContract> {
  const { tx, now } = context
  const into = goingOn(context, params.ref)
  const from = [...new Set(body.from)].map((key) => goingOn(context, numberIn('run', key)))
  if (from.some(({ id }) => id === into.id))
    throw new Refusal('refused', `${keyed(into)} cannot be merged with itself; choose another run.`)
  let twins = 0
  const undo = from.map((run) => {
    const ids = moveItems(tx, run.id, into.id, null)
    const left = itemCount(tx, run.id)
    twins += left
    if (body.remove && left === 0) saveRun(tx, run.id, { deletedAt: now })
    else
      saveRun(tx, run.id, {
        state: 'Closed',
        closedAt: run.closedAt ?? now,
        endedReason: `Merged into ${keyed(into)}.`,
      })
    told(context, run, 'merged', { into: [null, keyed(into)] })
    return { run: keyed(run), ids }
  })
  setTeam(tx, into.id, [...new Set([into, ...from].flatMap(({ id }) => teamIds(tx, id)))])
  told(context, into, 'merged', { from: [null, from.map(keyed).join(', ')] })
  return { moved: undo.reduce((sum, { ids }) => sum + ids.length, 0), twins, undo }
}

export function unmergeRuns(
  context: Context,
  { params, body }: Input<typeof unmergeContract>,
): Answer<typeof unmergeContract> {
  const { tx, project } = context
  const from = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  let moved = 0
  for (const part of body.parts) {
    const run = found(findRun(tx, project.id, numberIn('run', part.run)), part.run)
    if (run.id === from.id)
      throw new Refusal('refused', `${keyed(run)} was not merged with itself; nothing was changed.`)
    moved += moveItems(tx, from.id, run.id, part.ids).length
    saveRun(tx, run.id, { state: 'Open', closedAt: null, endedReason: '' })
    told(context, run, 'merge taken back', { from: [null, keyed(from)] })
  }
  told(context, from, 'merge taken back', { to: [null, body.parts.map(({ run }) => run).join(', ')] })
  return { moved }
}

/** What was executed in them stays in history, and counts. */
export function deleteRuns(context: Context, { body }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const { tx, project, now } = context
  const runs = [...new Set(body.ids)].map((id) => {
    const run = runById(tx, id)
    return found(run?.projectId === project.id ? run : undefined, 'One of the chosen runs')
  })
  for (const run of runs) {
    saveRun(tx, run.id, { deletedAt: now })
    context.change({ kind: 'run', id: run.id, ref: keyed(run), action: 'deleted' })
  }
  return { refs: runs.map(keyed), attempts: attemptsIn(tx, body.ids) }
}

/** Puts tags on runs and takes tags from them; answers, of each, what brings back what it had. */
export function tagRuns(context: Context, { body }: Input<typeof tagContract>): Answer<typeof tagContract> {
  const { tx, project } = context
  const before = tagsOf(tx, 'run', body.ids)
  const undo: { ids: number[]; add: string[]; drop: string[] }[] = []
  for (const id of new Set(body.ids)) {
    const run = runById(tx, id)
    const own = found(run?.projectId === project.id ? run : undefined, 'One of the chosen runs')
    const had = before.get(id) ?? []
    const added = body.add.filter((tag) => !had.includes(tag))
    const dropped = had.filter((tag) => body.drop.includes(tag) && !body.add.includes(tag))
    if (added.length + dropped.length === 0) continue
    const has = [...had.filter((tag) => !dropped.includes(tag)), ...added]
    setTags(tx, project.id, 'run', id, has)
    undo.push({ ids: [id], add: dropped, drop: added })
    context.change({ kind: 'run', id, ref: keyed(own), action: 'changed', detail: { tags: [had, has] } })
  }
  return { changed: undo.length, undo }
}

/** Each by itself, so that one that cannot be ended does not hold up the others. */
export function endRuns(context: Context, { body }: Input<typeof endContract>): Answer<typeof endContract> {
  const { tx, project, now } = context
  const undo: { ids: number[]; state: RunStored['state']; reason: string }[] = []
  const left: { run: string; why: string }[] = []
  for (const id of body.ids) {
    const run = runById(tx, id)
    const own = found(run?.projectId === project.id ? run : undefined, 'One of the chosen runs')
    if (own.state === body.state) continue
    try {
      if (body.state === 'Closed') refuseOwing(context, own)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      left.push({ run: keyed(own), why: error.sentence })
      continue
    }
    const ended = endOf(body.state, body.reason, own, now)
    saveRun(tx, own.id, { state: body.state, ...ended, version: own.version + 1, updatedAt: now })
    undo.push({ ids: [id], state: own.state, reason: own.endedReason })
    context.change({
      kind: 'run',
      id,
      ref: keyed(own),
      action: lower(body.state),
      detail: { state: [own.state, body.state], ...(body.reason && { reason: [null, body.reason] }) },
    })
  }
  return { changed: undo.length, undo, left }
}
