import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { splitCells } from '#core/cases/steps.ts'
import type { Used } from '#core/cases/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { type Draft, type DraftStep, usedBy } from './draft.ts'
import { noHistory, recorded, redone, undone } from './step-history.ts'
import {
  asSteps,
  chosenAfter,
  emptyStep,
  filled,
  listed,
  type Fresh,
  isEmpty,
  moved,
  type StepField,
  writtenOut,
} from './step-edits.ts'
import type { useWorkingCopy } from './useWorkingCopy.ts'

type Copy = ReturnType<typeof useWorkingCopy>
type Focus = (at: number, field: StepField) => void

/** What is done to the steps. */
export function useStepEdits({ draft, change, newRow }: Copy, focus: Focus) {
  const { steps } = draft
  const history = useHistory(draft, change)
  const set = (next: readonly DraftStep[], cell: string | null = null) => history.put({ ...draft, steps: next }, cell)
  const fresh = (step: Fresh): DraftStep => ({ ...step, row: newRow() })
  const edits = {
    add: (at: number, added: readonly Fresh[] = [emptyStep]) => {
      set(steps.toSpliced(at, 0, ...added.map(fresh)))
      focus(at, 'action')
    },
    move: (from: number, to: number) => {
      const next = moved(steps, from, to)
      if (next !== steps) set(next)
    },
    remove: (at: number) => {
      set(steps.toSpliced(at, 1))
      focus(Math.max(0, at - 1), 'action')
    },
    put: (at: number, step: DraftStep, field?: StepField) =>
      set(steps.with(at, step), field ? cellOf(steps, at, field) : null),
    before: (preconditions: string) => history.put({ ...draft, preconditions }, 'before'),
    /** What a step inserts takes its place as steps of the case's own. */
    writeOut: (at: number, used: readonly Used[]) => {
      const step = steps[at]
      const said = step && usedBy(step, used)
      if (!said) return
      set(steps.toSpliced(at, 1, ...writtenOut(step, said).map(fresh)))
      focus(at, 'action')
    },
    paste: (event: ClipboardEvent<HTMLTextAreaElement>, at: number, field: StepField) => {
      const text = event.clipboardData.getData('text/plain')
      const cells = splitCells(text)
      if (cells.some((row) => row.length > 1)) {
        event.preventDefault()
        if (field !== 'action') return set(filled(steps, cells, { at, field, fresh }))
        const lines = asSteps(text).map(fresh)
        return set(isEmpty(steps[at]) ? steps.toSpliced(at, 1, ...lines) : steps.toSpliced(at + 1, 0, ...lines))
      }
      // Lines without columns are the text of this cell; a list of steps is made of them on demand.
      const { length } = asSteps(text)
      const row = steps[at]?.row
      if (field !== 'action' || length < 2 || row === undefined) return
      notify(`${length} lines stand in this cell now.`, {
        undo: () => history.change((now) => ({ ...now, steps: listed(now.steps, { row, text, fresh }) })),
        undoLabel: `Make ${length} steps of them`,
      })
    },
  }
  const hearBefore = (event: KeyboardEvent<HTMLElement>) => {
    if (isForPage(event)) return
    event.stopPropagation()
    const turn = turnOf(event)
    if (!turn) return
    event.preventDefault()
    history[turn]('before')
  }
  return { ...edits, hear: hearing(steps, { ...edits, ...history }, focus), hearBefore }
}

const cellOf = (steps: readonly DraftStep[], at: number, field: StepField): string => `${steps[at]?.row ?? ''}:${field}`

/** What is written and done here can be taken back in order; typing in one cell is nobody else's. */
function useHistory(draft: Draft, change: (next: Draft) => void) {
  const history = useRef(noHistory)
  const latest = useRef(draft)
  latest.current = draft
  // Drawn at once, so that the cell a key leads to has the focus before the next key arrives: a fast typist loses no letter.
  const show = (next: Draft) => flushSync(() => change(next))
  const put = (next: Draft, cell: string | null) => {
    history.current = recorded(history.current, { before: latest.current, after: next, cell, at: Date.now() })
    show(next)
  }
  const turn = (by: typeof undone, cell: string) => {
    const turned = by(history.current, cell, latest.current)
    if (!turned) return
    history.current = turned.history
    show({ ...latest.current, ...turned.said })
  }
  return {
    put,
    /** What stands by now, changed. */
    change: (to: (now: Draft) => Draft) => put(to(latest.current), null),
    undo: (cell: string) => turn(undone, cell),
    redo: (cell: string) => turn(redone, cell),
  }
}

interface Edits {
  readonly undo: (cell: string) => void
  readonly redo: (cell: string) => void
  readonly add: (at: number) => void
  readonly move: (from: number, to: number) => void
  readonly remove: (at: number) => void
}

/** What keys do in a cell of the steps. */
function hearing(steps: readonly DraftStep[], { add, move, remove, undo, redo }: Edits, focus: Focus) {
  const step = (at: number, field: StepField, by: -1 | 1) => {
    move(at, at + by)
    focus(Math.max(0, Math.min(steps.length - 1, at + by)), field)
  }
  /** What the key does that the text itself would not; nothing when it is the text's own. */
  const actOf = (event: KeyboardEvent<HTMLElement>, at: number, field: StepField): (() => void) | null => {
    const turn = turnOf(event)
    if (turn) return () => (turn === 'undo' ? undo : redo)(cellOf(steps, at, field))
    if (event.altKey && event.key === 'ArrowUp') return () => step(at, field, -1)
    if (event.altKey && event.key === 'ArrowDown') return () => step(at, field, 1)
    if (event.key === 'Enter' && !event.shiftKey) return () => add(at + 1)
    if (event.key === 'Backspace' && isEmpty(steps[at])) return () => remove(at)
    return null
  }
  return (event: KeyboardEvent<HTMLElement>, at: number, field: StepField) => {
    // Only keys of the whole page go on from here, such as the one that cuts a version.
    if (isForPage(event)) return
    event.stopPropagation()
    const act = actOf(event, at, field)
    const { value, start } = caretOf(event.currentTarget)
    if (act) {
      event.preventDefault()
      act()
    } else if (event.key === 'ArrowUp' && start === 0) focus(at - 1, field)
    else if (event.key === 'ArrowDown' && start === value.length) focus(at + 1, field)
    else if (event.key === 'Escape') event.currentTarget.blur()
  }
}

/** Undo and redo, by the keys of every platform. */
function turnOf({ ctrlKey, metaKey, altKey, shiftKey, key }: KeyboardEvent<HTMLElement>): 'undo' | 'redo' | null {
  if (!(ctrlKey || metaKey) || altKey) return null
  if (key.toLowerCase() === 'z') return shiftKey ? 'redo' : 'undo'
  return key.toLowerCase() === 'y' ? 'redo' : null
}
const isForPage = ({ ctrlKey, metaKey, key }: KeyboardEvent<HTMLElement>): boolean =>
  (ctrlKey || metaKey) && key.toLowerCase() === 's'

const caretOf = (target: HTMLElement): { value: string; start: number } =>
  target instanceof HTMLTextAreaElement
    ? { value: target.value, start: target.selectionStart }
    : { value: '', start: 0 }

/** Steps chosen by their numbers: a click or Ctrl+Space one, with Shift all up to it. */
export function useChosen(steps: readonly DraftStep[]) {
  const [rows, setRows] = useState<readonly string[]>([])
  const last = useRef(0)
  const toggle = (at: number, range: boolean) => {
    const from = last.current
    setRows((before) => chosenAfter(before, steps, { at, last: from, range }))
    last.current = at
  }
  return { chosen: steps.flatMap(({ row }, at) => (rows.includes(row) ? [at] : [])), toggle, clear: () => setRows([]) }
}
