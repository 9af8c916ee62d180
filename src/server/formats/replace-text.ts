import { sumOf } from '#core/lib/figures.ts'
import type { replaceText as contract } from '#core/formats/contract.ts'
import { fingerprintText } from '#core/cases/steps.ts'
import { replaceIn, type Replaced } from '#core/cases/replace.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addWaitingVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import { caseById, caseIds, saveCase } from '#db/cases/cases.ts'
import { addAct, noteAct, swapWorking } from '#db/formats/imports.ts'
import { storedCases } from '#db/formats/stored.ts'
import { type Context, fingerprint } from '#server/http/context.ts'
import { type Going, goingFor, inSlices } from '#server/http/going.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Before } from './import-job.ts'
import { settleAct } from './settle-act.ts'

const chunk = 10
interface Found extends Replaced {
  readonly id: number
  readonly key: string
  readonly version: number
  readonly stamp: string
  readonly was: string
}
interface Done {
  readonly act: number | null
  readonly done: readonly Found[]
  readonly left: readonly string[]
  readonly stopped: string | undefined
}

/**
 * Replaces a text in many cases, or shows where it would; one act that can be taken back as one. It goes in slices: what somebody
 * changes meanwhile is left alone and named, and whoever asked may stop it.
 */
export async function replaceText(
  context: OpenContext,
  { body }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const going = goingFor(context, context.project.id)
  try {
    const found = await findAll(context, body, going)
    if (body.dry || found.length === 0) return answerOf(found)
    refuseUnseen(found, body.seen)
    const { done, ...rest } = await store(context, { found, going, source: `“${body.find}” replaced by “${body.put}”` })
    return { ...answerOf(done), ...rest, left: rest.left.slice(0, 50) }
  } finally {
    going.end()
  }
}

async function findAll(
  { store: inside, request, project, tx }: OpenContext,
  body: Input<typeof contract>['body'],
  going: Going,
): Promise<Found[]> {
  const ids = body.ids.length > 0 ? body.ids : caseIds(tx, project.id)
  const found: Found[] = []
  const stop = () => {
    if (request.signal.aborted || going.stopped()) throw new Refusal('refused', 'Stopped; nothing was replaced.')
  }
  await inSlices<Context>(
    Math.ceil(ids.length / chunk),
    inside,
    (context, at) => {
      const some = ids.slice(at * chunk, (at + 1) * chunk)
      for (const own of storedCases(context.tx, project.id, { ids: some, custom: [], written: false })) {
        const done = replaceIn(own.title, own, body)
        if (done.places.length > 0)
          found.push({
            ...done,
            id: own.objectId,
            key: own.key,
            version: own.version,
            stamp: own.stamp,
            was: own.title,
          })
      }
    },
    { before: stop, after: (done) => going.report(done * chunk, 3 * ids.length) },
  )
  return found
}

const answerOf = (found: readonly Found[]): Answer<typeof contract> => ({
  cases: found.length,
  places: sumOf(found, ({ places }) => places.length),
  found: found
    .slice(0, 40)
    .map(({ key, was, places }) => ({ key, title: was, places: places.slice(0, 6).map((place) => ({ ...place })) })),
  act: null,
  left: [],
})

function refuseUnseen(found: readonly Found[], seen: number): void {
  const { places } = answerOf(found)
  if (seen !== places)
    throw new Refusal(
      'conflict',
      `The text stands in ${places} places now, not in the ${seen} you saw; nothing was replaced. Look again.`,
    )
  const tooLong = found.find(({ title }) => title.length > 300)
  if (tooLong)
    throw new Refusal(
      'invalid',
      `The title of ${tooLong.key} would be longer than 300 characters; nothing was replaced.`,
    )
}

interface Storing {
  readonly found: readonly Found[]
  readonly going: Going
  readonly source: string
}

/** Contents are staged out of sight; then case after case says the new one. */
async function store(context: OpenContext, { found, going, source }: Storing): Promise<Done> {
  const act = context.store(({ tx, project, now, by }) =>
    addAct(tx, { projectId: project.id, at: now, personId: by.personId, source, what: 'case' }),
  )
  const stamps = await stage(context, { found, going, act })
  const intended = found.map((own) => intendedOf(own, stamps.get(own.id)))
  const done: Found[] = []
  const left: string[] = []
  let stopped: string | undefined
  const settle = () => {
    const ids = new Set(done.map(({ id }) => id))
    return settleAct(context.store, act, { intended, done: intended.filter(({ id }) => ids.has(id)) })
  }
  try {
    context.store(({ tx }) => noteAct(tx, act, { made: [], changed: intended }))
    // What a slice did is known to be done once it is stored.
    let slice: Found[] = []
    await inSlices<Context>(
      found.length,
      context.store,
      (inside, at) => {
        const own = found[at]
        if (!own) return
        if (change(inside, own, { act, content: stamps.get(own.id), source })) slice.push(own)
        else left.push(own.key)
      },
      {
        before: () => {
          if (going.stopped()) throw new Stopped()
        },
        after: (at) => {
          done.push(...slice)
          slice = []
          going.report(2 * found.length + at, 3 * found.length)
        },
      },
    )
  } catch (error) {
    if (!(error instanceof Stopped)) {
      await settle()
      throw error
    }
    stopped = `Stopped after ${done.length} of ${found.length} cases; what was replaced so far stays.`
  }
  await settle()
  return { act: done.length === 0 ? null : act, done, left, stopped }
}

class Stopped extends Error {}

const intendedOf = (own: Found, content: string | undefined): Before => ({
  id: own.id,
  version: own.version + 1,
  set: own.title === own.was ? {} : { title: own.was },
  ...(own.title !== own.was && { title: own.title }),
  ...(content !== undefined && { content }),
})

/** New contents, out of sight; answers their fingerprints by case. What goes wrong, or is stopped, leaves nothing. */
async function stage(
  context: OpenContext,
  { found, going, act }: Pick<Storing, 'found' | 'going'> & { readonly act: number },
): Promise<ReadonlyMap<number, string>> {
  const stamps = new Map<number, string>()
  try {
    await inSlices<Context>(
      found.length,
      context.store,
      ({ tx, by }, at) => {
        const own = found[at]
        if (!own || own.places.every(({ field }) => field === 'title')) return
        const stamp = fingerprint(fingerprintText(own.content))
        writeContent(tx, { id: addWaitingVersion(tx, own.id, act, by), caseId: own.id }, own.content, stamp)
        stamps.set(own.id, stamp)
      },
      {
        before: () => {
          if (going.stopped()) throw new Refusal('refused', 'Stopped; nothing was replaced.')
        },
        after: (done) => going.report(found.length + done, 3 * found.length),
      },
    )
    return stamps
  } catch (error) {
    await settleAct(context.store, act, { intended: found, done: [] })
    throw error
  }
}

/** One case says the new text, unless somebody changed it since it was found. */
function change(
  context: Context,
  own: Found,
  { act, content, source }: { readonly act: number; readonly content: string | undefined; readonly source: string },
): boolean {
  const { tx, now } = context
  const stored = caseById(tx, own.id)
  if (!stored || stored.deletedAt !== null || stored.version !== own.version) return false
  if (workingCopy(tx, own.id).fingerprint !== own.stamp) return false
  saveCase(tx, own.id, { title: own.title, version: own.version + 1, updatedAt: now })
  if (content !== undefined) swapWorking(tx, act, [own.id])
  context.change({ kind: 'case', id: own.id, ref: own.key, action: 'changed', detail: { text: [null, source] } })
  return true
}
