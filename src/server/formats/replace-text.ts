import type { replaceText as contract } from '#core/formats/contract.ts'
import { fingerprintText } from '#core/cases/steps.ts'
import { replaceIn, type Replaced } from '#core/cases/replace.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addWaitingVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import { caseById, caseIds, saveCase } from '#db/cases/cases.ts'
import { addAct, dropWaiting, finishAct, swapWorking } from '#db/formats/imports.ts'
import { storedCases } from '#db/formats/stored.ts'
import { fingerprint } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { inSlices } from './import-read.ts'
import type { Before } from './import-job.ts'

const chunk = 100
interface Found extends Replaced {
  readonly id: number
  readonly key: string
  readonly version: number
  readonly stamp: string
  readonly was: string
}

/** Replaces a text in many cases, or shows where it would; one act that can be taken back as one. */
export async function replaceText(
  context: OpenContext,
  { body }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const ids = body.ids.length > 0 ? body.ids : caseIds(context.tx, context.project.id)
  const found: Found[] = []
  const signal = { signal: context.request.signal }
  await inSlices(context.store, Math.ceil(ids.length / chunk), signal, ({ tx, project }, at) => {
    for (const own of storedCases(tx, project.id, {
      ids: ids.slice(at * chunk, (at + 1) * chunk),
      custom: [],
      written: false,
    })) {
      const done = replaceIn(own.title, own, body)
      if (done.places.length > 0)
        found.push({ ...done, id: own.objectId, key: own.key, version: own.version, stamp: own.stamp, was: own.title })
    }
  })
  const answer = {
    cases: found.length,
    places: found.reduce((sum, { places }) => sum + places.length, 0),
    found: found
      .slice(0, 40)
      .map(({ key, was, places }) => ({ key, title: was, places: places.slice(0, 6).map((place) => ({ ...place })) })),
    act: null,
  }
  if (body.dry || found.length === 0) return answer
  if (body.seen !== answer.places)
    throw new Refusal(
      'conflict',
      `The text stands in ${answer.places} places now, not in the ${body.seen} you saw; nothing was replaced. Look again.`,
    )
  const tooLong = found.find(({ title }) => title.length > 300)
  if (tooLong)
    throw new Refusal(
      'invalid',
      `The title of ${tooLong.key} would be longer than 300 characters; nothing was replaced.`,
    )
  return { ...answer, act: await store(context, found, `“${body.find}” replaced by “${body.put}”`) }
}

async function store(context: OpenContext, found: readonly Found[], source: string): Promise<number> {
  const act = context.store(({ tx, project, now, by }) =>
    addAct(tx, { projectId: project.id, at: now, personId: by.personId, source, what: 'case' }),
  )
  const stamps = new Map<number, string>()
  try {
    await inSlices(context.store, found.length, {}, ({ tx, by }, at) => {
      const own = found[at]
      if (!own || own.places.every(({ field }) => field === 'title')) return
      const stamp = fingerprint(fingerprintText(own.content))
      writeContent(tx, { id: addWaitingVersion(tx, own.id, act, by), caseId: own.id }, own.content, stamp)
      stamps.set(own.id, stamp)
    })
    context.store((inner) => {
      const before = found.map((own): Before => {
        const stored = caseById(inner.tx, own.id)
        if (
          !stored ||
          stored.deletedAt !== null ||
          stored.version !== own.version ||
          workingCopy(inner.tx, own.id).fingerprint !== own.stamp
        )
          throw new Refusal(
            'conflict',
            `Somebody changed ${own.key} in the meantime; nothing was replaced. Look again.`,
          )
        const version = stored.version + 1
        saveCase(inner.tx, own.id, { title: own.title, version, updatedAt: inner.now })
        const content = stamps.get(own.id)
        return {
          id: own.id,
          version,
          set: own.title === own.was ? {} : { title: own.was },
          ...(content !== undefined && { content }),
        }
      })
      swapWorking(inner.tx, act, [...stamps.keys()])
      inner.changeMany(
        found.map((own) => ({
          kind: 'case',
          id: own.id,
          ref: own.key,
          action: 'changed',
          detail: { text: [null, source] },
        })),
      )
      finishAct(inner.tx, act, { made: [], changed: before })
    })
  } catch (error) {
    context.store(({ tx }) => dropWaiting(tx, act))
    throw error
  }
  return act
}
