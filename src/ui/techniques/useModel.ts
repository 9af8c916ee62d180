import { versionIn } from '#core/lib/record.ts'
import { useEffect, useMemo, useRef, useState } from 'react'
import { type ModelSheet, updateModel } from '#core/techniques/contract.ts'
import { draftModel, type DraftModel } from '#core/techniques/draft-row.ts'
import { linesOf, type Source, withLines } from '#core/techniques/lines.ts'
import { call, CallProblem, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'

const storeAfter = 700

/** A model as it is typed: stored as one types, on top of whatever was stored last; somebody else's newer one is told, never overwritten in silence. */
export function useModel(sheet: ModelSheet, onStored: () => void) {
  const { key } = useHere()
  const [rest, setRest] = useState<DraftModel>(() => draftModel.parse(sheet.model))
  const [source, setSource] = useState<Source>(() =>
    Object.keys(sheet.source).length > 0 ? sheet.source : linesOf(draftModel.parse(sheet.model)),
  )
  const [stored, setStored] = useState<{ readonly at: number | null; readonly problem: string | null }>({
    at: sheet.updatedAt,
    problem: null,
  })
  const version = useRef(sheet.version)
  const revision = useRef(sheet.revision)
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined)
  const storing = useRef(Promise.resolve())
  const dirty = useRef(false)
  const read = useMemo(() => withLines(rest, source), [rest, source])
  const latest = useRef({ read, source })
  latest.current = { read, source }
  revision.current = Math.max(revision.current, sheet.revision)

  const store = async (leaving = false): Promise<void> => {
    clearTimeout(waiting.current)
    if (!dirty.current) return storing.current
    dirty.current = false
    const body = {
      model: latest.current.read.model,
      source: Object.fromEntries(
        Object.entries(latest.current.source).map(([section, lines]) => [section, [...lines]]),
      ),
    }
    storing.current = storing.current.then(async () => {
      try {
        const answer = await call(updateModel, {
          params: { key, id: sheet.id },
          version: version.current,
          body,
          keepalive: leaving,
        })
        version.current = answer.version
        revision.current = answer.revision
        setStored({ at: Date.now(), problem: null })
        onStored()
      } catch (error) {
        dirty.current = true
        setStored({ at: null, problem: sentenceOf(error) })
        // Until the person decides, every further letter would be refused for the same reason.
        if (error instanceof CallProblem && error.problem.status === 412)
          notify('Somebody else changed this model meanwhile. What you typed is kept: store it over theirs?', {
            tone: 'problem',
            undo: () => {
              version.current = versionIn(error.problem.current)
              void store()
            },
            undoLabel: 'Store mine',
          })
      }
    })
    return storing.current
  }
  const later = () => {
    dirty.current = true
    setStored({ at: null, problem: null })
    clearTimeout(waiting.current)
    waiting.current = setTimeout(() => void store(), storeAfter)
  }
  // What somebody else stored is shown, unless something typed here waits to be stored: then it is asked which counts.
  useEffect(() => {
    if (sheet.version <= version.current || dirty.current) return
    version.current = sheet.version
    const theirs = draftModel.parse(sheet.model)
    setRest(theirs)
    setSource(Object.keys(sheet.source).length > 0 ? sheet.source : linesOf(theirs))
    setStored({ at: sheet.updatedAt, problem: null })
  }, [sheet.version])
  useEffect(() => {
    const leave = () => void store(true)
    addEventListener('pagehide', leave)
    return () => {
      removeEventListener('pagehide', leave)
      void store()
    }
  }, [])
  return {
    model: read.model,
    source,
    lineProblems: read.problems,
    placeOf: read.placeOf,
    stored,
    revision,
    version,
    setLines: (section: string, lines: readonly string[]) => {
      setSource((before) => ({ ...before, [section]: lines }))
      later()
    },
    /** What is drawn or chosen instead of typed: the lines follow. */
    setModel: (model: DraftModel) => {
      setRest(model)
      setSource(linesOf(model))
      later()
    },
    /** What stands in no line: strength, criterion, rules of the grid. */
    setRest: (model: DraftModel) => {
      setRest(model)
      later()
    },
    store,
  }
}
export type OwnModel = ReturnType<typeof useModel>
