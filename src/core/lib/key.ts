/** What has a key of its own, with the letters it begins with. */
export const prefixes = {
  requirement: 'RQ',
  case: 'TC',
  routine: 'RT',
  plan: 'PL',
  suite: 'TS',
  run: 'RN',
  defect: 'DF',
} as const
export type Keyed = keyof typeof prefixes

const keyed = Object.keys(prefixes) as Keyed[]

/** A stored kind, if it is one of those that have keys. */
export const keyedKind = (kind: string): Keyed | undefined => keyed.find((each) => each === kind)

/** An object's key, such as `TC-104`: the letters large, as they are always written. */
export const keyOf = (kind: Keyed, number: number | string): string => `${prefixes[kind]}-${number}`

export interface ReadKey {
  readonly kind: Keyed
  readonly number: number
}

const kinds = new Map<string, Keyed>(keyed.map((kind) => [prefixes[kind].toLowerCase(), kind]))

/** Kind and number of a key, its letters large or small, with blanks around it; `null` when the text is none. */
export function readKey(text: string): ReadKey | null {
  const parts = /^\s*([a-z]{2})-([1-9]\d{0,9})\s*$/i.exec(text)
  const kind = kinds.get((parts?.[1] ?? '').toLowerCase())
  return kind && parts ? { kind, number: Number(parts[2]) } : null
}

/** The number in a key of the kind; 0, which no object has, when the text is no such key. */
export function numberIn(kind: Keyed, text: string): number {
  const key = readKey(text)
  return key?.kind === kind ? key.number : 0
}

/** A key as a person types it, where the kind is clear and the number alone will do; `null` when the text is none. */
export function typedKey(kind: Keyed, text: string): string | null {
  const bare = /^\s*(\d+)\s*$/.exec(text)?.[1]
  const number = bare === undefined ? numberIn(kind, text) : Number(bare)
  return number > 0 ? keyOf(kind, number) : null
}

/** Orders keys of one kind by their numbers. */
export const keyOrder = (a: string, b: string): number => (readKey(a)?.number ?? 0) - (readKey(b)?.number ?? 0)

/** Orders what has a key by it. */
export const byKey = (a: { readonly key: string }, b: { readonly key: string }): number => keyOrder(a.key, b.key)
