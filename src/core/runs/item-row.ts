import { z } from 'zod'
import { id, instant } from '#core/lib/shapes.ts'
import { finalVerdict, verdict } from '#core/lib/verdict.ts'
import { runReasons } from './compose.ts'
import { wait } from './waits.ts'
import { askables, spoilers } from '#core/projects/policy.ts'

/** An item as a list shows it. */
export const itemRow = z.object({
  id,
  case: z.string(),
  caseId: id,
  title: z.string(),
  importance: z.string(),
  component: z.string(),
  environment: z.string(),
  environmentId: id,
  assignee: z.string().nullable(),
  assigneeId: z.string().nullable(),
  estimate: z.number().nullable(),
  minutes: z.number(),
  verdict,
  /** The project's own word it was given in. */
  word: z.string().nullable(),
  dueOn: z.string().nullable(),
  position: z.number(),
  attempt: id.nullable(),
  at: instant.nullable(),
  /** Who made its attempt. */
  by: z.string().nullable(),
  build: z.string().nullable(),
  defects: z.array(z.string()),
  /** What counts for the case here on this build, where another attempt than the item's own gave it. */
  stands: finalVerdict.nullable(),
  /** Why the environment is not to be used: what is not begun there is held. Of what was begun: that it was so meanwhile. */
  outage: z.string().nullable(),
  /** Why it is in the run; none: put there by hand. */
  reasons: z.array(z.enum(runReasons)),
  /** What its verdict asks for and was not given yet. */
  owed: z.array(z.enum(askables)),
  /** Where several people judge it: how many, how many of them have to pass it, and what they said so far. */
  several: z
    .object({
      people: z.number(),
      passes: z.number(),
      said: z.array(z.object({ person: z.string().nullable(), verdict })),
    })
    .nullable(),
  /** Why its case does not count here. */
  quarantine: z.string().nullable(),
  /** What it waits for, or waited for before it can go on. */
  waits: z.array(wait),
  /** Not begun, and the version that is to be executed is not the one it was put in with. */
  moved: z.boolean(),
  /** Why its result counts as still to be done. */
  spoiled: z.enum(spoilers).nullable(),
})
export type ItemRow = z.infer<typeof itemRow>
