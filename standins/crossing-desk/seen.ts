import type { Build, Looking } from './builds.ts'
import type { Acting } from './acts/book.ts'
import type { Port } from './sailings.ts'
import { amountText, type Words, wordsIn } from './words.ts'

export const staff = {
  clerk: { name: 'Runa, clerk', port: 'OV', at: '/bookings' },
  tarnis: { name: 'Edda, clerk', port: 'TA', at: '/bookings' },
  quay: { name: 'Halvor, quay', port: 'OV', at: '/quay' },
  officer: { name: 'Signe, duty officer', port: 'OV', at: '/weather' },
  lena: { name: 'Lena Moor', port: null, at: '/' },
} as const satisfies Readonly<Record<string, { name: string; port: Port | null; at: string }>>
export type Who = keyof typeof staff
export const staffPassword = 'ferry'

/** A page as somebody looks at it. */
export interface Seen extends Acting {
  readonly build: Build
  readonly looking: Looking
  readonly who: Who | null
  readonly words: Words
  /** What was done, or refused, by the form before. */
  readonly told: string
  readonly refused: string
  readonly asked: URLSearchParams
}

export const seenBy = (of: Omit<Seen, 'words'>): Seen => ({ ...of, words: wordsIn(of.looking.language) })

export const amountIn = ({ has, looking }: Pick<Seen, 'has' | 'looking'>, cents: number): string =>
  amountText(cents, has('skerric-amounts') ? 'en' : looking.language)
