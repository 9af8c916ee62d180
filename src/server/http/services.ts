import type { Mail } from '#core/integrations/mail.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import type { Db } from '#db/open.ts'
import type { Jobs } from '#server/workers/job.ts'
import type { EventHub } from './events.ts'
import type { NewSecurityEvent } from '#db/people/security.ts'
import type { Guesses } from './guesses.ts'
import type { Seal } from './seal.ts'
import type { SignInLibrary } from './sign-in.ts'

/** What the server is made of, for one data directory. */
export interface Services {
  readonly db: Db
  readonly data: string
  readonly evidence: EvidenceStore
  readonly signIn: SignInLibrary
  readonly seal: Seal
  readonly guesses: Guesses
  readonly events: EventHub
  readonly jobs: Jobs
  readonly now: () => number
  readonly mail: Mail
  /** Where people reach this installation, such as `https://rovant.example`; what links in mails begin with. */
  readonly baseAddress: string | null
  /** Writes down what failed, with what the request is called. */
  readonly logError: (error: unknown, request?: string) => void
  readonly logSecurity: (event: NewSecurityEvent) => void
}
