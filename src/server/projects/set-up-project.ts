import type {
  createEnvironment as environmentContract,
  createIteration as iterationContract,
  createProject as projectContract,
  createRelease as releaseContract,
} from '#core/projects/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addEnvironment, addIteration, addRelease } from '#db/projects/releases.ts'
import { addProject, findProject } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function createProject(
  { tx, now }: Context,
  { body }: Input<typeof projectContract>,
): Answer<typeof projectContract> {
  if (findProject(tx, body.key))
    throw new Refusal('refused', `There is a project ${body.key} already; choose another key.`)
  addProject(tx, { key: body.key, name: body.name, product: body.product, timeZone: body.timeZone, createdAt: now })
  return { key: body.key }
}

export function createRelease(
  context: Context,
  { body }: Input<typeof releaseContract>,
): Answer<typeof releaseContract> {
  refuseTwin(context, 'releases', body.name)
  const id = addRelease(context.tx, context.project.id, body)
  context.change({ kind: 'release', id, ref: body.name, action: 'created' })
  return { id }
}

export function createIteration(
  context: Context,
  { body }: Input<typeof iterationContract>,
): Answer<typeof iterationContract> {
  const id = addIteration(context.tx, {
    name: body.name,
    startOn: body.startOn,
    dueOn: body.dueOn,
    releaseId: body.release,
  })
  context.change({ kind: 'iteration', id, ref: body.name, action: 'created' })
  return { id }
}

export function createEnvironment(
  context: Context,
  { body }: Input<typeof environmentContract>,
): Answer<typeof environmentContract> {
  refuseTwin(context, 'environments', body.name)
  const id = addEnvironment(context.tx, context.project.id, body)
  context.change({ kind: 'environment', id, ref: body.name, action: 'created' })
  return { id }
}

/** Two of a kind are not called the same. */
export function refuseTwin({ tx, project }: Context, list: 'releases' | 'builds' | 'environments', name: string): void {
  if (projectDetail(tx, project, 'viewer')[list].some((each) => each.name === name))
    throw new Refusal('refused', `There is already one called ${name}; nothing was stored.`, {
      fields: [{ field: 'name', message: 'is taken' }],
    })
}
