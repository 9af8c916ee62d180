import { createHash } from 'node:crypto'
import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findPerson, type PersonRow } from '#db/people/people.ts'
import { tokenOwner } from '#db/people/tokens.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import type { Incoming } from './asked.ts'
import { problemOf } from './errors.ts'
import { allow, roleOf } from './permission.ts'
import type { Route } from './route.ts'
import type { Services } from './services.ts'

const nobody: PersonRow = { id: '', name: 'Nobody', email: '', administrator: false }
const noProject: ProjectRow = {
  id: 0,
  key: '',
  name: '',
  product: '',
  timeZone: 'UTC',
  workingDays: '',
  freshnessDays: 14,
  approvalRequired: false,
  reasonAsked: false,
  structureVersion: 0,
  createdAt: 0,
}

/** The life of a request: who asks, of which project, may they; then the endpoint's own answer. Every failure goes the same way. */
export async function answerRoute(services: Services, route: Route, incoming: Incoming): Promise<Response> {
  try {
    const { contract } = route
    const found = await whoAsks(services, contract, incoming.request)
    const key = incoming.params['key']
    const project = key === undefined ? noProject : findProject(services.db, key)
    const role = project && found ? roleOf(services, project, found) : null
    allow(contract, { person: found, project, role, key })
    const now = services.now()
    const expected = versionNamed(contract, incoming.request)
    const person = found ?? nobody
    return await route.answer({
      ...incoming,
      services,
      person,
      parts: (tx) => ({ tx, now, person, project: project ?? noProject, role: role ?? 'viewer', expected }),
    })
  } catch (error) {
    return problemOf(error, services.logError)
  }
}

async function whoAsks(services: Services, contract: Contract, request: Request): Promise<PersonRow | null> {
  if (contract.permission === 'open') return null
  const bearer = /^Bearer (\S+)$/.exec(request.headers.get('authorization') ?? '')?.[1]
  const id = bearer
    ? tokenOwner(services.db, createHash('sha256').update(bearer).digest('hex'))?.personId
    : await services.signIn.personOf(request.headers)
  return (id ? findPerson(services.db, id) : undefined) ?? null
}

function versionNamed(contract: Contract, request: Request): number {
  if (!contract.versioned) return 0
  const version = Number(/^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1] ?? NaN)
  if (Number.isNaN(version))
    throw new Refusal('needs-version', 'Name the version this edit was made against in If-Match.')
  return version
}
