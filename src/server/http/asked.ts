import type { PersonRow } from '#db/people/people.ts'
import type { ContextParts } from './context.ts'
import type { Services } from './services.ts'

/** A request as it came in, with what the router found in its path. */
export interface Incoming {
  readonly request: Request
  readonly url: URL
  readonly params: Readonly<Record<string, string | undefined>>
  readonly address: string
}

/** A request of a known person who may ask it. */
export interface Asked extends Incoming {
  readonly services: Services
  readonly person: PersonRow
  readonly parts: (tx: ContextParts['tx']) => ContextParts
}
