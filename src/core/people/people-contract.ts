import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, line, listQuery, none, projectParams } from '#core/lib/shapes.ts'
import { email, personParams, role } from './contract.ts'
import { invited, newcomer } from './members-contract.ts'

// The people of the installation, as its administrators keep them.

export const personStates = ['invited', 'active', 'ended'] as const
export type PersonState = (typeof personStates)[number]

const personRow = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  state: z.enum(personStates),
  administrator: z.boolean(),
  secondFactor: z.boolean(),
  /** `given`: to them alone; `null` where it is by a group. */
  roles: z.array(z.object({ project: z.string(), role, given: role.nullable() })),
  groups: z.array(z.string()),
  lastIn: z.number().nullable(),
  /** Items not yet executed and defects not yet closed that are theirs, per project. */
  open: z.array(z.object({ project: z.string(), n: z.number() })),
})
export type PersonLine = z.infer<typeof personRow>

export const listPeople = contract({
  name: 'listPeople',
  method: 'GET',
  path: '/people',
  permission: 'keepPeople',
  summary: 'The people of this installation, by name',
  params: none,
  query: listQuery.pick({ cursor: true, limit: true, text: true }).extend({ state: z.enum(personStates).optional() }),
  body: none,
  output: z.object({ rows: z.array(personRow), total: z.number(), next: z.number().nullable() }),
})
export const invitePeople = contract({
  name: 'invitePeople',
  method: 'POST',
  path: '/people',
  permission: 'keepPeople',
  summary: 'Bring people in, several at once, with a role in projects and in groups; those who are new are invited',
  params: none,
  query: none,
  body: z.object({
    people: z.array(newcomer).min(1).max(500),
    projects: z
      .array(z.object({ key: projectParams.shape.key, role }))
      .max(100)
      .default([]),
    groups: z.array(z.number().int().positive()).max(100).default([]),
  }),
  output: z.object({ rows: z.array(invited) }),
})
export const updatePerson = contract({
  name: 'updatePerson',
  method: 'PATCH',
  path: '/people/:person',
  permission: 'keepPeople',
  summary: 'Change somebody’s name or address, make them an administrator, end their access or let them in again',
  params: personParams,
  query: none,
  body: z.object({ name: line(100), email, administrator: z.boolean(), ended: z.boolean() }).partial(),
  output: done,
})
export const endSignInsOf = contract({
  name: 'endSignInsOf',
  method: 'DELETE',
  path: '/people/:person/sign-ins',
  permission: 'keepPeople',
  summary: 'End all sign-ins of somebody',
  params: personParams,
  query: none,
  body: none,
  output: z.object({ ended: z.number() }),
})
export const makeLink = contract({
  name: 'makeLink',
  method: 'POST',
  path: '/people/:person/link',
  permission: 'keepPeople',
  summary: 'A one-time link by which somebody chooses a password: mailed, or answered to be handed over',
  params: personParams,
  query: none,
  body: none,
  output: z.object({ link: z.string().nullable(), mailed: z.boolean(), endsAt: z.number() }),
})
export const dropFactorOf = contract({
  name: 'dropFactorOf',
  method: 'DELETE',
  path: '/people/:person/second-factor',
  permission: 'keepPeople',
  summary: 'Take the second factor of somebody away who lost it',
  params: personParams,
  query: none,
  body: none,
  output: done,
})
export const setRole = contract({
  name: 'setRole',
  method: 'PUT',
  path: '/people/:person/roles/:key',
  permission: 'keepPeople',
  summary: 'Give somebody a role in a project, or none of their own',
  params: personParams.extend(projectParams.shape),
  query: none,
  body: z.object({ role: role.nullable() }),
  output: done,
})

const groupShape = z.object({
  id: z.number(),
  name: z.string(),
  people: z.array(z.object({ id: z.string(), name: z.string() })),
  roles: z.array(z.object({ project: z.string(), role })),
})
export type Group = z.infer<typeof groupShape>
const groupParams = z.object({ group: z.coerce.number().int().positive() })
export const listGroups = contract({
  name: 'listGroups',
  method: 'GET',
  path: '/groups',
  permission: 'keepPeople',
  summary: 'Groups of people and the roles each gives',
  params: none,
  query: none,
  body: none,
  output: z.object({ rows: z.array(groupShape) }),
})
export const createGroup = contract({
  name: 'createGroup',
  method: 'POST',
  path: '/groups',
  permission: 'keepPeople',
  summary: 'Make a group',
  params: none,
  query: none,
  body: z.object({ name: line(60) }),
  output: z.object({ id: z.number() }),
})
export const updateGroup = contract({
  name: 'updateGroup',
  method: 'PATCH',
  path: '/groups/:group',
  permission: 'keepPeople',
  summary:
    'Change the name of a group, its people, the roles it gives; whoever gets or loses a role by it has it at once',
  params: groupParams,
  query: none,
  body: z
    .object({
      name: line(60),
      people: z.array(z.string().max(60)).max(2000),
      roles: z.array(z.object({ project: projectParams.shape.key, role })).max(200),
    })
    .partial(),
  output: done,
})
export const deleteGroup = contract({
  name: 'deleteGroup',
  method: 'DELETE',
  path: '/groups/:group',
  permission: 'keepPeople',
  summary: 'Take a group away, and the roles it gave',
  params: groupParams,
  query: none,
  body: none,
  output: done,
})
