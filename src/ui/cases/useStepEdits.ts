import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { splitCells, stepLines, withTexts } from '#core/cases/steps.ts'
import type { Used } from '#core/cases/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { type DraftStep, usedBy } from './draft.ts'
import { chosenAfter, emptyStep, filled, type Fresh, isEmpty, moved, type StepField, writtenOut } from './step-edits.ts'
import type { useWorkingCopy } from './useWorkingCopy.ts'

type Copy = ReturnType<typeof useWorkingCopy>
type Focus = (at: number, field: StepField) => void

/** What is done to the steps. */
export function useStepEdits({ draft, change, newRow, flush }: Copy, focus: Focus) {
  const { steps } = draft
  // Drawn at once, so that the cell a key leads to has the focus before the next key arrives: a fast typist loses no letter.
  const set = (next: readonly DraftStep[]) => flushSync(() => change({ ...draft, steps: next }))
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
    put: (at: number, step: DraftStep) => set(steps.with(at, step)),
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
      if (cells.length < 2 && (cells[0]?.length ?? 1) < 2) return
      event.preventDefault()
      if (field !== 'action') return set(filled(steps, cells, { at, field, fresh }))
      const lines = stepLines(text).map((step) => fresh(withTexts(step, escapeText)))
      set(isEmpty(steps[at]) ? steps.toSpliced(at, 1, ...lines) : steps.toSpliced(at + 1, 0, ...lines))
    },
  }
  return { ...edits, hear: hearing(steps, edits, { focus, flush }) }
}

interface Edits {
  readonly add: (at: number) => void
  readonly move: (from: number, to: number) => void
  readonly remove: (at: number) => void
}

/** What keys do in a cell of the steps. */
function hearing(
  steps: readonly DraftStep[],
  { add, move, remove }: Edits,
  { focus, flush }: { focus: Focus; flush: () => Promise<void> },
) {
  const step = (at: number, field: StepField, by: -1 | 1) => {
    move(at, at + by)
    focus(Math.max(0, Math.min(steps.length - 1, at + by)), field)
  }
  /** What the key does that the text itself would not; nothing when it is the text's own. */
  const actOf = (event: KeyboardEvent<HTMLElement>, at: number, field: StepField): (() => void) | null => {
    if (event.ctrlKey && event.key === 's') return () => void flush()
    if (event.altKey && event.key === 'ArrowUp') return () => step(at, field, -1)
    if (event.altKey && event.key === 'ArrowDown') return () => step(at, field, 1)
    if (event.key === 'Enter' && !event.shiftKey) return () => add(at + 1)
    if (event.key === 'Backspace' && isEmpty(steps[at])) return () => remove(at)
    return null
  }
  return (event: KeyboardEvent<HTMLElement>, at: number, field: StepField) => {
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
