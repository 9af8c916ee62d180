import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { mayDo, rights, type Role } from '#core/lib/rights.ts'
import { scopeRefusal, type TokenLimit } from '#core/people/token.ts'
import { readSetting, writeSetting } from '#db/installation/settings.ts'
import type { Tx } from '#db/open.ts'
import { roleIn } from '#db/people/members.ts'
import type { PersonRow } from '#db/people/people.ts'
import type { ProjectRow } from '#db/projects/projects.ts'

/** What a person may do in a project; a token limited to another project may do nothing there. */
export function roleOf(tx: Tx, { id }: Pick<ProjectRow, 'id'>, { person, limit }: Asker): Role | null {
  if (limit?.projectId != null && limit.projectId !== id) return null
  return person.administrator ? 'lead' : roleIn(tx, id, person.id)
}

/** Who asks, and what the token they ask with narrows their rights to. */
export interface Asker {
  readonly person: PersonRow
  readonly limit: TokenLimit | null
  /** The token of the sign-in they ask with; none where they ask with an API token. */
  readonly signIn?: string | undefined
}

interface Asking {
  readonly asker: Asker | null
  readonly project: ProjectRow | undefined
  readonly role: Role | null
  readonly key: string | undefined
  /** What asks for a second factor; looked up for who has none. */
  readonly factorAskedBy: () => string | null
}

/** Holds the right a contract asks for against the role of who asks. What is not yours is answered as if it were not there. */
export function allow(contract: Contract, { asker, project, role, key, factorAskedBy }: Asking): void {
  const { permission } = contract
  if (permission === 'open') return
  if (!asker)
    throw new Refusal('not-signed-in', 'Your sign-in has ended. Sign in again; what is written on this page is kept.')
  if (key !== undefined && (!project || role === null))
    throw new Refusal('not-found', `There is no project ${key}, or you are not one of its people.`)
  const narrowed = asker.limit && scopeRefusal(asker.limit.scope, contract)
  if (narrowed) throw new Refusal('not-allowed', narrowed)
  if (permission === 'person') return
  refuseWithoutFactor(asker, factorAskedBy)
  const { least } = rights[permission]
  if (least === 'administrator') {
    if (!asker.person.administrator || asker.limit?.projectId != null)
      throw new Refusal('not-allowed', 'Only an administrator of this installation can do this.')
    return
  }
  if (!mayDo(role, permission))
    throw new Refusal(
      'not-allowed',
      `This asks for the role ${least}; here you are a ${role ?? 'guest'}. Ask a lead of the project.`,
    )
}

const factorSetting = 'second factor asked'

/** The name of what asks everybody for a second factor: the project, or the installation; `null` where nothing does. */
export const factorAskedBy = (tx: Tx, project: ProjectRow | undefined): string | null =>
  project?.secondFactorAsked ? project.name : installationAsksFactor(tx) ? 'This installation' : null

export const installationAsksFactor = (tx: Tx): boolean => readSetting(tx, factorSetting) !== null
export const askFactor = (tx: Tx, asked: boolean): void => writeSetting(tx, factorSetting, asked ? 'yes' : null)

/** Whether somebody came in by a password alone: not by a token, a provider outside, or with a code beside it. */
export const lacksFactor = ({ person, signIn }: Asker): boolean =>
  signIn !== undefined && !person.twoFactorEnabled && !person.byProvider

/** Where a second factor is asked for, whoever signed in without one gets no further than their own page. */
function refuseWithoutFactor(asker: Asker, factorAskedBy: () => string | null): void {
  const askedBy = lacksFactor(asker) ? factorAskedBy() : null
  if (askedBy !== null)
    throw new Refusal('not-allowed', `${askedBy} asks for a second factor. Set one up on your own page, then go on.`)
}

/** Whoever asks it of others has one: else they would be the first to stand outside. */
export function refuseAskingWithoutFactor({ twoFactorEnabled }: PersonRow): void {
  if (!twoFactorEnabled)
    throw new Refusal('refused', 'Set up a second factor of your own first; you would be the first to stand outside.')
}
