import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, line, none, orUndo, refParams } from '#core/lib/shapes.ts'
import { carryGroups } from './carry.ts'

const plan = '/projects/:key/plans/:ref/carry'
const row = z.object({ id, key: z.string(), title: z.string(), why: z.string(), minutes: z.number() })
export const readCarry = contract({
  name: 'readCarry',
  method: 'GET',
  path: plan,
  permission: 'read',
  summary: 'The cases of a plan in groups by what became of them, for the plan of the next release',
  params: refParams('plan'),
  query: none,
  body: none,
  output: z.object({
    /** The last build that was offered in the plan’s release; none was. */
    build: z.string().nullable(),
    groups: z.array(
      z.object({
        group: z.enum(carryGroups),
        total: z.number(),
        minutes: z.number(),
        carried: z.boolean(),
        rows: z.array(row),
      }),
    ),
    /** Requirements that came since the plan was made and that no live case proves. */
    uncovered: z.array(z.object({ id, key: z.string(), title: z.string(), risk: z.number().nullable() })),
  }),
})
export type Carry = z.infer<typeof readCarry.output>
export const carryPlan = contract({
  name: 'carryPlan',
  method: 'POST',
  path: plan,
  permission: 'plan',
  summary: 'Make the plan of the next release of these cases of a plan; the old plan stays as it is',
  params: refParams('plan'),
  query: none,
  body: z.object({
    title: line(200),
    release: idOf('release'),
    iteration: idOf('iteration').nullable().default(null),
    cases: z.array(idOf('test_case')).min(1, 'is empty: nothing would be carried over').max(20_000),
  }),
  output: z.object({ id, key: z.string(), suites: z.number() }),
})
export const takeCarryBack = contract({
  name: 'takeCarryBack',
  method: 'DELETE',
  path: plan,
  permission: 'plan',
  summary: 'Take back a plan that was carried over, with the suites made for it; or bring them again',
  params: refParams('plan'),
  query: orUndo,
  body: none,
  output: done,
})
