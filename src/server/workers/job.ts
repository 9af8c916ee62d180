import type { Refusal } from '#core/lib/refusal.ts'

/** Where a job runs: figures keep the facts of a project warm on one thread; comparing, writing files, and solving take seconds on others. */
export type Thread = 'figures' | 'comparing' | 'papers' | 'solving'

/** A long read by its name; `types` is never set and only carries what is asked and answered. */
export interface Job<Question, Reply> {
  readonly name: string
  readonly thread: Thread
  readonly types?: (question: Question) => Reply
}

export const job = <Question, Reply>(name: string, thread: Thread = 'figures'): Job<Question, Reply> => ({
  name,
  thread,
})

/** Whoever runs jobs: the pool of the server, or a test in its own thread. */
export interface Jobs {
  /** One that is aborted while it runs is ended with its thread. */
  readonly run: <Question, Reply>(
    job: Job<Question, Reply>,
    question: Question,
    signal?: AbortSignal,
  ) => Promise<Awaited<Reply>>
  readonly close: () => Promise<void>
}

/** Runs any of some jobs by its name; a job that is not among them is a bug. */
export function runnerOf(
  all: readonly Doing[],
): <Question, Reply>(of: Job<Question, Reply>, question: Question) => Reply {
  const byName = new Map(all.map(({ name, run }) => [name, run]))
  return <Question, Reply>({ name }: Job<Question, Reply>, question: Question): Reply => {
    const run = byName.get(name)
    if (!run) throw new Error(`there is no job ${name}`)
    return run(question) as Reply
  }
}

/** A job together with what does it. */
export interface Doing {
  readonly name: string
  readonly run: (question: unknown) => unknown
}

/** What does a job, with its types taken from it: with `runnerOf` the place that trusts the name to tell the types. */
export const doing = <Question, Reply>(of: Job<Question, Reply>, run: (question: Question) => Reply): Doing => ({
  name: of.name,
  run: (question) => run(question as Question),
})

/** What a thread sends back. */
export interface Run {
  readonly reply?: unknown
  readonly refused?: Pick<Refusal, 'code' | 'sentence' | 'detail'>
}
