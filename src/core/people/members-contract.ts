import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { memberId } from '#core/lib/owned.ts'
import { done, id, instant, line, none, plainDate, projectParams, text } from '#core/lib/shapes.ts'
import { email, role } from './contract.ts'

// The people of a project, as its leads keep them and as each of them reads about one another.

const memberParams = projectParams.extend({ person: memberId })
const hours = {
  workingMinutes: z.number().int().min(0).max(1440, 'a day has 1440 minutes'),
  freePercent: z.number().min(0).max(100, 'at most 100 %'),
}
const absenceShape = z.object({
  id,
  startOn: z.string(),
  endOn: z.string(),
  minutes: z.number().nullable(),
  reason: z.string(),
})
export const newcomer = z.object({ name: line(100), email })
/** What came of an invitation. */
export const invited = z.object({
  person: z.string(),
  name: z.string(),
  email: z.string(),
  /** They are new here, or were known and got the role. */
  was: z.enum(['invited', 'known']),
  /** The link to hand over, where no mail was sent. */
  link: z.string().nullable(),
  mailed: z.boolean(),
})
export type Invited = z.infer<typeof invited>

export const inviteMembers = contract({
  name: 'inviteMembers',
  method: 'POST',
  path: '/projects/:key/people',
  permission: 'staff',
  summary: 'Bring people into the project; those nobody knows yet are invited by a one-time link',
  params: projectParams,
  query: none,
  body: z.object({ people: z.array(newcomer.extend({ role })).min(1).max(500) }),
  output: z.object({ rows: z.array(invited) }),
})
export const updateMember = contract({
  name: 'updateMember',
  method: 'PATCH',
  path: '/projects/:key/people/:person',
  permission: 'staff',
  summary: 'Change the role of somebody, the share of their time for the project, their skills',
  params: memberParams,
  query: none,
  body: z
    .object({
      role,
      sharePercent: z.number().min(0).max(100, 'at most 100 %'),
      skills: z.array(line(40).refine((skill) => !skill.includes(','), 'holds a comma')).max(30),
    })
    .partial(),
  output: done,
})
export const removeMember = contract({
  name: 'removeMember',
  method: 'DELETE',
  path: '/projects/:key/people/:person',
  permission: 'staff',
  summary: 'Take somebody out of the project; what they did stays theirs',
  params: memberParams,
  query: none,
  body: none,
  output: done,
})
export const handOver = contract({
  name: 'handOver',
  method: 'POST',
  path: '/projects/:key/people/:person/hand-over',
  permission: 'staff',
  summary:
    'Give somebody’s open work in the project to somebody else: items not yet executed, what they own, open defects',
  params: memberParams,
  query: none,
  body: z.object({ to: memberId }),
  /** What was moved, so that it can be given back by the changes of many. */
  output: z.object({
    moved: z.number(),
    items: z.array(z.object({ run: z.string(), ids: z.array(id) })),
    requirements: z.array(id),
    cases: z.array(id),
    defects: z.array(id),
  }),
})
/** An item of a run that waits to be executed. */
export const openItem = z.object({
  id,
  run: z.string(),
  runTitle: z.string(),
  case: z.string(),
  title: z.string(),
  environment: z.string(),
  verdict: z.string(),
  minutes: z.number(),
  dueOn: z.string().nullable(),
})
export const readMember = contract({
  name: 'readMember',
  method: 'GET',
  path: '/projects/:key/people/:person',
  permission: 'read',
  summary: 'A person of the project: role, hours, absences, and what they own, execute and wait for',
  params: memberParams,
  query: none,
  body: none,
  output: z.object({
    id: z.string(),
    name: z.string(),
    email: z.string(),
    picture: z.boolean(),
    role,
    /** `null`: by a group alone. */
    givenRole: role.nullable(),
    groups: z.array(z.string()),
    state: z.enum(['invited', 'active', 'ended']),
    skills: z.array(z.string()),
    workingMinutes: z.number(),
    freePercent: z.number(),
    sharePercent: z.number(),
    /** Projects they serve in beside this one that the asker may read, with the share each has of their time. */
    elsewhere: z.array(z.object({ key: z.string(), name: z.string(), sharePercent: z.number() })),
    absences: z.array(absenceShape),
    /** Minutes they can give on each of the next fourteen days. */
    days: z.array(z.object({ day: z.string(), minutes: z.number() })),
    work: z.object({
      items: z.array(openItem),
      itemsTotal: z.number(),
      itemMinutes: z.number(),
      defects: z.array(z.object({ ref: z.string(), title: z.string(), state: z.string() })),
      reviews: z.array(z.object({ ref: z.string(), title: z.string() })),
      requirements: z.number(),
      cases: z.number(),
    }),
    done: z.object({ attempts: z.number(), lastAt: instant.nullable() }),
  }),
})
const hoursOf = { path: '/projects/:key/people/:person/hours', params: memberParams, query: none } as const
export const updateHours = contract({
  ...hoursOf,
  name: 'updateHours',
  method: 'PATCH',
  permission: 'read',
  summary: 'Change the hours of a person, who is oneself or of a project one leads',
  body: z.object(hours).partial(),
  output: done,
})
export const addAbsence = contract({
  ...hoursOf,
  path: '/projects/:key/people/:person/absences',
  name: 'addAbsence',
  method: 'POST',
  permission: 'read',
  summary: 'Say when a person is away, who is oneself or of a project one leads',
  body: z
    .object({
      startOn: plainDate,
      endOn: plainDate,
      minutes: z.number().int().min(1).max(1440).nullable().default(null),
      reason: text(200).default(''),
    })
    .refine(({ startOn, endOn }) => startOn <= endOn, { path: ['endOn'], message: 'is before the first day' }),
  output: z.object({ id }),
})
export const dropAbsence = contract({
  name: 'dropAbsence',
  method: 'DELETE',
  path: '/projects/:key/people/:person/absences/:id',
  permission: 'read',
  summary: 'Take an absence back',
  params: memberParams.extend({ id: z.coerce.number().int().positive() }),
  query: none,
  body: none,
  output: done,
})
export type Member = z.infer<typeof readMember.output>
