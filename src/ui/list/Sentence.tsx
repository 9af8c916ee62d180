import { Fragment, type ReactNode } from 'react'
import type { Ask } from '#core/finding/asks.ts'
import type { Filter } from '#core/lib/filter.ts'
import { Button } from '#ui/kit/Button.tsx'
import { go } from '#ui/shell/address.ts'

/** Shows what fits a filter, or all; what was typed goes with it. */
export const showOnly = (filter: Filter | null): void =>
  go({ params: { filter: filter === null ? null : JSON.stringify(filter), text: null, folder: null } })

/** Words to click that show what fits a filter. */
export const AskWords = ({ words, filter }: { words: string; filter: Filter | null }) => (
  <Button look="word" onClick={() => showOnly(filter)}>
    {words}
  </Button>
)

export interface SentenceProps {
  readonly shown: number
  readonly all: number
  /** What stands between how many there are and what can be asked of them. */
  readonly lead?: ReactNode
  readonly asks: readonly Ask[]
  /** What else is to be had here, after a semicolon. */
  readonly also?: readonly ReactNode[]
}

/** What a list shows, in one sentence with words to click: “All 208; show in review, with no step; folders”. */
export const Sentence = ({ shown, all, lead, asks, also = [] }: SentenceProps) => (
  <>
    <AskWords words={shown === all ? `All ${all}` : `${shown} of ${all}`} filter={null} />
    {lead}
    {asks.length > 0 && '; show '}
    {listed(asks.map((ask) => <AskWords key={ask.words} {...ask} />))}
    {also.length > 0 && '; '}
    {listed(also)}
  </>
)

const listed = (parts: readonly ReactNode[]) =>
  parts.map((part, at) => (
    <Fragment key={at}>
      {at > 0 && ', '}
      {part}
    </Fragment>
  ))
