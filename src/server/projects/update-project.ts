import type {
  readTracker as readTrackerContract,
  setHolidays as holidaysContract,
  setTracker as trackerContract,
  updateProject as contract,
} from '#core/projects/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { definedOf } from '#core/lib/defined.ts'
import { changedFields } from '#core/history/changes.ts'
import { hostsInside, keepHostsInside } from '#db/installation/hosts.ts'
import { dropTracker, saveTracker, setTrackerToken, trackerOf, trackerTokens } from '#db/integrations/queries.ts'
import type { Tx } from '#db/open.ts'
import { holidaysOf, putHolidays } from '#db/projects/holidays.ts'
import { findProject, saveProject } from '#db/projects/projects.ts'
import type { Context } from '#server/http/context.ts'
import { refuseAskingWithoutFactor } from '#server/http/permission.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { isSealed, type Seal } from '#server/http/seal.ts'

export function updateProject(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const { weights, ...rest } = definedOf(body)
  const edit = { ...rest, ...(weights && { worthWeights: JSON.stringify(weights) }) }
  if (edit.secondFactorAsked) refuseAskingWithoutFactor(context.person)
  const detail = changedFields({ ...context.project }, edit)
  if (Object.keys(detail).length === 0) return { ok: true }
  saveProject(context.tx, context.project.id, edit)
  context.change({ kind: 'project', id: context.project.id, ref: context.project.key, action: 'changed', detail })
  return { ok: true }
}

export function setHolidays(
  context: Context,
  { body }: Input<typeof holidaysContract>,
): Answer<typeof holidaysContract> {
  const { tx, project } = context
  const before = holidaysOf(tx, project.id)
  const days = [...new Map(body.days.map((each) => [each.day, each])).values()]
  putHolidays(tx, project.id, days)
  context.change({
    kind: 'project',
    id: project.id,
    ref: project.key,
    action: 'changed',
    detail: { holidays: [before.map(({ day }) => day).join(', '), days.map(({ day }) => day).join(', ')] },
  })
  return { before }
}

export async function readTracker({ tx, project, services }: OpenContext): Promise<Answer<typeof readTrackerContract>> {
  const stored = trackerOf(tx, project.id)
  // The token is a secret: it goes in and never out. One that another key sealed is as good as none.
  return stored
    ? { name: stored.name, url: stored.url, token: (services.seal.open(stored.token) ?? '') !== '' }
    : { name: '', url: '', token: false }
}

export async function setTracker(
  { services, store }: OpenContext,
  { body }: Input<typeof trackerContract>,
): Promise<Answer<typeof trackerContract>> {
  store((context) => connect(context, services.seal, body))
  return { ok: true }
}

function connect(context: Context, seal: Seal, body: Input<typeof trackerContract>['body']): void {
  const { tx, project } = context
  const before = trackerOf(tx, project.id)
  const token = before ? (seal.open(before.token) ?? '') : ''
  // A token is for the place it was given for: at another address whoever answers there would get it.
  if (before && token !== '' && body.token === undefined && body.url !== '' && isElsewhere(before.url, body.url))
    throw new Refusal('invalid', 'The address is another one, so its token is asked for again; nothing was changed.', {
      fields: [{ field: 'token', message: 'is asked for again' }],
    })
  if (body.url === '') dropTracker(tx, project.id)
  else saveTracker(tx, project.id, { name: body.name, url: body.url, token: seal.close(body.token ?? token) })
  context.change({
    kind: 'project',
    id: project.id,
    ref: project.key,
    action: body.url === '' ? 'tracker taken away' : 'tracker connected',
  })
}

/** Seals tokens that were kept before there was a seal, or were given on the command line. */
export function sealTokens(db: Tx, seal: Seal): void {
  for (const { projectId, token } of trackerTokens(db))
    if (token !== '' && !isSealed(token)) setTrackerToken(db, projectId, seal.close(token))
}

const isElsewhere = (one: string, other: string): boolean => new URL(one).origin !== new URL(other).origin

/** Connects a project to a tracker from the command line. */
export function connectTracker(
  db: Context['tx'],
  key: string,
  of: { readonly name: string; readonly url: string; readonly token: string },
): void {
  const project = findProject(db, key)
  if (project) saveTracker(db, project.id, of)
  // The one of the demo is a stand-in on this machine.
  keepHostsInside(db, [...hostsInside(db), new URL(of.url).hostname])
}
