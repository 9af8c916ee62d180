import type { CaseSheet } from '#core/cases/contract.ts'

type Attempt = CaseSheet['attempts'][number]
interface Cell {
  readonly id: number
  readonly verdict: Attempt['verdict']
  /** The project's own word for it. */
  readonly word: Attempt['word']
  readonly build: string
  /** How many were made there before it. */
  readonly more: number
  /** It turned between passing and failing on this one build. */
  readonly turned: boolean
}
interface StripShown {
  /** Those on which something was executed, in order. */
  readonly builds: readonly string[]
  readonly rows: readonly { readonly environment: string; readonly cells: readonly (Cell | null)[] }[]
}

/** The newest attempt per environment and build, of attempts told the newest first; what was struck out is left aside. */
export function stripOf(attempts: readonly Attempt[], order: readonly string[]): StripShown {
  const counted = attempts.filter(({ struck }) => !struck)
  const builds = order.filter((name) => counted.some(({ build }) => build === name))
  const environments = [...new Set(counted.map(({ environment }) => environment))].sort()
  return {
    builds,
    rows: environments.map((environment) => ({
      environment,
      cells: builds.map((build) => {
        const own = counted.filter((each) => each.environment === environment && each.build === build)
        const [newest] = own
        if (!newest) return null
        const verdicts = new Set(own.map(({ verdict }) => verdict))
        return {
          id: newest.id,
          verdict: newest.verdict,
          word: newest.word,
          build,
          more: own.length - 1,
          turned: verdicts.has('Passed') && verdicts.has('Failed'),
        }
      }),
    })),
  }
}
