import { useEffect, useRef, useState } from 'react'
import type { Mapping } from '#core/formats/mapping.ts'
import { type ImportAnswer, importFile, listMappings } from '#core/formats/contract.ts'
import { readGoing } from '#core/history/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoAct } from './useUndoAct.ts'

export type What = 'requirements' | 'cases'
/** How a file is read: by a mapping as it stands, by one that was kept under a name, or as the server guesses. */
interface By {
  readonly mapping?: Mapping | undefined
  readonly named?: string | undefined
}

/** The file, how it is read, what that makes, and the import itself with its progress. */
export function useImport(what: What, onClose: () => void) {
  const { key } = useHere()
  const { data: kept } = useAnswer(listMappings, { params: { key } })
  const [file, setFile] = useState<File | null>(null)
  const [named, setNamed] = useState<string | null>(null)
  /** As a person has mapped it; the next file, mended, is read the same. */
  const [made, setMade] = useState<Mapping | null>(null)
  const [answer, setAnswer] = useState<ImportAnswer | null>(null)
  const { ask, problem, stop, busy } = useAsking(what)
  const storing = useStoring(stop)
  const look = async (of: File, by: By) => {
    const told = await ask(of, { ...by, dry: 'yes' })
    if (told) setAnswer(told)
  }
  const store = async () => {
    if (!file || !answer) return
    const by: By = named === null ? { mapping: answer.mapping ?? undefined } : { named }
    const count = answer.counts.new + answer.counts.changed
    if (await storing.store(count, (job) => ask(file, { ...by, dry: 'no', job }))) onClose()
  }
  return {
    answer,
    problem,
    progress: storing.progress,
    busy,
    named,
    kept: kept?.rows.filter(({ mapping }) => mapping.what === what) ?? [],
    choose: (of: File | undefined) => {
      if (!of) return
      setFile(of)
      setAnswer(null)
      void look(of, named !== null ? { named } : made ? { mapping: made } : {})
    },
    byName: (name: string) => {
      setNamed(name || null)
      setMade(null)
      if (file) void look(file, name === '' ? {} : { named: name })
    },
    made,
    map: (mapping: Mapping) => {
      setNamed(null)
      setMade(mapping)
      if (file) void look(file, { mapping })
    },
    store: () => void store(),
    cancel: storing.cancel,
  }
}
export type Importing = ReturnType<typeof useImport>

interface Ask extends By {
  readonly dry: 'yes' | 'no'
  readonly job?: string
}

/** Sends the file; what is wrong with it is kept to be shown. */
function useAsking(what: What) {
  const { key } = useHere()
  const { write, busy } = useWrite(importFile)
  const [problem, setProblem] = useState<string | null>(null)
  const going = useRef<AbortController | null>(null)
  useEffect(() => () => going.current?.abort(), [])
  const ask = async (of: File, { mapping, named, dry, job }: Ask): Promise<ImportAnswer | null> => {
    setProblem(null)
    going.current = new AbortController()
    const query = {
      what,
      dry,
      source: named ?? of.name,
      // What stands above the columns is in the file itself.
      ...(mapping && { mapping: JSON.stringify({ ...mapping, headers: undefined }) }),
      ...(named !== undefined && { named }),
    }
    try {
      return await write({ params: { key }, query, file: of, signal: going.current.signal, job })
    } catch (error) {
      // What the person stopped is no problem.
      if (!(error instanceof DOMException)) setProblem(sentenceOf(error))
      return null
    }
  }
  return { ask, problem, busy, stop: () => going.current?.abort() }
}

const lookEvery = 300

/** Stores what was read, and tells how far it is. */
function useStoring(stop: () => void) {
  const { key } = useHere()
  const takeBack = useUndoAct('The import is taken back')
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null)
  /** Answers whether it is stored. */
  const store = async (count: number, send: (job: string) => Promise<ImportAnswer | null>): Promise<boolean> => {
    const job = crypto.randomUUID()
    setProgress({ done: 0, of: count })
    const look = () =>
      void call(readGoing, { params: { key, job } })
        .then(setProgress)
        .catch(() => undefined)
    const watch = window.setInterval(look, lookEvery)
    const told = await send(job)
    window.clearInterval(watch)
    setProgress(null)
    if (!told?.stored) return false
    const { act, counts } = told
    const changed = counts.changed > 0 ? `, ${counts.changed} changed` : ''
    notify(`${counts.new} ${told.what} imported${changed}.`, {
      undo: act === null ? undefined : () => void takeBack(act),
    })
    return true
  }
  const cancel = () => {
    if (progress === null) return
    stop()
    setProgress(null)
    notify('The import was cancelled; nothing was imported.')
  }
  return { progress, store, cancel }
}
