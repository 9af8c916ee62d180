import { numberIn } from '#core/lib/key.ts'
import type { readShared as contract } from '#core/runs/share-contract.ts'
import { findCase } from '#db/cases/cases.ts'
import { findRequirement } from '#db/requirements/requirements.ts'
import type { ObservedOf } from '#db/runs/observations.ts'
import { findRun } from '#db/runs/runs.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { sharedJob } from '#server/workers/questions.ts'

/** What failures of a run, a case or what covers a requirement share. */
export async function readShared(
  context: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { project, services } = context
  const { explanations, next, ...told } = await services.jobs.run(sharedJob, {
    projectId: project.id,
    of: observedOf(context, query.of),
  })
  return {
    ...told,
    explanations: explanations.map((each) => ({
      ...each,
      values: { ...each.values },
      instead: each.instead.map((values) => ({ ...values })),
    })),
    next: next && {
      item: next.id.id,
      case: next.id.case,
      title: next.id.title,
      environment: next.id.environment,
      run: next.id.run,
      against: next.against,
      of: next.of,
    },
  }
}

function observedOf({ tx, project }: OpenContext, ref: string): ObservedOf {
  const named = (kind: ObservedOf['kind'], of: { readonly id: number } | undefined) => ({ kind, id: found(of, ref).id })
  if (ref.startsWith('RN')) return named('run', findRun(tx, project.id, numberIn('run', ref)))
  if (ref.startsWith('TC')) return named('case', findCase(tx, project.id, numberIn('case', ref)))
  return named('requirement', findRequirement(tx, project.id, numberIn('requirement', ref)))
}
