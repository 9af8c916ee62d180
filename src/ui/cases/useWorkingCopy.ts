import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { z } from 'zod'
import { contentShape, type Used } from '#core/cases/contract.ts'
import { parametersIn, type StepUse, type VersionContent } from '#core/cases/steps.ts'
import { CallProblem, sentenceOf } from '#ui/call.ts'
import { useHere } from '#ui/shell/here.ts'

export interface DraftStep {
  readonly id: number | null
  readonly action: string
  readonly expected: string
  readonly data: string
  readonly use?: StepUse | undefined
  /** Keeps a step's place on the page while it has no identity yet. */
  readonly row: string
}
export interface Draft extends Pick<VersionContent, 'needs' | 'environment' | 'table'> {
  readonly preconditions: string
  readonly steps: readonly DraftStep[]
  readonly parameters: readonly string[]
  readonly rows: readonly Readonly<Record<string, string>>[]
}
const pause = 700
const theirsShape = z.object({ content: contentShape, stamp: z.string() })
export type Content = z.infer<typeof contentShape>

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
const noNames: readonly string[] = []

/** The working copy as it is typed: stored after a pause, kept in the browser until the server has it, refused over somebody else's typing. */
export function useWorkingCopy(of: Written) {
  const { key } = useHere()
  const client = useQueryClient()
  const counter = useRef(0)
  const newRow = () => `new-${++counter.current}`
  const fromContent = (content: Content): Draft => ({
    ...content,
    steps: content.steps.map((step) => ({ ...step, row: step.id === null ? newRow() : `step-${step.id}` })),
  })
  const [draft, setDraft] = useState<Draft>(() => fromContent(of.content))
  const [state, setState] = useState('')
  const [conflict, setConflict] = useState<{ sentence: string; takeTheirs: () => void; keepMine: () => void } | null>(
    null,
  )
  const held = useRef({ draft, stamp: of.contentStamp, dirty: false, sending: false, timer: 0 })
  const backup = `rovant.working.${key}.${of.key}`

  const send = async (): Promise<void> => {
    const own = held.current
    window.clearTimeout(own.timer)
    if (!own.dirty || own.sending) return
    own.sending = true
    own.dirty = false
    setState('Storing…')
    try {
      const sent = own.draft
      const answer = await of.store(contentOf(sent), own.stamp)
      own.stamp = answer.stamp
      if (own.draft === sent) adopt(answer.content)
      localStorage.removeItem(backup)
      setState(`Stored ${new Date(answer.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`)
      void client.invalidateQueries({ queryKey: [of.shownBy] })
    } catch (error) {
      own.dirty = true
      if (error instanceof CallProblem && error.problem.status === 412) clash(error)
      else setState(`${sentenceOf(error)} It is kept in this browser.`)
      if (!(error instanceof CallProblem) || error.problem.status === 0)
        own.timer = window.setTimeout(() => void send(), 3000)
    } finally {
      own.sending = false
      if (own.dirty && !conflict && !refused.current) own.timer = window.setTimeout(() => void send(), pause)
    }
  }
  // What the server refuses is not sent again until something is changed.
  const refused = useRef(false)
  /** Takes the identities and pinned versions the server gave, without moving what is being typed. */
  const adopt = (content: Content) => {
    const filled = held.current.draft.steps.filter(isFilled)
    if (filled.length !== content.steps.length) return
    const given = new Map(filled.map((step, index) => [step.row, content.steps[index]]))
    put({
      ...held.current.draft,
      parameters: content.parameters,
      steps: held.current.draft.steps.map((step) => {
        const own = given.get(step.row)
        return own ? { ...step, id: own.id ?? step.id, ...(own.use && { use: own.use, action: own.action }) } : step
      }),
    })
  }
  const clash = (error: CallProblem) => {
    const theirs = theirsShape.safeParse(error.problem.current)
    window.clearTimeout(held.current.timer)
    setState('Not stored')
    setConflict({
      sentence: error.problem.detail,
      takeTheirs: () => {
        if (theirs.success) {
          held.current.stamp = theirs.data.stamp
          held.current.dirty = false
          put(fromContent(theirs.data.content))
        }
        setConflict(null)
        setState('')
      },
      keepMine: () => {
        if (theirs.success) held.current.stamp = theirs.data.stamp
        setConflict(null)
        void send()
      },
    })
  }
  const put = (next: Draft) => {
    held.current.draft = next
    setDraft(next)
  }
  /** What a routine asks for and is given no value is a parameter of the case. */
  const asked = (steps: readonly DraftStep[]) =>
    steps.flatMap(({ use }) =>
      use
        ? (
            of.used.find(({ kind, version }) => kind === use.kind && version === use.version)?.parameters ?? noNames
          ).filter((name) => (use.values[name] ?? '').trim() === '')
        : noNames,
    )
  const change = (next: Draft) => {
    const own = held.current
    refused.current = false
    put({
      ...next,
      parameters: [
        ...new Set([
          ...parametersIn(next),
          ...asked(next.steps),
          ...next.parameters.filter((name) => next.rows.some((row) => (row[name] ?? '') !== '')),
        ]),
      ],
    })
    own.dirty = true
    localStorage.setItem(backup, JSON.stringify({ content: contentOf(own.draft), stamp: own.stamp }))
    window.clearTimeout(own.timer)
    if (!conflict) own.timer = window.setTimeout(() => void send(), pause)
  }
  useEffect(() => {
    const kept = theirsShape.safeParse(parseJson(localStorage.getItem(backup)))
    if (kept.success && kept.data.stamp === of.contentStamp) {
      setState('Unsent typing was found here and is stored now')
      change(fromContent(kept.data.content))
    }
    return () => void send()
  }, [])
  useEffect(() => {
    // Somebody else's typing shows here while nothing of ours is on its way.
    if (held.current.dirty || held.current.sending || of.contentStamp === held.current.stamp) return
    held.current.stamp = of.contentStamp
    put(fromContent(of.content))
  }, [of.contentStamp])
  return { draft, change, state, conflict, newRow, flush: send }
}

const isFilled = ({ action, expected, data, use }: DraftStep): boolean =>
  use !== undefined || `${action}${expected}${data}`.trim() !== ''

const contentOf = (draft: Draft): Content => ({
  preconditions: draft.preconditions,
  steps: draft.steps.map(({ id, action, expected, data, use }) => ({
    id,
    action,
    expected,
    data,
    ...(use && { use: { ...use, values: { ...use.values } } }),
  })),
  parameters: [...draft.parameters],
  rows: draft.rows.map((row) => ({ ...row })),
  ...(draft.needs && { needs: [...draft.needs] }),
  ...(draft.environment !== undefined && { environment: draft.environment }),
  ...(draft.table && { table: { ...draft.table } }),
})

function parseJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null')
  } catch {
    return null
  }
}
