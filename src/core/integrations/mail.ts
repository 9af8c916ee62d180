export interface Letter {
  readonly to: { readonly name: string; readonly address: string }
  readonly subject: string
  /** Plain text; lines are wrapped by whoever reads it. */
  readonly text: string
}

/** How letters leave this installation. */
export interface Mail {
  /** Without a mail server links are handed over by people. */
  readonly isSetUp: boolean
  /** Sends one letter; a `Refusal` says what the mail server answered. */
  readonly send: (letter: Letter) => Promise<void>
}
