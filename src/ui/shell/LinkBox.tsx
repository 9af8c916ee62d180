import { keyOf, numberIn, typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import { findAnything } from '#core/finding/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useAnswer } from './answers.tsx'
import { useHere } from './here.ts'

/** Links by typing keys, or words: what they find is chosen from. */
export function LinkBox({
  onLink,
  to = 'case',
}: {
  onLink: (refs: string[]) => Promise<void>
  to?: 'case' | 'requirement'
}) {
  const { key } = useHere()
  const [text, setText] = useState('')
  const parts = text.split(/[\s,;]+/).filter((part) => part !== '')
  const refs = parts.flatMap((part) => typedKey(to, part) ?? [])
  const keyed = parts.length > 0 && refs.length === parts.length
  const { data } = useAnswer(
    findAnything,
    { params: { key }, query: { q: text, limit: 20 } },
    { enabled: text.trim() !== '' && !keyed, keep: true },
  )
  const found =
    keyed || text.trim() === '' ? [] : (data?.rows ?? []).filter(({ ref }) => numberIn(to, ref) > 0).slice(0, 8)
  return (
    <form
      style={{ display: 'grid', gap: 4 }}
      onSubmit={(event) => {
        event.preventDefault()
        const first = refs.length > 0 ? refs : found.slice(0, 1).map(({ ref }) => ref)
        if (first.length > 0) void onLink(first)
      }}
    >
      <span style={{ display: 'flex', gap: 8 }}>
        <input
          autoFocus
          aria-label={`Keys to link, such as ${keyOf(to, 12)}, or words`}
          placeholder={`${keyOf(to, 12)}, ${keyOf(to, 13)}, or words`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          style={{
            flex: 1,
            border: '1px solid var(--line-strong)',
            borderRadius: 4,
            padding: '4px 8px',
            background: 'var(--surface)',
          }}
        />
        <Button type="submit" disabled={refs.length === 0 && found.length === 0}>
          Link
        </Button>
      </span>
      {found.length > 0 && (
        <ul aria-label="Found">
          {found.map(({ ref, title }) => (
            <li key={ref}>
              <button type="button" style={{ textAlign: 'start', paddingBlock: 3 }} onClick={() => void onLink([ref])}>
                <span className="key quiet">{ref}</span> {title}
              </button>
            </li>
          ))}
        </ul>
      )}
    </form>
  )
}
