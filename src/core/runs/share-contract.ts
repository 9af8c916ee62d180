import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, none, projectParams } from '#core/lib/shapes.ts'

const combination = z.record(z.string(), z.string())
export const readShared = contract({
  name: 'readShared',
  method: 'GET',
  path: '/projects/:key/shared',
  permission: 'read',
  summary:
    'What the failures of a run, a case or what covers a requirement share: the smallest combinations of values that explain them',
  params: projectParams,
  query: z.object({ of: z.string().regex(/^(RN|TC|RQ)-\d{1,9}$/, 'is the key of a run, a case or a requirement') }),
  body: none,
  output: z.object({
    failures: z.number(),
    passes: z.number(),
    explanations: z.array(
      z.object({ values: combination, failures: z.number(), backing: z.number(), instead: z.array(combination) }),
    ),
    unexplained: z.number(),
    /** The open item that would tell the most, with on how many of how many explanations it bears. */
    next: z
      .object({
        item: id,
        case: z.string(),
        title: z.string(),
        environment: z.string(),
        run: z.string(),
        against: z.number(),
        of: z.number(),
      })
      .nullable(),
  }),
})
