import { createHash } from 'node:crypto'
import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { TokenLimit } from '#core/people/token.ts'
import { findPerson, type PersonRow } from '#db/people/people.ts'
import { noteTokenUse, tokenOwner } from '#db/people/tokens.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import type { Incoming } from './asked.ts'
import { problemOf } from './errors.ts'
import { allow, type Asker, roleOf } from './permission.ts'
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
    const found = contract.permission === 'open' ? null : await askerIn(services, incoming.request)
    const key = incoming.params['key']
    const project = key === undefined ? noProject : findProject(services.db, key)
    const role = project && found ? roleOf(services.db, project, found) : null
    allow(contract, { asker: found, project, role, key })
    const now = services.now()
    const expected = versionNamed(contract, incoming.request)
    const { person, limit } = found ?? { person: nobody, limit: null }
    return await route.answer({
      ...incoming,
      services,
      person,
      parts: (tx) => ({ tx, now, person, limit, project: project ?? noProject, role: role ?? 'viewer', expected }),
    })
  } catch (error) {
    return problemOf(error, services.logError)
  }
}

/** The last use of a token is noted to this. */
const noted = 60_000

async function askerIn(services: Services, request: Request): Promise<Asker | null> {
  const bearer = /^Bearer (\S+)$/.exec(request.headers.get('authorization') ?? '')?.[1]
  return bearer === undefined
    ? askerOf(services, await services.signIn.personOf(request.headers), null)
    : byToken(services, bearer)
}

/** Who asks with a request that goes on; `null` once their sign-in or token has ended. */
export async function stillIn(services: Services, request: Request): Promise<Asker | null> {
  try {
    return await askerIn(services, request)
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}

function byToken(services: Services, bearer: string): Asker {
  const { db } = services
  const token = tokenOwner(db, createHash('sha256').update(bearer).digest('hex'), services.now())
  const asker = token ? askerOf(services, token.personId, token) : null
  if (!token || !asker)
    throw new Refusal('not-signed-in', 'This token does not work: it was revoked, has ended, or never was one of here.')
  noteTokenUse(db, token.id, services.now(), noted)
  return asker
}

function askerOf({ db }: Services, personId: string | null, limit: TokenLimit | null): Asker | null {
  const person = personId === null ? undefined : findPerson(db, personId)
  return person ? { person, limit } : null
}

function versionNamed(contract: Contract, request: Request): number {
  if (!contract.versioned) return 0
  const version = Number(/^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1] ?? NaN)
  if (Number.isNaN(version))
    throw new Refusal('needs-version', 'Name the version this edit was made against in If-Match.')
  return version
}
