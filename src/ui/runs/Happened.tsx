import { useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { commentStep } from '#core/runs/contract.ts'
import { call, CallProblem, isForGood, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { shaped } from '#ui/kit/stored.ts'
import { TwoTexts, TwoTextsOf } from '#ui/kit/TwoTexts.tsx'
import { useHere } from '#ui/shell/here.ts'
import { again, pause } from '#ui/shell/sending.ts'
import { withComment } from './desk-attempt.ts'
import css from './Desk.module.css'
import type { useDesk } from './useDesk.ts'

interface Props {
  readonly own: ReturnType<typeof useDesk>
  readonly step: number | null
  /** What the server has of it. */
  readonly comment: string
}

const keptShape = z.object({ text: z.string(), base: z.string() })

/** What is typed and not stored yet, with what it was typed over. */
function useKeptWords(name: string, stored: string) {
  return {
    keep: (words: z.infer<typeof keptShape>) => localStorage.setItem(name, JSON.stringify(words)),
    forget: () => localStorage.removeItem(name),
    read: () => {
      const found = shaped(localStorage.getItem(name), keptShape)
      return found && found.text !== stored ? found : null
    },
  }
}

/**
 * What happened, kept as it is typed: in this browser at once, on the server after a pause. Where another window stored other words
 * since one began, both are shown and one is chosen.
 */
function useHappened({ own, step, comment }: Props) {
  const { key, me } = useHere()
  const { row } = own.at
  const name = `rovant.happened.${me.id}.${own.item}.${row}.${step}`
  const [text, setText] = useState(comment)
  const [theirs, setTheirs] = useState<string | null>(null)
  /** How often in a row the server could not be reached with it. */
  const [tries, setTries] = useState(0)
  /** What the server had when these words were begun. */
  const base = useRef(comment)
  const kept = useKeptWords(name, comment)
  const type = (typed: string) => {
    setText(typed)
    kept.keep({ text: typed, base: base.current })
  }
  useEffect(() => {
    const found = kept.read()
    if (!found) return
    setText(found.text)
    if (found.base !== comment) setTheirs(comment)
  }, [])
  useEffect(() => {
    if (comment.trim() === base.current.trim()) return
    if (text === base.current || text === comment) setText(comment)
    else setTheirs(comment)
    base.current = comment
  }, [comment])
  const store = async () => {
    if (text === base.current || step === null || theirs !== null) return
    const attempt = await own.begin()
    // Why it cannot begin has been said; it is stored as soon as it has.
    if (!attempt) return notify('What you wrote is kept here until the attempt can begin.', { tone: 'problem' })
    const before = base.current
    base.current = text
    try {
      const answer = await call(commentStep, { params: { key, id: attempt.id, row, step }, body: { text } })
      kept.forget()
      setTries(0)
      own.patch((of) => withComment(of, row, step, { text: answer.text, at: answer.storedAt }))
    } catch (error) {
      base.current = before
      const isRefused = error instanceof CallProblem && isForGood(error.problem.status)
      if (tries === 0 || isRefused)
        notify(
          `${sentenceOf(error)} Your words are kept here${isRefused ? '' : ' and sent when the server answers'}.`,
          {
            tone: 'problem',
          },
        )
      if (!isRefused) setTries(tries + 1)
    }
  }
  useEffect(() => {
    const wait = setTimeout(() => void store(), tries === 0 ? pause : again)
    return () => clearTimeout(wait)
  }, [text, theirs, tries, own.attempt?.id])
  const choose = (choice: 'mine' | 'theirs' | 'both') => {
    if (choice === 'theirs') kept.forget()
    if (choice === 'theirs') setText(theirs ?? '')
    if (choice === 'both') type(`${theirs ?? ''}\n${text}`)
    setTheirs(null)
  }
  return { text, type, theirs, choose, store: () => void store() }
}

export function Happened(of: Props) {
  const { text, type, theirs, choose, store } = useHappened(of)
  return (
    <>
      <label className={css['happened']}>
        <span>what happened</span>
        <textarea
          data-happened
          rows={1}
          spellCheck
          value={text}
          placeholder="as expected, unless you write it here"
          onChange={(event) => type(event.target.value)}
          onBlur={store}
          onKeyDown={(event) => {
            if (event.key === 'Escape' || (event.key === 'Enter' && !event.shiftKey)) {
              event.preventDefault()
              event.currentTarget.blur()
            }
          }}
        />
      </label>
      {theirs !== null && (
        <TwoTexts said="Other words were stored here since you began to write. Choose which stand.">
          <TwoTextsOf
            of={{ name: 'What happened', mine: text, theirs }}
            choices={['theirs', 'mine', 'both']}
            onChoose={choose}
          />
        </TwoTexts>
      )}
    </>
  )
}
