/** Roles in a project, from the one that may least. */
export const roles = ['viewer', 'tester', 'lead'] as const
export type Role = (typeof roles)[number]
/** An administrator may all that a lead may, in every project, and what is of the installation. */
export const allRoles = [...roles, 'administrator'] as const
export type AnyRole = (typeof allRoles)[number]

interface RightSaid {
  /** The role that may least and still may this. */
  readonly least: AnyRole
  /** In words, as the set-up shows it. */
  readonly says: string
}

/** What may be done, and from which role on: the one table of permissions. Every contract names the right it asks for. */
export const rights = {
  read: { least: 'viewer', says: 'Read everything of the project, ask for figures, export and print' },
  keepViews: { least: 'viewer', says: 'Keep views of one’s own' },
  writeRequirements: { least: 'tester', says: 'Write, move, split and join requirements; fetch them from a tracker' },
  writeCases: { least: 'tester', says: 'Draft and write cases, routines, tables and templates; cut versions; link' },
  review: { least: 'tester', says: 'Review a version of somebody else, suggest changes and decide about them' },
  composeSuites: { least: 'tester', says: 'Compose suites' },
  bringIn: { least: 'tester', says: 'Import files and take an import back; replace text in many cases' },
  execute: { least: 'tester', says: 'Execute: begin attempts, give verdicts, add evidence' },
  reportDefects: { least: 'tester', says: 'Report defects and change them' },
  discuss: { least: 'tester', says: 'Write comments and attach files' },
  bringBack: { least: 'tester', says: 'Bring back what was deleted' },
  delete: { least: 'lead', says: 'Delete requirements, cases, routines, suites, tables and defects' },
  rearrange: { least: 'lead', says: 'Merge cases, send them to another project, make folders of the requirements' },
  plan: { least: 'lead', says: 'Write plans and change them' },
  leadRuns: { least: 'lead', says: 'Open, change, close and end runs; give items to people' },
  staff: { least: 'lead', says: 'Bring people into the project, change their roles and shares, hand over their work' },
  setUp: {
    least: 'lead',
    says: 'Set the project up: releases, builds, environments, fields, tracker, standing imports',
  },
  addProjects: { least: 'administrator', says: 'Start projects' },
  keepPeople: { least: 'administrator', says: 'People and groups of the installation, their sign-ins and passwords' },
  keepInstallation: { least: 'administrator', says: 'Set the installation up; read its security events' },
} as const satisfies Readonly<Record<string, RightSaid>>
export type Right = keyof typeof rights

const rank: Readonly<Record<AnyRole, number>> = { viewer: 1, tester: 2, lead: 3, administrator: 4 }

/** Whether a role may do it; nobody without a role may do anything. */
export const mayDo = (role: AnyRole | null, right: Right): boolean =>
  role !== null && rank[role] >= rank[rights[right].least]

/** The higher of two roles; that of somebody who has none is `null`. */
export const higherRole = (one: Role | null, other: Role | null): Role | null =>
  (one === null ? 0 : rank[one]) >= (other === null ? 0 : rank[other]) ? one : other
