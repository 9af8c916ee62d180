import type { Role } from '#core/lib/rights.ts'
import type { SecurityKind } from '#core/people/security-contract.ts'
import type { Tx } from '#db/open.ts'
import { addGroup, joinGroup, setGroup } from '#db/people/groups.ts'
import { addAbsence } from '#db/people/hours.ts'
import { addMember } from '#db/people/members.ts'
import { addPerson, updatePersonRow } from '#db/people/people.ts'
import { addSecurityEvent } from '#db/people/security.ts'
import { findProject } from '#db/projects/projects.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { datesFrom } from './story/calendar.ts'

interface SamplePerson {
  readonly id: string
  readonly name: string
  readonly role: Role
  readonly workingMinutes: number
  readonly freePercent: number
  /** Of their time, for FERRY; where it is less, the rest is for DEPOT. */
  readonly sharePercent: number
  readonly skills: readonly string[]
}
const full = { workingMinutes: 480, freePercent: 75, sharePercent: 100 }

/** The people who test Crossing Desk, with the hours they give. */
export const people: readonly SamplePerson[] = [
  { id: 'mira', name: 'Mira Kell', role: 'lead', ...full, workingMinutes: 440, skills: ['card', 'phone'] },
  { id: 'ansa', name: 'Ansa Lind', role: 'lead', ...full, freePercent: 62.5, skills: ['deck plan'] },
  { id: 'tobin', name: 'Tobin Rask', role: 'tester', ...full, skills: ['phone'] },
  {
    id: 'yusra',
    name: 'Yusra Dahl',
    role: 'tester',
    ...full,
    workingMinutes: 400,
    skills: ['WebKit', 'screen reader'],
  },
  { id: 'piet', name: 'Piet Vonk', role: 'tester', ...full, freePercent: 50, sharePercent: 50, skills: ['load'] },
  { id: 'oda', name: 'Oda Brandt', role: 'viewer', ...full, freePercent: 0, skills: [] },
]
const addressOf = (id: string): string => `${id}@tarnsey.example`

/** Who can sign in, who is invited and has not come, and who left. */
export function fillPeople(tx: Tx, of: { readonly now: number; readonly passwordHash: string }): void {
  const before = of.now - 90 * day
  const add = (id: string, name: string, more: { administrator?: boolean; passwordHash?: string | null } = {}) =>
    addPerson(
      tx,
      { id, name, email: addressOf(id), administrator: false, passwordHash: of.passwordHash, ...more },
      before,
    )
  add('ilo', 'Ilo Strand', { administrator: true })
  for (const { id, name, workingMinutes, freePercent } of people) {
    add(id, name)
    updatePersonRow(tx, id, { workingMinutes, freePercent })
  }
  add('lene', 'Lene Aas', { passwordHash: null })
  add('rolf', 'Rolf Hage')
  updatePersonRow(tx, 'rolf', { endedAt: of.now - 12 * day })
}

export function joinPeople(tx: Tx, projectId: number): void {
  for (const { id, role, sharePercent, skills } of people) addMember(tx, projectId, id, { role, sharePercent, skills })
  addMember(tx, projectId, 'lene', { role: 'tester', skills: ['phone'] })
}

/** Who is away when, a group, and what happened to the safety of the installation these weeks. */
export function fillComings(tx: Tx, ferry: number, now: number): void {
  const on = datesFrom(now)
  addAbsence(tx, { personId: 'yusra', startOn: on(6), endOn: on(12), minutes: null, reason: 'holiday' })
  addAbsence(tx, { personId: 'tobin', startOn: on(3), endOn: on(3), minutes: 240, reason: 'first aid course' })
  const depot = findProject(tx, 'DEPOT')
  const group = addGroup(tx, 'Load crew')
  if (depot) setGroup(tx, group, { roles: [{ projectId: depot.id, role: 'viewer' }] })
  for (const id of ['yusra', 'piet']) joinGroup(tx, group, id)
  const happened = (
    days: number,
    kind: SecurityKind,
    told: string,
    of: { person: string; by?: string; project?: number },
  ) =>
    addSecurityEvent(tx, {
      at: now - days * day,
      kind,
      told,
      personId: of.person,
      byId: of.by ?? of.person,
      projectId: of.project ?? null,
      address: '192.0.2.14',
    })
  happened(20, 'role', 'Piet Vonk is tester in FERRY', { person: 'piet', by: 'mira', project: ferry })
  happened(12, 'person', 'The access of Rolf Hage was ended', { person: 'rolf', by: 'ilo' })
  happened(9, 'token', 'Tobin Rask made the token “nightly” for results', { person: 'tobin' })
  happened(6, 'sign-in failed', `Wrong password for ${addressOf('yusra')}`, { person: 'yusra' })
  happened(6, 'sign-in', 'Yusra Dahl signed in', { person: 'yusra' })
  happened(2, 'person', `Lene Aas (${addressOf('lene')}) was invited`, { person: 'lene', by: 'mira' })
  happened(2, 'role', 'Lene Aas is tester in FERRY', { person: 'lene', by: 'mira', project: ferry })
}

/** Whom the simulated provider outside knows. */
export const signOnPeople = [
  ...people.slice(0, 4).map(({ id, name }) => ({ name, email: addressOf(id), groups: ['harbour'] })),
  { name: 'Nora Dal', email: addressOf('nora'), groups: ['harbour', 'load'] },
  { name: 'Emil Strøm', email: addressOf('emil'), groups: [] },
]
