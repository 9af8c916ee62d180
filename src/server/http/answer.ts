import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findPerson, nobody } from '#db/people/people.ts'
import { noteSignInUse } from '#db/people/sign-ins.ts'
import { noteTokenUse, tokenOwner } from '#db/people/tokens.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import type { Tx } from '#db/open.ts'
import { requestHeader } from './address.ts'
import type { Incoming } from './asked.ts'
import type { Context, ContextParts } from './context.ts'
import { hashOf } from './secret.ts'
import { transact } from './transact.ts'
import { unlessFull } from './disk.ts'
import { problemOf } from './errors.ts'
import { allow, type Asker, factorAskedBy, roleOf } from './permission.ts'
import type { Route } from './route.ts'
import type { Services } from './services.ts'

const noProject: ProjectRow = {
  id: 0,
  key: '',
  name: '',
  product: '',
  timeZone: 'UTC',
  workingDays: '',
  freshnessDays: 14,
  approvalRequired: false,
  dealing: 'evenly',
  reasonAsked: false,
  secondFactorAsked: false,
  factors: '',
  factorRules: '',
  paths: '',
  smokeSuiteId: null,
  policyId: null,
  switchMinutes: 0,
  reservePercent: 0,
  worthWeights: '',
  suitesNoticed: 0,
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
    allow(contract, { asker: found, project, role, key, factorAskedBy: () => factorAskedBy(services.db, project) })
    const now = services.now()
    const expected = versionNamed(contract, incoming.request)
    const asker: Asker = found ?? { person: nobody, limit: null }
    const { address } = incoming
    return await route.answer({
      ...incoming,
      services,
      person: asker.person,
      parts: (tx) => ({
        ...asker,
        tx,
        now,
        project: project ?? noProject,
        role: role ?? 'viewer',
        expected,
        address,
      }),
    })
  } catch (error) {
    const id = incoming.request.headers.get(requestHeader) ?? undefined
    return problemOf(error, (failure) => services.logError(failure, id))
  }
}

/** A way to store what concerns nobody’s project and nobody who is signed in. */
export function storingFor(services: Services, address: string): <T>(work: (context: Context) => T) => T {
  const parts = (tx: Tx): ContextParts => ({
    tx,
    now: services.now(),
    person: nobody,
    limit: null,
    project: noProject,
    role: 'viewer',
    expected: 0,
    address,
  })
  return (work) => transact({ services, parts }, work)
}

/** The last use of a token and of a sign-in is noted to this. */
const noted = 60_000

async function askerIn(services: Services, request: Request): Promise<Asker | null> {
  const bearer = /^Bearer (\S+)$/.exec(request.headers.get('authorization') ?? '')?.[1]
  return bearer === undefined ? bySignIn(services, request.headers) : byToken(services, bearer)
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

async function bySignIn(services: Services, headers: Headers): Promise<Asker | null> {
  const signedIn = await services.signIn.personOf(headers)
  const person = signedIn ? findPerson(services.db, signedIn.personId) : undefined
  if (!signedIn || !person) return null
  unlessFull(() => noteSignInUse(services.db, signedIn.signIn, services.now(), noted))
  return { person, limit: null, signIn: signedIn.signIn }
}

function byToken(services: Services, bearer: string): Asker {
  const { db } = services
  const token = tokenOwner(db, hashOf(bearer), services.now())
  const person = token ? findPerson(db, token.personId) : undefined
  if (!token || !person)
    throw new Refusal('not-signed-in', 'This token does not work: it was revoked, has ended, or never was one of here.')
  unlessFull(() => noteTokenUse(db, token.id, services.now(), noted))
  return { person, limit: token }
}

function versionNamed(contract: Contract, request: Request): number {
  if (!contract.versioned) return 0
  const version = Number(/^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1] ?? NaN)
  if (Number.isNaN(version))
    throw new Refusal('needs-version', 'Name the version this edit was made against in If-Match.')
  return version
}
