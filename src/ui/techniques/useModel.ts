import { versionIn } from '#core/lib/record.ts'
import { useEffect, useMemo, useRef, useState } from 'react'
import { type ModelSheet, updateModel } from '#core/techniques/contract.ts'
import { draftModel, type DraftModel } from '#core/techniques/draft-row.ts'
import type { Source } from '#core/techniques/line-reader.ts'
import { linesOf, withLines } from '#core/techniques/lines.ts'
import { call, CallProblem, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'

const storeAfter = 700

interface Text {
  readonly rest: DraftModel
  readonly source: Source
}

/** A model and the lines it was typed in; one that was never typed has the lines that say the same. */
function textOf(sheet: Pick<ModelSheet, 'model' | 'source'>): Text {
  const rest = draftModel.parse(sheet.model)
  return { rest, source: Object.keys(sheet.source).length > 0 ? sheet.source : linesOf(rest) }
}

/** A model as it is typed: stored as one types, on top of whatever was stored last; somebody else's newer one is told, never overwritten in silence. */
export function useModel(sheet: ModelSheet, onStored: () => void) {
  const [text, setText] = useState(() => textOf(sheet))
  const read = useMemo(() => withLines(text.rest, text.source), [text])
  const keeping = useKeeping(sheet, { model: read.model, source: text.source }, onStored)
  // What somebody else stored is shown, unless something typed here waits to be stored: then it is asked which counts.
  useEffect(() => {
    if (keeping.takes(sheet)) setText(textOf(sheet))
  }, [sheet.version])
  const put = (change: (before: Text) => Text) => {
    setText(change)
    keeping.later()
  }
  return {
    model: read.model,
    source: text.source,
    lineProblems: read.problems,
    placeOf: read.placeOf,
    stored: keeping.stored,
    revision: keeping.revision,
    version: keeping.version,
    store: keeping.store,
    setLines: (section: string, lines: readonly string[]) =>
      put(({ rest, source }) => ({ rest, source: { ...source, [section]: lines } })),
    /** What is drawn or chosen instead of typed: the lines follow. */
    setModel: (model: DraftModel) => put(() => ({ rest: model, source: linesOf(model) })),
    /** What stands in no line: strength, criterion, rules of the grid. */
    setRest: (model: DraftModel) => put(({ source }) => ({ rest: model, source })),
  }
}
export type OwnModel = ReturnType<typeof useModel>

interface Typed {
  readonly model: DraftModel
  readonly source: Source
}

/** Stores what is typed: after a pause, on leaving, and at once where an act needs it; one store waits for the one before. */
function useKeeping(sheet: ModelSheet, typed: Typed, onStored: () => void) {
  const { key } = useHere()
  const [stored, setStored] = useState<{ readonly at: number | null; readonly problem: string | null }>({
    at: sheet.updatedAt,
    problem: null,
  })
  const version = useRef(sheet.version)
  const revision = useRef(sheet.revision)
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined)
  const storing = useRef(Promise.resolve())
  const dirty = useRef(false)
  const latest = useRef(typed)
  latest.current = typed
  revision.current = Math.max(revision.current, sheet.revision)

  const send = async ({ model, source }: Typed, keepalive: boolean): Promise<void> => {
    const lines = Object.fromEntries(Object.entries(source).map(([name, own]) => [name, [...own]]))
    const body = { model, source: lines }
    const input = { params: { key, id: sheet.id }, version: version.current, body, keepalive }
    try {
      const answer = await call(updateModel, input)
      version.current = answer.version
      revision.current = answer.revision
      setStored({ at: Date.now(), problem: null })
      onStored()
    } catch (error) {
      dirty.current = true
      setStored({ at: null, problem: sentenceOf(error) })
      askWhichCounts(error, (theirs) => {
        version.current = theirs
        void store()
      })
    }
  }
  const store = async (leaving = false): Promise<void> => {
    clearTimeout(waiting.current)
    if (!dirty.current) return storing.current
    dirty.current = false
    const now = latest.current
    storing.current = storing.current.then(() => send(now, leaving))
    return storing.current
  }
  const later = () => {
    dirty.current = true
    setStored({ at: null, problem: null })
    clearTimeout(waiting.current)
    waiting.current = setTimeout(() => void store(), storeAfter)
  }
  /** Takes a newer one, unless something typed here waits; answers whether it did. */
  const takes = ({ version: theirs, updatedAt }: ModelSheet): boolean => {
    if (theirs <= version.current || dirty.current) return false
    version.current = theirs
    setStored({ at: updatedAt, problem: null })
    return true
  }
  useStoreOnLeaving(store)
  return { stored, version, revision, store, later, takes }
}

function useStoreOnLeaving(store: (leaving?: boolean) => Promise<void>): void {
  useEffect(() => {
    const leave = () => void store(true)
    addEventListener('pagehide', leave)
    return () => {
      removeEventListener('pagehide', leave)
      void store()
    }
  }, [])
}

/** Until the person decides, every further letter would be refused for the same reason. */
function askWhichCounts(error: unknown, onMine: (theirs: number) => void): void {
  if (!(error instanceof CallProblem) || error.problem.status !== 412) return
  notify('Somebody else changed this model meanwhile. What you typed is kept: store it over theirs?', {
    tone: 'problem',
    undo: () => onMine(versionIn(error.problem.current)),
    undoLabel: 'Store mine',
  })
}
