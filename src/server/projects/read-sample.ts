import { Refusal } from '#core/lib/refusal.ts'
import type { readSample as contract } from '#core/projects/contract.ts'
import { sampleOf } from '#db/installation/samples.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer } from '#server/http/route.ts'

export function readSample({ tx, project }: Context): Answer<typeof contract> {
  const sample = sampleOf(tx, project.id)
  if (!sample) throw new Refusal('not-found', `${project.key} is no sample project.`)
  return sample
}
