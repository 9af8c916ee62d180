import { and, desc, eq, gte, lt, lte, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/sqlite-core'
import type { SecurityEvent, SecurityKind } from '#core/people/security-contract.ts'
import type { Tx } from '#db/open.ts'
import { person, securityEvent } from './tables.ts'

export interface NewSecurityEvent {
  readonly at: number
  readonly kind: SecurityKind
  /** Whom it is about, and who did it. */
  readonly personId: string | null
  readonly byId: string | null
  readonly projectId: number | null
  readonly address: string
  readonly told: string
}
export const addSecurityEvent = (tx: Tx, of: NewSecurityEvent): void => void tx.insert(securityEvent).values(of).run()

interface EventsAsked {
  readonly person?: string | undefined
  readonly kind?: SecurityKind | undefined
  readonly from?: number | undefined
  readonly to?: number | undefined
  readonly before?: number | undefined
  readonly limit: number
}

/** Security events, newest first. */
export function securityEvents(tx: Tx, of: EventsAsked): SecurityEvent[] {
  const by = alias(person, 'by')
  return tx
    .select({
      id: securityEvent.id,
      at: securityEvent.at,
      kind: securityEvent.kind,
      person: person.name,
      by: by.name,
      project: sql<string | null>`(select key from project where id = ${securityEvent.projectId})`,
      address: securityEvent.address,
      told: securityEvent.told,
    })
    .from(securityEvent)
    .leftJoin(person, eq(person.id, securityEvent.personId))
    .leftJoin(by, eq(by.id, securityEvent.byId))
    .where(
      and(
        of.person === undefined ? undefined : eq(securityEvent.personId, of.person),
        of.kind === undefined ? undefined : eq(securityEvent.kind, of.kind),
        of.from === undefined ? undefined : gte(securityEvent.at, of.from),
        of.to === undefined ? undefined : lte(securityEvent.at, of.to),
        of.before === undefined ? undefined : lt(securityEvent.id, of.before),
      ),
    )
    .orderBy(desc(securityEvent.id))
    .limit(of.limit)
    .all()
}
