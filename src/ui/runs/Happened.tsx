import { useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { commentStep } from '#core/runs/note-contract.ts'
import { call, CallProblem, isForGood, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { keptPlace } from '#ui/kit/kept.tsx'
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

/** Words as they are typed, kept in this browser; where others were stored since they were begun, both are there until one is chosen. */
function useOwnWords(name: string, stored: string) {
  const place = keptPlace(name, keptShape)
  const [text, setText] = useState(stored)
  const [theirs, setTheirs] = useState<string | null>(null)
  const latest = useRef(text)
  latest.current = text
  /** What was stored when these words were begun. */
  const base = useRef(stored)
  const type = (typed: string) => {
    setText(typed)
    place.keep({ text: typed, base: base.current })
  }
  useEffect(() => {
    const kept = place.read()
    if (!kept || kept.text === stored) return
    setText(kept.text)
    if (kept.base !== stored) setTheirs(stored)
  }, [])
  useEffect(() => {
    if (stored.trim() === base.current.trim()) return
    if (text === base.current || text === stored) setText(stored)
    else setTheirs(stored)
    base.current = stored
  }, [stored])
  const forget = (words: string) => {
    if (latest.current === words) place.forget()
  }
  const choose = (choice: 'mine' | 'theirs' | 'both') => {
    if (choice === 'both') type(`${theirs ?? ''}\n${text}`)
    if (choice === 'theirs') {
      forget(text)
      setText(theirs ?? '')
    }
    setTheirs(null)
  }
  return { text, type, theirs, choose, base, forget }
}

/** What happened, on the server after a pause. */
function useHappened({ own, step, comment }: Props) {
  const { key, me } = useHere()
  const { row } = own.at
  const words = useOwnWords(`rovant.happened.${me.id}.${own.item}.${row}.${step}`, comment)
  const { text, theirs, base } = words
  /** How often in a row the server could not be reached with it. */
  const [tries, setTries] = useState(0)
  const send = async (id: number, step: number) => {
    const before = base.current
    base.current = text
    try {
      const answer = await call(commentStep, { params: { key, id, row, step }, body: { text } })
      words.forget(text)
      setTries(0)
      own.patch((of) => withComment(of, row, step, { text: answer.text, at: answer.storedAt }))
    } catch (error) {
      base.current = before
      const isRefused = error instanceof CallProblem && isForGood(error.problem.status)
      const then = isRefused ? 'kept here' : 'kept here and sent when the server answers'
      if (tries === 0 || isRefused) notify(`${sentenceOf(error)} Your words are ${then}.`, { tone: 'problem' })
      if (!isRefused) setTries(tries + 1)
    }
  }
  const store = async () => {
    if (text === base.current || step === null || theirs !== null) return
    const attempt = await own.begin()
    if (attempt) await send(attempt.id, step)
    // Why it cannot begin has been said; it is stored as soon as it has.
    else notify('What you wrote is kept here until the attempt can begin.', { tone: 'problem' })
  }
  useEffect(() => {
    const wait = setTimeout(() => void store(), tries === 0 ? pause : again)
    return () => clearTimeout(wait)
  }, [text, theirs, tries, own.attempt?.id])
  return { ...words, store: () => void store() }
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
