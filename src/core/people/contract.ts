import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, none } from '#core/lib/shapes.ts'

export const roles = ['viewer', 'tester', 'lead'] as const
export const role = z.enum(roles)
export type Role = z.infer<typeof role>

export const personShape = z.object({ id: z.string(), name: z.string(), initials: z.string() })
const me = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  administrator: z.boolean(),
  projects: z.array(z.object({ key: z.string(), name: z.string(), product: z.string(), role })),
})
export type Me = z.infer<typeof me>

export const signIn = contract({
  name: 'signIn',
  method: 'POST',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign in; sets the sign-in cookie',
  params: none,
  query: none,
  body: z.object({
    email: z.email('an e-mail address looks like mira@tarnsey.example'),
    password: z.string().min(1, 'may not be empty').max(200),
  }),
  output: me,
})
export const signOut = contract({
  name: 'signOut',
  method: 'DELETE',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign out',
  params: none,
  query: none,
  body: none,
  output: done,
})
export const readMe = contract({
  name: 'readMe',
  method: 'GET',
  path: '/me',
  permission: 'person',
  summary: 'Who is signed in, with their projects',
  params: none,
  query: none,
  body: none,
  output: me,
})
