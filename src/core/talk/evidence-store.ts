export interface KeptFile {
  /** SHA-256 of its bytes, in hexadecimal, which is its name too. */
  readonly hash: string
  readonly bytes: number
  /** When it came here, in ms. */
  readonly at: number
}

/** Where the bytes of evidence are. A piece is named by its hash and never changes, so that the same one may come twice. */
export interface EvidenceStore {
  /** Where that is, for people; without secrets. */
  readonly place: string
  /** Takes a whole file of this machine in, which is gone from where it was then. Throws a `Refusal` where the store does not take it. */
  readonly put: (hash: string, file: string) => Promise<void>
  /** Its bytes in parts; `null` where there is no such piece. Throws a `Refusal` where the store does not answer. */
  readonly read: (hash: string) => Promise<AsyncIterable<Uint8Array> | null>
  readonly list: () => AsyncIterable<KeptFile>
  readonly remove: (hash: string) => Promise<void>
}
