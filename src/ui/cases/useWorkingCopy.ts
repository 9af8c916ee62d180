import { useQueryClient } from '@tanstack/react-query'
import { type RefObject, useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { contentShape, type Used } from '#core/cases/contract.ts'
import { CallProblem, sentenceOf, isForGood } from '#ui/call.ts'
import { keptPlace } from '#ui/kit/kept.tsx'
import { useHere } from '#ui/shell/here.ts'
import { clockText } from '#ui/kit/moment.ts'
import { again, pause, type Sendable, storedText, useSending } from '#ui/shell/sending.ts'
import { merged } from '#core/cases/merge.ts'
import { type Choice, decided, type OpenClash, openClash } from './clashes.ts'
import { adopted, type Content, contentOf, type Draft, draftAfter, draftOf, withParameters } from './draft.ts'

const theirsShape = z.object({ content: contentShape, stamp: z.string() })
type Stored = z.infer<typeof theirsShape>
const keptShape = theirsShape.extend({ base: contentShape, at: z.number().default(0) })

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

/** What is typed, at once; what is drawn follows it. */
interface Held extends Sendable {
  draft: Draft
  /** The content it was typed over, and its stamp. */
  base: Stored
  /** What somebody else stored, in which places wait to be decided. */
  theirs: Stored | null
}

/**
 * The working copy as it is typed: stored after a pause, kept in the browser until the server has it. What somebody else stored
 * meanwhile is taken in, step by step and field by field; where both wrote in one place a person chooses.
 */
export function useWorkingCopy(of: Written) {
  const counter = useRef(0)
  const newRow = () => `new-${++counter.current}`
  const [draft, setDraft] = useState<Draft>(() => draftOf(of.content, newRow))
  const base = { content: of.content, stamp: of.contentStamp }
  const held = useRef<Held>({ draft, base, dirty: false, sending: false, halted: null, theirs: null, timer: 0 })
  const put = (next: Draft) => {
    held.current.draft = next
    setDraft(next)
  }
  const putIn = (next: Draft) => put(withParameters(next, of.used))
  const onClash = (theirs: Stored) => joining.take(contentOf(held.current.draft), theirs)
  const storing = useStoring(of, held, { onStored: (content) => put(adopted(held.current.draft, content)), onClash })
  const joining = useJoining(held, { put: putIn, newRow, storing })
  const change = (next: Draft) => {
    putIn(next)
    storing.later()
  }
  useEffect(() => {
    const kept = storing.kept()
    if (kept) {
      held.current.base = { content: kept.base, stamp: kept.stamp }
      joining.take(kept.content, base)
      storing.setState(
        `What you typed here${kept.at === 0 ? '' : ` at ${clockText(kept.at)}`} was found and is not stored yet`,
      )
    }
    return () => void storing.send()
  }, [])
  useEffect(() => {
    // Somebody else's typing shows here while nothing of ours is on its way.
    const own = held.current
    if (own.dirty || own.sending || own.halted !== null || of.contentStamp === own.base.stamp) return
    own.base = base
    put(draftAfter(of.content, own.draft, newRow))
  }, [of.contentStamp])
  return { draft, change, state: storing.state, joining, newRow, flush: storing.flush }
}

/** Takes in what somebody else stored, and asks where both wrote in one place. */
function useJoining(
  held: RefObject<Held>,
  of: {
    put: (next: Draft) => void
    newRow: () => string
    storing: { later: () => void; keep: () => void; send: () => Promise<void>; setState: (text: string) => void }
  },
) {
  const [clashes, setClashes] = useState<readonly OpenClash[]>([])
  const settle = () => {
    const own = held.current
    if (own.theirs) own.base = own.theirs
    own.theirs = null
    own.halted = null
    of.storing.later()
  }
  const take = (mine: Content, theirs: Stored) => {
    const own = held.current
    const result = merged(own.base.content, mine, theirs.content)
    of.put(draftAfter(contentShape.parse(result.content), own.draft, of.newRow))
    const open = result.clashes.map((clash) => openClash(clash, own.draft))
    setClashes(open)
    own.theirs = theirs
    own.dirty = true
    if (open.length === 0) return settle()
    own.halted = 'clash'
    of.storing.keep()
    of.storing.setState('Not stored: somebody else wrote in the same place')
  }
  const choose = (clash: OpenClash, choice: Choice) => {
    const own = held.current
    if (own.theirs) of.put(decided(own.draft, clash, choice, own.theirs.content))
    const rest = clashes.filter((each) => each !== clash)
    setClashes(rest)
    if (rest.length === 0) settle()
    else of.storing.keep()
  }
  return { clashes, take, choose }
}
export type Joining = ReturnType<typeof useJoining>

/** Sends what is typed, and keeps it in the browser until the server has it. */
function useStoring(
  of: Written,
  held: RefObject<Held>,
  { onStored, onClash }: { onStored: (content: Content) => void; onClash: (theirs: Stored) => void },
) {
  const client = useQueryClient()
  const [state, setState] = useState('')
  const backup = useBackup(of, held)
  /** One go at storing; answers how long to wait for the next, where there is more to send. */
  const attempt = async (own: Held): Promise<number> => {
    try {
      const sent = own.draft
      const answer = await of.store(contentOf(sent), own.base.stamp)
      own.base = { content: answer.content, stamp: answer.stamp }
      if (own.draft === sent) {
        onStored(answer.content)
        backup.forget()
      } else backup.keep()
      setState(storedText(answer.at))
      void client.invalidateQueries({ queryKey: [of.shownBy] })
      return pause
    } catch (error) {
      own.dirty = true
      const theirs = clashIn(error)
      own.halted = theirs === null && isRefused(error) ? 'refused' : null
      if (theirs) onClash(theirs)
      else
        setState(
          `${sentenceOf(error)} It is kept in this browser${isRefused(error) ? '' : ' and sent when the server answers'}.`,
        )
      return theirs ? pause : again
    }
  }
  const sending = useSending(held, (own) => {
    setState('Storing…')
    return attempt(own)
  })
  const later = () => {
    const own = held.current
    own.dirty = true
    if (own.halted === 'refused') own.halted = null
    backup.keep()
    if (!own.halted) sending.wait(pause)
  }
  return { state, setState, ...sending, later, keep: backup.keep, kept: backup.read }
}

/** What the server has by now, where it was refused for that. */
function clashIn(error: unknown): Stored | null {
  if (!(error instanceof CallProblem) || error.problem.status !== 412) return null
  const theirs = theirsShape.safeParse(error.problem.current)
  return theirs.success ? theirs.data : null
}

/** What the server refuses is sent once; what it could not be asked is sent again. */
function isRefused(error: unknown): boolean {
  return error instanceof CallProblem && isForGood(error.problem.status)
}

/** The person's copy in this browser, with what it was typed over. */
function useBackup(of: Written, held: RefObject<Held>) {
  const { key, me } = useHere()
  const place = keptPlace(`rovant.working.${me.id}.${key}.${of.key}`, keptShape)
  return {
    ...place,
    keep: () => {
      const { draft, base } = held.current
      place.keep({ content: contentOf(draft), base: base.content, stamp: base.stamp, at: Date.now() })
    },
  }
}
