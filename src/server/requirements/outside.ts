import { keyOf } from '#core/lib/key.ts'
import type {
  fetchOutside as fetchContract,
  fetchRequirements as bringContract,
  readOutside as readContract,
} from '#core/requirements/contract.ts'
import { type Tracker, TrackerProblem } from '#core/integrations/tracker.ts'
import { plainText, richText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { wordDiff } from '#core/lib/word-diff.ts'
import { type OutsideStored, outsideOf, saveOutside, trackerOf } from '#db/integrations/queries.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, findRequirement } from '#db/requirements/requirements.ts'
import { byOutsideRef } from '#db/requirements/outside.ts'
import { lastPosition } from '#db/requirements/outline.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { hostsInside } from '#db/installation/hosts.ts'
import { httpTracker } from '#server/integrations/http-tracker.ts'

const told = ({ ref, title, state, who, text, url, changedAt, fetchedAt }: OutsideStored) => ({
  ref,
  title,
  state,
  who,
  text,
  url,
  changedAt,
  fetchedAt,
})

export function readOutside(
  { tx, project }: Context,
  { params }: Input<typeof readContract>,
): Answer<typeof readContract> {
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const copy = own.outsideRef === '' ? undefined : outsideOf(tx, project.id, own.outsideRef)
  return { tracker: trackerOf(tx, project.id)?.name ?? null, copy: copy ? told(copy) : null }
}

/** The adapter for the project's tracker; the one place that would choose between several kinds. */
function trackerFor({ tx, project, services }: OpenContext): { tracker: Tracker; name: string } {
  const stored = trackerOf(tx, project.id)
  if (!stored) throw new Refusal('refused', 'This project is connected to no tracker; a lead can do so in its set-up.')
  const token = services.seal.open(stored.token)
  if (token === null)
    throw new Refusal(
      'refused',
      `The token of ${stored.name} was sealed with another key, as after a restore without it; a lead gives it again in the set-up.`,
    )
  return { tracker: httpTracker({ ...stored, token, allowed: hostsInside(tx) }), name: stored.name }
}

async function asked<T>(work: Promise<T>, kept: string): Promise<T> {
  try {
    return await work
  } catch (error) {
    if (error instanceof TrackerProblem) throw new Refusal('refused', `${error.message} ${kept}`)
    throw error
  }
}

/** The tracker's newest words beside those it had before and those of the requirement. */
export async function fetchOutside(
  context: OpenContext,
  { params }: Input<typeof fetchContract>,
): Promise<Answer<typeof fetchContract>> {
  const own = found(findRequirement(context.tx, context.project.id, params.ref), keyOf('requirement', params.ref))
  if (own.outsideRef === '')
    throw new Refusal(
      'refused',
      `${keyOf('requirement', params.ref)} refers to nothing outside; give it a reference first.`,
    )
  const { tracker, name } = trackerFor(context)
  const before = outsideOf(context.tx, context.project.id, own.outsideRef)
  const issue = await asked(
    tracker.issue(own.outsideRef),
    before ? 'The copy that was fetched before is kept.' : 'Nothing was fetched.',
  )
  if (!issue)
    throw new Refusal(
      'refused',
      `${name} has no ${own.outsideRef}${before ? ' any more; the copy fetched before is kept' : ''}.`,
    )
  const copy = { ...issue, ref: own.outsideRef, fetchedAt: context.now }
  context.store(({ tx, project, now, change }) => {
    saveOutside(tx, project.id, { ...issue, ref: own.outsideRef }, now)
    change({ kind: 'requirement', id: own.id, ref: keyOf('requirement', own.number), action: 'fetched', verdict: true })
  })
  const changed = before
    ? (['title', 'state', 'who', 'text'] as const)
        .filter((field) => before[field] !== issue[field])
        .map((field) => ({ field, words: wordDiff(before[field], issue[field]) }))
    : []
  const differs = { title: wordDiff(own.title, issue.title), text: wordDiff(plainText(own.text), issue.text.trim()) }
  return {
    copy: told(copy),
    first: before === undefined,
    changed,
    differs: { ...differs, same: [...differs.title, ...differs.text].every(({ kind }) => kind === 'same') },
  }
}

/** Issues the tracker finds; those that no requirement refers to yet become requirements. */
export async function fetchRequirements(
  context: OpenContext,
  { body }: Input<typeof bringContract>,
): Promise<Answer<typeof bringContract>> {
  const { tracker } = trackerFor(context)
  const issues = await asked(tracker.search(body.query), 'Nothing was brought in.')
  const here = byOutsideRef(
    context.tx,
    context.project.id,
    issues.map(({ ref }) => ref),
  )
  const rows = issues.map(({ ref, title }) => ({ ref, title, here: here.get(ref) ?? null }))
  const fresh = issues.filter(({ ref }) => !here.has(ref))
  if (body.dry || fresh.length === 0) return { found: issues.length, rows, made: [] }
  const made = context.store(({ tx, project, by, now, change }) => {
    const first = takeNumbers(tx, project.id, 'requirement', fresh.length)
    const position = lastPosition(tx, project.id, null)
    return fresh.map((issue, index) => {
      const number = first + index
      const id = addRequirement(
        tx,
        {
          projectId: project.id,
          number,
          parentId: null,
          position: position + 1 + index,
          title: issue.title,
          text: richText(issue.text),
          outsideRef: issue.ref,
          outsideUrl: issue.url,
        },
        by,
      )
      saveOutside(tx, project.id, issue, now)
      change({
        kind: 'requirement',
        id,
        ref: keyOf('requirement', number),
        action: 'fetched',
        detail: { outside: [null, issue.ref] },
      })
      return keyOf('requirement', number)
    })
  })
  return { found: issues.length, rows, made }
}
