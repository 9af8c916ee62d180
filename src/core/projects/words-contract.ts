import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, none, projectParams } from '#core/lib/shapes.ts'
import { finalVerdict, verdictKind } from '#core/lib/verdict.ts'
import { policy } from '#core/projects/policy.ts'

/** The rules of a project's runs; its version is that of the project's policy. */
export const setPolicy = contract({
  name: 'setPolicy',
  method: 'PUT',
  path: '/projects/:key/policy',
  permission: 'setUp',
  summary:
    'The rules runs are executed under, but for runs with rules of their own; what was recorded stays under those it began with',
  params: projectParams,
  query: none,
  body: policy,
  output: z.object({ version: z.number() }),
  versioned: true,
})

const verdicts = '/projects/:key/verdicts'
export const addVerdict = contract({
  name: 'addVerdict',
  method: 'POST',
  path: verdicts,
  permission: 'setUp',
  summary: 'Add a verdict of the project’s own; its word and what it counts as never change',
  params: projectParams,
  query: none,
  body: verdictKind,
  output: z.object({ id }),
})
export const copyVerdict = contract({
  name: 'copyVerdict',
  method: 'POST',
  path: `${verdicts}/:id/also`,
  permission: 'setUp',
  summary:
    'Have an own verdict in other projects too, where one leads; one that has the word already is left and named',
  params: idParams('verdict_kind'),
  query: none,
  body: z.object({ projects: z.array(projectParams.shape.key).min(1).max(100) }),
  output: z.object({
    added: z.array(z.string()),
    left: z.array(z.object({ project: z.string(), why: z.string() })),
  }),
})
export const updateVerdict = contract({
  name: 'updateVerdict',
  method: 'PATCH',
  path: `${verdicts}/:id`,
  permission: 'setUp',
  summary: 'Change how an own verdict is drawn and of what it is said, or retire it',
  params: idParams('verdict_kind'),
  query: none,
  body: verdictKind
    .pick({ forItems: true, forSteps: true, sign: true, tint: true })
    .extend({ retired: z.boolean() })
    .partial(),
  output: done,
})
export const orderVerdicts = contract({
  name: 'orderVerdicts',
  method: 'PUT',
  path: `${verdicts}/order`,
  permission: 'setUp',
  summary: 'The order of the project’s own verdicts, which is that of their keys',
  params: projectParams,
  query: none,
  body: z.object({ ids: z.array(idOf('verdict_kind')).max(200) }),
  output: done,
})

const reasons = '/projects/:key/reasons'
export const addReason = contract({
  name: 'addReason',
  method: 'POST',
  path: reasons,
  permission: 'setUp',
  summary: 'Add a reason that may be given for a verdict',
  params: projectParams,
  query: none,
  body: z.object({ verdict: finalVerdict, word: z.string().trim().min(1, 'may not be empty').max(60) }),
  output: z.object({ id }),
})
export const retireReason = contract({
  name: 'retireReason',
  method: 'PATCH',
  path: `${reasons}/:id`,
  permission: 'setUp',
  summary: 'Retire a reason, or take it into use again',
  params: idParams('verdict_reason'),
  query: none,
  body: z.object({ retired: z.boolean() }),
  output: done,
})
