import type { readImport as contract } from '#core/formats/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Imports that go on now, by project and the name their browser gave them. They end with the process, as the imports do. */
const going = new Map<string, { done: number; of: number }>()
const nameOf = (project: number, job: string): string => `${project}/${job}`

export function startJob(
  project: number,
  job: string,
): { report: (done: number, of: number) => void; end: () => void } {
  const name = nameOf(project, job)
  going.set(name, { done: 0, of: 0 })
  return { report: (done, of) => void going.set(name, { done, of }), end: () => void going.delete(name) }
}

export function readImport({ project }: Context, { params }: Input<typeof contract>): Answer<typeof contract> {
  const found = going.get(nameOf(project.id, params.job))
  if (!found) throw new Refusal('not-found', 'No import of this name goes on; it has ended.')
  return { ...found }
}
