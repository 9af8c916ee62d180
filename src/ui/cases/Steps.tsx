import { DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { type ClipboardEvent, type KeyboardEvent, lazy, type ReactNode, Suspense, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { splitCells, stepLines, withTexts, withValues } from '#core/cases/steps.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Cell } from './Cell.tsx'
import { Signals } from './Signals.tsx'
import css from './Steps.module.css'
import { UseRow } from '#ui/reuse/UseRow.tsx'
import { type Draft, type DraftStep, useWorkingCopy, type Written } from './useWorkingCopy.ts'

const InsertDialog = lazy(async () => ({ default: (await import('#ui/reuse/InsertDialog.tsx')).InsertDialog }))

const fields = ['action', 'expected', 'data'] as const
type StepField = (typeof fields)[number]
type Copy = ReturnType<typeof useWorkingCopy>
type Fresh = Omit<DraftStep, 'row'>
const emptyStep: Fresh = { id: null, action: '', expected: '', data: '' }

interface Props {
  readonly of: Written
  /** A case has preconditions and rows; a routine has steps only. */
  readonly plain?: boolean
  /** What stands between preconditions and steps, and below the steps. */
  readonly setting?: (draft: Draft, change: (next: Draft) => void) => ReactNode
  readonly below?: (draft: Draft, change: (next: Draft) => void) => ReactNode
  readonly chosenActs?: (of: {
    steps: readonly DraftStep[]
    chosen: readonly number[]
    flush: () => Promise<void>
    onClear: () => void
  }) => ReactNode
  /** A note at the end of a step's row, such as what people say of it. */
  readonly note?: (step: DraftStep, at: number) => ReactNode
}

/** The steps as a grid, stored as they are typed: Enter adds, Alt+arrows or dragging reorder, cells pasted from a spreadsheet keep their columns. */
export function Steps(props: Props) {
  const copy = useWorkingCopy(props.of)
  const { draft, change } = copy
  const grid = useRef<HTMLDivElement>(null)
  const [inserting, setInserting] = useState<number | null>(null)
  const choice = useChosen(draft.steps)
  const focus = (at: number, field: StepField) =>
    (
      grid.current?.querySelector<HTMLElement>(`[data-step-cell="${at}:${field}"]`) ??
      grid.current?.querySelector<HTMLElement>(`[data-step-cell="${at}:action"]`)
    )?.focus()
  const edits = useStepEdits(copy, focus)
  const hear = (event: KeyboardEvent<HTMLElement>, at: number, field: StepField) => {
    if (event.altKey && event.key.toLowerCase() === 'i') {
      event.preventDefault()
      event.stopPropagation()
      return setInserting(at + 1)
    }
    if (event.ctrlKey && event.key === ' ') {
      event.preventDefault()
      event.stopPropagation()
      return choice.toggle(at, event.shiftKey)
    }
    edits.hear(event, at, field)
  }
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const dropped = ({ active, over }: DragEndEvent) => {
    if (over)
      edits.move(
        draft.steps.findIndex(({ row }) => row === active.id),
        draft.steps.findIndex(({ row }) => row === over.id),
      )
  }
  return (
    <section className={css['steps']} aria-label="Steps">
      <div className={css['head']}>
        <h3>Steps</h3>
        <span className="quiet" role="status">
          {copy.state}
        </span>
      </div>
      {copy.conflict && (
        <p className={css['conflict']} role="alert">
          {copy.conflict.sentence}{' '}
          <Button look="word" onClick={copy.conflict.takeTheirs}>
            take theirs
          </Button>{' '}
          <Button look="word" onClick={copy.conflict.keepMine}>
            store mine over it
          </Button>
        </p>
      )}
      {!props.plain && (
        <label className={css['before']}>
          <span>Before</span>
          <Cell
            label="Preconditions"
            value={draft.preconditions}
            placeholder="What must hold before the first step?"
            onChange={(preconditions) => change({ ...draft, preconditions })}
            onKeyDown={(event) => event.stopPropagation()}
          />
        </label>
      )}
      {props.setting?.(draft, change)}
      {choice.chosen.length > 0 &&
        props.chosenActs?.({ steps: draft.steps, chosen: choice.chosen, flush: copy.flush, onClear: choice.clear })}
      <DndContext id={`steps-${props.of.key}`} sensors={sensors} onDragEnd={dropped}>
        <SortableContext items={draft.steps.map(({ row }) => row)} strategy={verticalListSortingStrategy}>
          <div ref={grid} className={css['grid']}>
            {draft.steps.length > 0 && (
              <div className={css['columns']} aria-hidden="true">
                <span />
                <span>Action</span>
                <span>Expected</span>
                <span>Data</span>
                <span />
              </div>
            )}
            {draft.steps.map((step, at) => (
              <StepRow
                key={step.row}
                step={step}
                at={at}
                chosen={choice.chosen.includes(at)}
                onChoose={(range) => choice.toggle(at, range)}
                onRemove={() => edits.remove(at)}
                note={props.note?.(step, at)}
              >
                {step.use ? (
                  <UseRow
                    step={step}
                    at={at}
                    used={props.of.used.find(
                      ({ kind, version }) => kind === step.use?.kind && version === step.use.version,
                    )}
                    onChange={(next) => edits.put(at, next)}
                    onWriteOut={() => edits.writeOut(at, props.of.used)}
                    onMove={(by) => {
                      edits.move(at, at + by)
                      focus(at + by, 'action')
                    }}
                    onGo={(by) => focus(at + by, 'action')}
                    onRemove={() => edits.remove(at)}
                  />
                ) : (
                  fields.map((field) => (
                    <Cell
                      key={field}
                      label={`Step ${at + 1}, ${field}`}
                      mark={`${at}:${field}`}
                      value={step[field]}
                      onChange={(value) => edits.put(at, { ...step, [field]: value })}
                      onKeyDown={(event) => hear(event, at, field)}
                      onPaste={(event) => edits.paste(event, at, field)}
                    />
                  ))
                )}
              </StepRow>
            ))}
          </div>
        </SortableContext>
      </DndContext>
      <p className={css['adds']}>
        <Button
          look="word"
          data-step-cell={draft.steps.length === 0 ? '' : undefined}
          onClick={() => edits.add(draft.steps.length)}
        >
          {draft.steps.length === 0 ? 'Write the first step' : 'Add a step'}
        </Button>
        <Button look="word" onClick={() => setInserting(draft.steps.length)}>
          Insert a routine or a case
        </Button>
      </p>
      {props.below?.(draft, change)}
      <Signals
        draft={draft}
        plain={props.plain ?? false}
        onFix={(fixed) =>
          change({
            ...draft,
            ...fixed,
            steps: fixed.steps.map((step) => ({
              ...step,
              row: draft.steps.find(({ id }) => id !== null && id === step.id)?.row ?? copy.newRow(),
            })),
          })
        }
        onGo={(step) => focus(step, 'expected')}
      />
      {inserting !== null && (
        <Suspense>
          <InsertDialog
            own={props.of.key}
            onClose={() => setInserting(null)}
            onInsert={(steps) => {
              setInserting(null)
              edits.add(inserting, steps)
            }}
          />
        </Suspense>
      )}
    </section>
  )
}

/** Steps chosen by their numbers: a click or Ctrl+Space one, with Shift all up to it. */
function useChosen(steps: readonly DraftStep[]) {
  const [rows, setRows] = useState<readonly string[]>([])
  const last = useRef(0)
  const toggle = (at: number, range: boolean) => {
    const own = steps[at]?.row
    if (own === undefined) return
    const [from, to] = [Math.min(at, last.current), Math.max(at, last.current)]
    setRows((before) =>
      range && before.length > 0
        ? [...new Set([...before, ...steps.slice(from, to + 1).map(({ row }) => row)])]
        : before.includes(own)
          ? before.filter((row) => row !== own)
          : [...before, own],
    )
    last.current = at
  }
  return { chosen: steps.flatMap(({ row }, at) => (rows.includes(row) ? [at] : [])), toggle, clear: () => setRows([]) }
}

/** What keys and the clipboard do to the steps. */
function useStepEdits(copy: Copy, focus: (at: number, field: StepField) => void) {
  const { draft, change } = copy
  // Drawn at once, so that the cell a key leads to has the focus before the next key arrives: a fast typist loses no letter.
  const setSteps = (steps: readonly DraftStep[]) => flushSync(() => change({ ...draft, steps }))
  const fresh = (step: Fresh): DraftStep => ({ ...step, row: copy.newRow() })
  const add = (at: number, steps: readonly Fresh[] = [emptyStep]) => {
    setSteps([...draft.steps.slice(0, at), ...steps.map(fresh), ...draft.steps.slice(at)])
    focus(at, 'action')
  }
  const move = (from: number, to: number) => {
    if (to < 0 || to >= draft.steps.length || from === to) return
    const steps = [...draft.steps]
    steps.splice(to, 0, ...steps.splice(from, 1))
    setSteps(steps)
  }
  const remove = (at: number) => {
    setSteps(draft.steps.filter((_, index) => index !== at))
    focus(Math.max(0, at - 1), 'action')
  }
  const put = (at: number, step: DraftStep) => setSteps(draft.steps.map((each, index) => (index === at ? step : each)))
  /** What a step inserts takes its place as steps of the case's own. */
  const writeOut = (at: number, used: Written['used']) => {
    const use = draft.steps[at]?.use
    const said = use && used.find(({ kind, version }) => kind === use.kind && version === use.version)
    if (!use || !said) return
    const given = Object.fromEntries(Object.entries(use.values).filter(([, value]) => value.trim() !== ''))
    setSteps([
      ...draft.steps.slice(0, at),
      ...said.steps.map(({ action, expected, data }) =>
        fresh(withTexts({ id: null, action, expected, data }, (text) => withValues(text, given))),
      ),
      ...draft.steps.slice(at + 1),
    ])
    focus(at, 'action')
  }
  const hear = (event: KeyboardEvent<HTMLElement>, at: number, field: StepField) => {
    event.stopPropagation()
    const { value, start } = caretOf(event.currentTarget)
    if (event.ctrlKey && event.key === 's') {
      event.preventDefault()
      void copy.flush()
      return
    }
    if (event.altKey && event.key === 'ArrowUp') {
      event.preventDefault()
      move(at, at - 1)
      focus(Math.max(0, at - 1), field)
    } else if (event.altKey && event.key === 'ArrowDown') {
      event.preventDefault()
      move(at, at + 1)
      focus(Math.min(draft.steps.length - 1, at + 1), field)
    } else if (event.key === 'Enter' && !event.shiftKey) {
      event.preventDefault()
      add(at + 1)
    } else if (event.key === 'Backspace' && fields.every((name) => draft.steps[at]?.[name] === '')) {
      event.preventDefault()
      remove(at)
    } else if (event.key === 'ArrowUp' && start === 0) focus(at - 1, field)
    else if (event.key === 'ArrowDown' && start === value.length) focus(at + 1, field)
    else if (event.key === 'Escape') event.currentTarget.blur()
  }
  const paste = (event: ClipboardEvent<HTMLTextAreaElement>, at: number, field: StepField) => {
    const text = event.clipboardData.getData('text/plain')
    const cells = splitCells(text)
    if (cells.length < 2 && (cells[0]?.length ?? 1) < 2) return
    event.preventDefault()
    if (field !== 'action') return pasteColumns(cells, at, field)
    const own = draft.steps[at]
    const replaces = own && fields.every((name) => own[name] === '')
    setSteps([
      ...draft.steps.slice(0, replaces ? at : at + 1),
      ...stepLines(text).map((step) => fresh(withTexts(step, escapeText))),
      ...draft.steps.slice(at + 1),
    ])
  }
  const pasteColumns = (cells: readonly (readonly string[])[], at: number, field: StepField) => {
    const first = fields.indexOf(field)
    const count = Math.max(draft.steps.length, at + cells.length)
    setSteps(
      Array.from({ length: count }, (_, index) => {
        const step = draft.steps[index] ?? fresh(emptyStep)
        const given = index < at || step.use ? [] : (cells[index - at] ?? [])
        return {
          ...step,
          ...Object.fromEntries(
            given.flatMap((value, offset) => {
              const name = fields[first + offset]
              return name ? [[name, escapeText(value.trim())]] : []
            }),
          ),
        }
      }),
    )
  }
  return { add, move, remove, put, writeOut, hear, paste }
}

const caretOf = (target: HTMLElement): { value: string; start: number } =>
  target instanceof HTMLTextAreaElement
    ? { value: target.value, start: target.selectionStart }
    : { value: '', start: 0 }

interface RowProps {
  readonly step: DraftStep
  readonly at: number
  readonly chosen: boolean
  readonly onChoose: (range: boolean) => void
  readonly onRemove: () => void
  readonly note: ReactNode
  readonly children: ReactNode
}

function StepRow({ step, at, chosen, onChoose, onRemove, note, children }: RowProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: step.row })
  return (
    <div
      ref={setNodeRef}
      className={css['step']}
      data-dragging={isDragging || undefined}
      data-chosen={chosen || undefined}
      data-use={step.use ? true : undefined}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
    >
      <button
        type="button"
        className={css['number']}
        {...attributes}
        {...listeners}
        aria-pressed={chosen}
        aria-label={`Step ${at + 1}, click to choose, drag to reorder`}
        onClick={(event) => onChoose(event.shiftKey)}
      >
        {at + 1}
      </button>
      {children}
      <button type="button" className={css['remove']} aria-label={`Remove step ${at + 1}`} onClick={onRemove}>
        ×
      </button>
      {note}
    </div>
  )
}
