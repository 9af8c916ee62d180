import { type RefObject, useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { type ModelSheet, updateModel } from '#core/techniques/contract.ts'
import { draftModel } from '#core/techniques/draft-row.ts'
import { linesOf, withLines } from '#core/techniques/lines.ts'
import type { ModelText } from '#core/techniques/model-merge.ts'
import { call, CallProblem, isForGood, sentenceOf } from '#ui/call.ts'
import { keptPlace } from '#ui/kit/kept.tsx'
import { useHere } from '#ui/shell/here.ts'
import { again, pause, type Sendable, useSending } from '#ui/shell/sending.ts'

const sourceShape = z.record(z.string(), z.array(z.string()))
const textShape = z.object({ rest: draftModel, source: sourceShape })
const keptShape = z.object({ text: textShape, base: textShape, at: z.number() })
const sheetShape = z.object({ model: draftModel, source: sourceShape, version: z.number() })

/** A model as somebody else stored it. */
export interface TheirModel {
  readonly text: ModelText
  readonly version: number
}

/** What is typed, at once; what is drawn follows it. */
export interface HeldModel extends Sendable {
  text: ModelText
  /** The text it was typed over, and the version the server had of it. */
  base: ModelText
  version: number
  revision: number
  /** What somebody else stored, in parts of which wait to be decided. */
  theirs: TheirModel | null
}

/** A model and the lines it was typed in; one that was never typed has the lines that say the same. */
export function textOf({ model, source }: Pick<ModelSheet, 'model' | 'source'>): ModelText {
  const rest = draftModel.parse(model)
  return { rest, source: Object.keys(source).length > 0 ? source : linesOf(rest) }
}

interface Stored {
  readonly at: number | null
  readonly problem: string | null
}

/** Sends what is typed: after a pause, on leaving, and at once where an act needs it. */
export function useModelStore(
  sheet: ModelSheet,
  held: RefObject<HeldModel>,
  { onStored, onTheirs }: { onStored: () => void; onTheirs: (theirs: TheirModel) => void },
) {
  const { key } = useHere()
  const [stored, setStored] = useState<Stored>({ at: sheet.updatedAt, problem: null })
  const backup = useBackup(sheet, held)
  const leaving = useRef(false)
  const attempt = async (own: HeldModel): Promise<number> => {
    const sent = own.text
    const body = { model: withLines(sent.rest, sent.source).model, source: copied(sent.source) }
    const input = { params: { key, id: sheet.id }, version: own.version, body, keepalive: leaving.current }
    try {
      const answer = await call(updateModel, input)
      Object.assign(own, { version: answer.version, revision: answer.revision, base: sent })
      if (own.text === sent) backup.forget()
      else backup.keep()
      setStored({ at: Date.now(), problem: null })
      onStored()
      return pause
    } catch (error) {
      own.dirty = true
      const theirs = theirsIn(error)
      if (theirs) {
        onTheirs(theirs)
        return pause
      }
      const isRefused = error instanceof CallProblem && isForGood(error.problem.status)
      own.halted = isRefused ? 'refused' : null
      setStored({
        at: null,
        problem: `${sentenceOf(error)} It is kept in this browser${isRefused ? '' : ' and sent when the server answers'}.`,
      })
      return again
    }
  }
  const sending = useSending(held, attempt)
  const later = () => {
    const own = held.current
    own.dirty = true
    if (own.halted === 'refused') own.halted = null
    backup.keep()
    if (own.halted) return
    setStored({ at: null, problem: null })
    sending.wait(pause)
  }
  useSendOnLeaving(leaving, sending.send)
  return { stored, setStored, ...sending, later, keep: backup.keep, kept: backup.read, forget: backup.forget }
}

/** What leaves with the page is sent in a way that outlives it. */
function useSendOnLeaving(leaving: RefObject<boolean>, send: () => Promise<void>): void {
  useEffect(() => {
    const leave = () => {
      leaving.current = true
      void send()
    }
    const back = () => {
      leaving.current = false
    }
    addEventListener('pagehide', leave)
    addEventListener('pageshow', back)
    return () => {
      removeEventListener('pagehide', leave)
      removeEventListener('pageshow', back)
      void send()
    }
  }, [])
}

const copied = (source: ModelText['source']): Record<string, string[]> =>
  Object.fromEntries(Object.entries(source).map(([name, lines]) => [name, [...lines]]))

/** What the server has by now, where it was refused for that. */
function theirsIn(error: unknown): TheirModel | null {
  if (!(error instanceof CallProblem) || error.problem.status !== 412) return null
  const theirs = sheetShape.safeParse(error.problem.current)
  return theirs.success ? { text: textOf(theirs.data), version: theirs.data.version } : null
}

/** The person's copy in this browser, with what it was typed over. */
function useBackup(sheet: ModelSheet, held: RefObject<HeldModel>) {
  const { key, me } = useHere()
  const place = keptPlace(`rovant.model.${me.id}.${key}.${sheet.id}`, keptShape)
  return {
    ...place,
    keep: () => {
      const { text, base } = held.current
      place.keep({ text: typedText(text), base: typedText(base), at: Date.now() })
    },
  }
}

const typedText = ({ rest, source }: ModelText) => ({ rest, source: copied(source) })
