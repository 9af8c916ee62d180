import type { Db } from '#db/open.ts'
import type { Jobs } from '#server/workers/job.ts'
import type { EventHub } from './events.ts'
import type { Guesses } from './guesses.ts'
import type { SignInLibrary } from './sign-in.ts'

/** What the server is made of, for one data directory. */
export interface Services {
  readonly db: Db
  readonly data: string
  readonly evidence: string
  readonly signIn: SignInLibrary
  readonly guesses: Guesses
  readonly events: EventHub
  readonly jobs: Jobs
  readonly now: () => number
  readonly logError: (error: unknown) => void
}
