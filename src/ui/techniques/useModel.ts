import { useEffect, useMemo, useRef, useState } from 'react'
import type { ModelSheet } from '#core/techniques/contract.ts'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import type { LineProblem, Source } from '#core/techniques/line-reader.ts'
import { linesOf, withLines } from '#core/techniques/lines.ts'
import {
  mergedModel,
  type ModelClash,
  type ModelText,
  saysTheSameModel,
  withTheirs,
} from '#core/techniques/model-merge.ts'
import { notify } from '#ui/kit/notices.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { type HeldModel, textOf, type TheirModel, useModelStore } from './useModelStore.ts'

/**
 * A model as it is typed: stored as one types and kept in this browser until it is. What somebody else stored meanwhile is taken in
 * part by part; where both wrote in one part a person chooses.
 */
export function useModel(sheet: ModelSheet, onStored: () => void) {
  const [text, setText] = useState(() => textOf(sheet))
  const read = useMemo(() => withLines(text.rest, text.source), [text])
  const held = useRef<HeldModel>(heldOf(sheet, text))
  const show = (next: ModelText) => {
    held.current.text = next
    setText(next)
  }
  const storing = useModelStore(sheet, held, {
    onStored,
    onTheirs: (theirs) => joining.take(held.current.text, theirs),
  })
  const joining = useJoining(held, { show, later: storing.later, keep: storing.keep, forget: storing.forget })
  useEffect(() => {
    const kept = storing.kept()
    if (!kept) return
    held.current.base = kept.base
    if (joining.take(kept.text, { text: textOf(sheet), version: sheet.version }))
      notify(`What you typed here on ${momentText(kept.at)} was found; it was not stored yet.`)
  }, [])
  useEffect(() => {
    // What somebody else stored is shown, unless something typed here waits to be stored: then both are brought together.
    const own = held.current
    if (own.dirty || own.sending || own.halted !== null || sheet.version <= own.version) return
    Object.assign(own, { version: sheet.version, revision: sheet.revision, base: textOf(sheet) })
    show(own.base)
    storing.setStored({ at: sheet.updatedAt, problem: null })
  }, [sheet.version])
  held.current.revision = Math.max(held.current.revision, sheet.revision)
  const put = (next: ModelText) => {
    show(next)
    storing.later()
  }
  return {
    model: read.model,
    source: text.source,
    lineProblems: read.problems,
    placeOf: read.placeOf,
    stored: storing.stored,
    held,
    /** Stores what is typed at once; answers whether all of it is. */
    store: storing.flush,
    joining,
    setLines: (section: string, lines: readonly string[]) => {
      const { rest, source } = held.current.text
      put({ rest, source: { ...source, [section]: lines } })
    },
    /** What is drawn or chosen instead of typed: the lines follow, and those that cannot be read stay. */
    setModel: (model: DraftModel) =>
      put({ rest: model, source: withUnread(linesOf(model), text.source, read.problems) }),
    /** Another model in the place of this one. */
    putBack: (model: DraftModel) => put({ rest: model, source: linesOf(model) }),
    /** What stands in no line: strength, criterion, rules of the grid. */
    setRest: (model: DraftModel) => put({ rest: model, source: held.current.text.source }),
  }
}
export type OwnModel = ReturnType<typeof useModel>

const heldOf = (sheet: ModelSheet, text: ModelText): HeldModel => ({
  text,
  base: text,
  version: sheet.version,
  revision: sheet.revision,
  theirs: null,
  dirty: false,
  sending: false,
  halted: null,
  timer: 0,
})

function withUnread(lines: Source, typed: Source, problems: readonly LineProblem[]): Source {
  const sections = Object.entries(lines).map(([name, own]) => {
    const unread = problems.flatMap(({ section, line }) => (section === name ? [typed[section]?.[line] ?? ''] : []))
    return [name, [...own, ...unread.filter((line) => !own.includes(line))]] as const
  })
  return Object.fromEntries(sections)
}

/** Takes in what somebody else stored, and asks where both wrote in one part. */
function useJoining(
  held: { readonly current: HeldModel },
  of: { show: (next: ModelText) => void; later: () => void; keep: () => void; forget: () => void },
) {
  const [clashes, setClashes] = useState<readonly ModelClash[]>([])
  const settle = () => {
    const own = held.current
    if (own.theirs) Object.assign(own, { base: own.theirs.text, version: own.theirs.version })
    Object.assign(own, { theirs: null, halted: null })
    if (!saysTheSameModel(own.text, own.base)) return of.later()
    own.dirty = false
    of.forget()
  }
  /** Answers whether anything of mine is still to be stored. */
  const take = (mine: ModelText, theirs: TheirModel): boolean => {
    const own = held.current
    const { text, clashes: open } = mergedModel(own.base, mine, theirs.text)
    of.show(text)
    setClashes(open)
    own.theirs = theirs
    if (open.length === 0) {
      settle()
      return own.dirty
    }
    Object.assign(own, { halted: 'clash', dirty: true })
    of.keep()
    return true
  }
  const choose = (clash: ModelClash, choice: 'mine' | 'theirs') => {
    const { text, theirs } = held.current
    if (theirs && choice === 'theirs') of.show(withTheirs(text, theirs.text, clash))
    const rest = clashes.filter((each) => each !== clash)
    setClashes(rest)
    if (rest.length === 0) settle()
    else of.keep()
  }
  return { clashes, take, choose }
}
