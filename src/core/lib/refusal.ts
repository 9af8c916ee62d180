/** Every way a request can be refused by a rule; `server/http/errors` gives each its status. */
export type RefusalCode =
  | 'not-signed-in'
  | 'not-allowed'
  | 'not-found'
  | 'deleted'
  | 'moved'
  | 'conflict'
  | 'needs-version'
  | 'refused'
  | 'key-reused'
  | 'invalid'
  | 'too-large'
  | 'too-slow'
  | 'wrong-kind'
  | 'too-many'
  | 'wrong-method'
  | 'disk-full'
  | 'not-reached'

export interface FieldProblem {
  readonly field: string
  readonly message: string
}

/**
 * A refusal by a rule, thrown by a use case so that its transaction is rolled back. `sentence` is shown to
 * the person as it stands: what happened, what was kept, what to do.
 */
export class Refusal extends Error {
  constructor(
    readonly code: RefusalCode,
    readonly sentence: string,
    readonly detail: { readonly fields?: readonly FieldProblem[]; readonly current?: unknown } = {},
  ) {
    super(sentence)
  }
}
