/** What a contract is asked: the part of a request that decides the answer. */
export interface Question {
  readonly params?: unknown
  readonly query?: unknown
}

/** An answer that came with a page, and the question it answers. */
export interface Served<Answer> {
  readonly asked: Question
  readonly answer: Answer
}

/** The same text for the same question, whatever the order of its parts; what is left open counts as not said. */
export const questionText = ({ params, query }: Question): string => JSON.stringify([plain(params), plain(query)])

const plain = (of: unknown): unknown =>
  typeof of !== 'object' || of === null
    ? (of ?? null)
    : Array.isArray(of)
      ? of.map(plain)
      : Object.entries(of)
          .filter(([, value]) => value !== undefined && value !== null)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([name, value]) => [name, plain(value)])

/** What was served, if it answers just this question; anything else must be asked. */
export const answerTo = <Answer>(asked: Question, served: Served<Answer> | null | undefined): Answer | undefined =>
  served && questionText(served.asked) === questionText(asked) ? served.answer : undefined
