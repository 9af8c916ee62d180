import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { Refusal } from '#core/lib/refusal.ts'
import { callerOf } from './address.ts'

/** Wrong guesses of a secret that are answered before one has to wait, and the seconds they are counted over. */
export interface GuessLimits {
  readonly perCaller: { readonly guesses: number; readonly seconds: number }
  readonly perAccount: { readonly guesses: number; readonly seconds: number }
  /** Each wait is twice the one before, from the first to the longest. */
  readonly firstWait: number
  readonly longestWait: number
}

const usual: GuessLimits = {
  perCaller: { guesses: 10, seconds: 60 },
  perAccount: { guesses: 30, seconds: 900 },
  firstWait: 60,
  longestWait: 3600,
}
const day = 86_400

export interface Guesses {
  /**
   * Lets somebody guess the secret of an account, unless too many wrong guesses came from where they are or for that account; then
   * a `Refusal` says how long to wait. A guess is counted before it is looked at, so that many at once are no way round;
   * one that was right is not.
   */
  readonly guess: <T>(of: Guess<T>) => Promise<T>
  /** Whether this is the first time within two minutes that something is used which holds once; OWASP ASVS 4.0.3, 2.8.4. */
  readonly once: (what: string) => Promise<boolean>
}
interface Guess<T> {
  readonly account: string
  readonly address: string
  readonly look: () => Promise<T>
  readonly right: (answer: T) => boolean
}

/** Counts wrong guesses in this process; OWASP ASVS 4.0.3, 2.2.1. */
export function guessCounter(limits: GuessLimits = usual): Guesses {
  const counter = ({ guesses, seconds }: GuessLimits['perCaller']) =>
    new RateLimiterMemory({ points: guesses, duration: seconds })
  const [callers, accounts] = [counter(limits.perCaller), counter(limits.perAccount)]
  const uses = counter({ guesses: 1, seconds: 120 })
  const waits = new RateLimiterMemory({ points: Number.MAX_SAFE_INTEGER, duration: day })

  async function count(counted: RateLimiterMemory, key: string): Promise<void> {
    try {
      await counted.consume(key)
    } catch (refused) {
      if (!(refused instanceof RateLimiterRes)) throw refused
      // The first guess too many begins a wait; those after it find one that goes on.
      const begins = refused.consumedPoints === counted.points + 1
      const seconds = begins ? await nextWait(key) : refused.msBeforeNext / 1000
      if (begins) await counted.block(key, seconds)
      throw new Refusal('too-many', `Too many wrong tries. Wait ${inWords(seconds)}, then try again.`)
    }
  }
  async function nextWait(key: string): Promise<number> {
    const { consumedPoints } = await waits.consume(key)
    return Math.min(limits.firstWait * 2 ** (consumedPoints - 1), limits.longestWait)
  }

  return {
    once: (what) =>
      uses.consume(what).then(
        () => true,
        () => false,
      ),
    guess: async ({ account, address, look, right }) => {
      const [caller, owner] = [`from ${callerOf(address)}`, `for ${account}`]
      await count(callers, caller)
      await count(accounts, owner)
      const answer = await lookAt(look, async () => {
        await callers.reward(caller)
        await accounts.reward(owner)
      })
      if (right(answer)) {
        await callers.reward(caller)
        await accounts.delete(owner)
      }
      return answer
    },
  }
}

/** What could not be looked at was no wrong guess. */
async function lookAt<T>(look: () => Promise<T>, uncount: () => Promise<void>): Promise<T> {
  try {
    return await look()
  } catch (error) {
    await uncount()
    throw error
  }
}

function inWords(seconds: number): string {
  if (seconds < 90) return `${Math.ceil(seconds)} seconds`
  return `${Math.ceil(seconds / 60)} minutes`
}
