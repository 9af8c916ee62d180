import type { Act } from '#core/history/acts.ts'
import { createHash } from 'node:crypto'
import type { Changes } from '#core/history/changes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Role } from '#core/lib/rights.ts'
import type { SecurityKind } from '#core/people/security-contract.ts'
import type { Tx } from '#db/open.ts'
import { savepoint } from '#db/savepoint.ts'
import { addChange, addChanges, type ChangeEvent, type NewChange } from '#db/history/changes.ts'
import { addSecurityEvent, type NewSecurityEvent } from '#db/people/security.ts'
import { bumpStructure, type ProjectRow } from '#db/projects/projects.ts'
import type { Asker } from './permission.ts'

/** What a use case works with: its transaction, who asks, when, and a way to write history. */
export interface Context extends Asker {
  readonly tx: Tx
  readonly now: number
  readonly by: { readonly now: number; readonly personId: string | null }
  readonly project: ProjectRow
  readonly role: Role
  /** Version named in `If-Match`, where the contract asks for one. */
  readonly expected: number
  readonly change: (of: ChangeOf) => void
  /** The same for many objects at once; listeners are told of the last. */
  readonly changeMany: (all: readonly ChangeOf[]) => void
  /** Writes down what concerns the safety of the installation. */
  readonly secure: (of: SecureOf) => void
  /** The same for what is done in another project, for acts of the whole installation. */
  readonly within: (project: ProjectRow) => Context
}

interface SecureOf {
  readonly kind: SecurityKind
  /** What happened, as a sentence; never a secret. */
  readonly told: string
  /** Whom it is about; the one who asks, unless another is named. */
  readonly person?: string | null
  /** Who did it; the one who asks, unless another is named. */
  readonly by?: string
}

type ChangeOf = Act & {
  readonly id: number
  readonly ref: string
  readonly detail?: Changes
  /** Verdicts change no structure: figures cached for it stay. */
  readonly verdict?: true
}

export interface ContextParts extends Asker {
  readonly tx: Tx
  /** Where it is asked from. */
  readonly address?: string
  readonly now: number
  readonly project: ProjectRow
  readonly role: Role
  readonly expected: number
}

interface Elsewhere {
  readonly projectId: number
  readonly changes: readonly ChangeEvent[]
}
interface Made {
  readonly context: Context
  readonly changes: readonly ChangeEvent[]
  /** What was done in other projects. */
  readonly elsewhere: readonly Elsewhere[]
  readonly secured: readonly NewSecurityEvent[]
}

/** A context that notes what it changed, so that listeners are told once it is committed. */
export function contextOf(parts: ContextParts, secured: NewSecurityEvent[] = []): Made {
  const changes: ChangeEvent[] = []
  const elsewhere: Elsewhere[] = []
  let bumped = false
  const personId = parts.person.id === '' ? null : parts.person.id
  const entry = ({ id, verdict: _, detail, ...act }: ChangeOf): NewChange => ({
    ...act,
    projectId: parts.project.id,
    at: parts.now,
    personId,
    ownerId: id,
    detail: detail ?? null,
  })
  const change = (of: ChangeOf) => {
    const id = addChange(parts.tx, entry(of))
    if (!of.verdict && !bumped) bumpStructure(parts.tx, parts.project.id)
    bumped ||= !of.verdict
    const { detail: _, verdict: __, ...act } = of
    changes.push({ ...act, id, at: parts.now })
  }
  const changeMany = (all: readonly ChangeOf[]) => {
    const last = all.at(-1)
    if (!last) return
    addChanges(parts.tx, all.slice(0, -1).map(entry))
    change(last)
  }
  const secure = ({ kind, told, person = personId, by: doer = personId ?? undefined }: SecureOf) => {
    const event = {
      at: parts.now,
      kind,
      told,
      personId: person,
      byId: doer ?? null,
      projectId: parts.project.id === 0 ? null : parts.project.id,
      address: parts.address ?? '',
    }
    addSecurityEvent(parts.tx, event)
    secured.push(event)
  }
  const within = (project: ProjectRow): Context => {
    const made = contextOf({ ...parts, project }, secured)
    elsewhere.push({ projectId: project.id, changes: made.changes })
    return made.context
  }
  const by = { now: parts.now, personId }
  return { context: { ...parts, by, change, changeMany, secure, within }, changes, elsewhere, secured }
}

/** Does one of many; what it stored before it was refused is taken back, and the others stay. */
export function oneOfMany<T>(
  { tx }: Pick<Context, 'tx'>,
  work: () => T,
): { readonly done: T } | { readonly refused: Refusal } {
  try {
    return { done: savepoint(tx, work) }
  } catch (error) {
    if (error instanceof Refusal && error.code === 'refused') return { refused: error }
    throw error
  }
}

/** The stored object, or a refusal that tells a deleted one from one that never was. */
export function found<T extends object>(stored: T | undefined, name: string): T {
  // A key is named as what is missing; words such as “A case chosen here” begin a sentence of their own.
  const missing = /^[A-Z]+-\d+$/.test(name) ? `There is no ${name} in this project.` : `${name} is not in this project.`
  if (!stored) throw new Refusal('not-found', missing)
  if ('deletedAt' in stored && stored.deletedAt != null)
    throw new Refusal('deleted', `${name} was deleted; it can be brought back.`)
  return stored
}

/** Refuses an edit made against an older version, answering the newer one; `more` are fields of it that stand elsewhere. */
export function checkVersion(
  context: Context,
  current: { readonly version: number },
  name: string,
  more: () => object = () => ({}),
): void {
  if (context.expected !== current.version)
    throw new Refusal(
      'conflict',
      `Somebody changed ${name} while you were writing. Your text is kept here; look at the newer one, then store again.`,
      { current: { ...current, ...more() } },
    )
}

export const fingerprint = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 16)
