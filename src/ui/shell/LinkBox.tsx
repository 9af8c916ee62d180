import { keyOf, numberIn, typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import { findAnything } from '#core/finding/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useAnswer } from './answers.tsx'
import { useHere } from './here.ts'
import { useOnceSettled } from './once-settled.ts'
import css from './LinkBox.module.css'

type Kind = 'case' | 'requirement'
/** So many are offered. */
const mostFound = 8

/** What was typed: keys alone, or words and what they find. */
function useFound(text: string, to: Kind) {
  const { key } = useHere()
  const parts = text.split(/[\s,;]+/).filter((part) => part !== '')
  const refs = parts.flatMap((part) => typedKey(to, part) ?? [])
  const asks = parts.length > 0 && refs.length < parts.length
  const { data, settled } = useAnswer(
    findAnything,
    { params: { key }, query: { q: text, limit: 20 } },
    { enabled: asks, keep: true },
  )
  const found = asks ? (data?.rows ?? []).filter(({ ref }) => numberIn(to, ref) > 0).slice(0, mostFound) : []
  return { refs, found, settled: !asks || settled }
}

/** Links by typing keys, or words: what they find is chosen from. */
export function LinkBox({
  onLink,
  to = 'case',
  verb = 'Link',
}: {
  onLink: (refs: string[]) => Promise<void>
  to?: Kind
  verb?: string
}) {
  const [text, setText] = useState('')
  const { refs, found, settled } = useFound(text, to)
  const first = refs.length > 0 ? refs : found.slice(0, 1).map(({ ref }) => ref)
  const linkFirst = useOnceSettled(settled, () => {
    if (first.length > 0) void onLink(first)
  })
  return (
    <Form className={css['box']} onSend={linkFirst}>
      <span>
        <input
          autoFocus
          aria-label={`Keys to ${verb.toLowerCase()}, such as ${keyOf(to, 12)}, or words`}
          placeholder={`${keyOf(to, 12)}, ${keyOf(to, 13)}, or words`}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" disabled={settled && first.length === 0}>
          {verb}
        </Button>
      </span>
      {found.length > 0 && (
        <ul aria-label="Found">
          {found.map(({ ref, title }) => (
            <li key={ref}>
              <button type="button" onClick={() => void onLink([ref])}>
                <span className="key quiet">{ref}</span> {title}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Form>
  )
}
