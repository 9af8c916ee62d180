import { useQueryClient } from '@tanstack/react-query'
import { type RefObject, useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { contentShape, type Used } from '#core/cases/contract.ts'
import { CallProblem, sentenceOf } from '#ui/call.ts'
import { useHere } from '#ui/shell/here.ts'
import { adopted, type Content, contentOf, type Draft, draftOf, withParameters } from './draft.ts'

/** Milliseconds from the last letter to storing, and to another try when the server was not reached. */
const pause = 700
const again = 3000
const theirsShape = z.object({ content: contentShape, stamp: z.string() })

/** What is written as it is typed: a case, a routine or a suggestion. */
export interface Written {
  /** Tells it from others in this browser. */
  readonly key: string
  readonly content: Content
  readonly contentStamp: string
  readonly used: readonly Used[]
  readonly store: (
    content: Content,
    stamp: string,
  ) => Promise<{ readonly content: Content; readonly stamp: string; readonly at: number }>
  /** Names of the answers that show it. */
  readonly shownBy: string
}

/** Two wrote at once: one of both is chosen. */
interface Conflict {
  readonly sentence: string
  readonly takeTheirs: () => void
  readonly keepMine: () => void
}

/** What is typed, at once; what is drawn follows it. */
interface Held {
  draft: Draft
  /** Of the content it was typed over. */
  stamp: string
  dirty: boolean
  sending: boolean
  /** Nothing is sent until it is changed, when it was refused, or until one of both is chosen, when two wrote at once. */
  halted: 'refused' | 'conflict' | null
  timer: number
}

/** The working copy as it is typed: stored after a pause, kept in the browser until the server has it, refused over somebody else's typing. */
export function useWorkingCopy(of: Written) {
  const counter = useRef(0)
  const newRow = () => `new-${++counter.current}`
  const [draft, setDraft] = useState<Draft>(() => draftOf(of.content, newRow))
  const [conflict, setConflict] = useState<Conflict | null>(null)
  const held = useRef<Held>({ draft, stamp: of.contentStamp, dirty: false, sending: false, halted: null, timer: 0 })
  const put = (next: Draft) => {
    held.current.draft = next
    setDraft(next)
  }
  const onClash = (error: CallProblem) => {
    const theirs = theirsShape.safeParse(error.problem.current)
    const decided = () => {
      held.current.halted = null
      setConflict(null)
      if (theirs.success) held.current.stamp = theirs.data.stamp
    }
    setConflict({
      sentence: error.problem.detail,
      takeTheirs: () => {
        decided()
        if (theirs.success) put(draftOf(theirs.data.content, newRow))
        storing.letGo()
      },
      keepMine: () => {
        decided()
        void storing.send()
      },
    })
  }
  const storing = useStoring(of, held, { onStored: (content) => put(adopted(held.current.draft, content)), onClash })
  const change = (next: Draft) => {
    put(withParameters(next, of.used))
    storing.later()
  }
  useEffect(() => {
    // What was typed here before and never reached the server, when nobody wrote since.
    const kept = storing.kept()
    if (kept) {
      change(draftOf(kept, newRow))
      storing.setState('Unsent typing was found here and is stored now')
    }
    return () => void storing.send()
  }, [])
  useEffect(() => {
    // Somebody else's typing shows here while nothing of ours is on its way.
    const own = held.current
    if (own.dirty || own.sending || of.contentStamp === own.stamp) return
    own.stamp = of.contentStamp
    put(draftOf(of.content, newRow))
  }, [of.contentStamp])
  return { draft, change, state: storing.state, conflict, newRow, flush: storing.send }
}

/** Sends what is typed, and keeps it in the browser until the server has it. */
function useStoring(
  of: Written,
  held: RefObject<Held>,
  { onStored, onClash }: { onStored: (content: Content) => void; onClash: (error: CallProblem) => void },
) {
  const client = useQueryClient()
  const [state, setState] = useState('')
  const backup = useBackup(of, held)
  const wait = (ms: number) => {
    window.clearTimeout(held.current.timer)
    held.current.timer = window.setTimeout(() => void send(), ms)
  }
  /** One go at storing; answers how long to wait for the next, where there is more to send. */
  const attempt = async (own: Held): Promise<number> => {
    try {
      const sent = own.draft
      const answer = await of.store(contentOf(sent), own.stamp)
      own.stamp = answer.stamp
      if (own.draft === sent) {
        onStored(answer.content)
        backup.forget()
      } else backup.keep()
      setState(storedText(answer.at))
      void client.invalidateQueries({ queryKey: [of.shownBy] })
      return pause
    } catch (error) {
      own.dirty = true
      own.halted = haltedBy(error)
      setState(own.halted === 'conflict' ? 'Not stored' : `${sentenceOf(error)} It is kept in this browser.`)
      if (own.halted === 'conflict' && error instanceof CallProblem) onClash(error)
      return again
    }
  }
  const send = async (): Promise<void> => {
    const own = held.current
    window.clearTimeout(own.timer)
    if (!own.dirty || own.sending || own.halted) return
    own.sending = true
    own.dirty = false
    setState('Storing…')
    const next = await attempt(own)
    own.sending = false
    if (own.dirty && !own.halted) wait(next)
  }
  const later = () => {
    const own = held.current
    own.dirty = true
    if (own.halted === 'refused') own.halted = null
    backup.keep()
    if (!own.halted) wait(pause)
  }
  /** Nothing of ours is to be stored any more. */
  const letGo = () => {
    held.current.dirty = false
    backup.forget()
    setState('')
  }
  return { state, setState, send, later, letGo, kept: backup.read }
}

const storedText = (at: number): string =>
  `Stored ${new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`

/** What the server refuses is sent once; what it could not be asked is sent again. */
function haltedBy(error: unknown): Held['halted'] {
  const status = error instanceof CallProblem ? error.problem.status : 0
  if (status === 412) return 'conflict'
  return status >= 400 && status < 500 && status !== 429 ? 'refused' : null
}

/** The copy in this browser, which bears the stamp of what it was typed over. */
function useBackup(of: Written, held: RefObject<Held>) {
  const { key } = useHere()
  const name = `rovant.working.${key}.${of.key}`
  return {
    keep: () => {
      const { draft, stamp } = held.current
      localStorage.setItem(name, JSON.stringify({ content: contentOf(draft), stamp }))
    },
    forget: () => localStorage.removeItem(name),
    read: (): Content | null => {
      const kept = theirsShape.safeParse(parseJson(localStorage.getItem(name)))
      return kept.success && kept.data.stamp === of.contentStamp ? kept.data.content : null
    },
  }
}

function parseJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null')
  } catch {
    return null
  }
}
