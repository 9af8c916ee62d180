import { DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import type { CaseSheet } from '#core/cases/contract.ts'
import { splitCells, stepLines, withTexts } from '#core/cases/steps.ts'
import { escapeText, plainText } from '#core/lib/plain-text.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Rows } from './Rows.tsx'
import { Signals } from './Signals.tsx'
import css from './Steps.module.css'
import { type DraftStep, useWorkingCopy } from './useWorkingCopy.ts'

const fields = ['action', 'expected', 'data'] as const
type StepField = (typeof fields)[number]

/** The steps as a grid, stored as they are typed: Enter adds, Alt+arrows or dragging reorder, cells pasted from a spreadsheet keep their columns. */
export function Steps({ of }: { of: CaseSheet }) {
  const copy = useWorkingCopy(of)
  const { draft, change } = copy
  const grid = useRef<HTMLDivElement>(null)
  const focus = (at: number, field: StepField) => grid.current?.querySelector<HTMLElement>(`[data-step-cell="${at}:${field}"]`)?.focus()
  // Drawn at once, so that the cell a key leads to has the focus before the next key arrives: a fast typist loses no letter.
  const setSteps = (steps: readonly DraftStep[]) => flushSync(() => change({ ...draft, steps }))
  const add = (at: number, steps: readonly Omit<DraftStep, 'row'>[] = [{ id: null, action: '', expected: '', data: '' }]) => {
    setSteps([...draft.steps.slice(0, at), ...steps.map((step) => ({ ...step, row: copy.newRow() })), ...draft.steps.slice(at)])
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
  const hear = (event: KeyboardEvent<HTMLTextAreaElement>, at: number, field: StepField) => {
    event.stopPropagation()
    const { value, selectionStart } = event.currentTarget
    if (event.ctrlKey && event.key === 's') { event.preventDefault(); void copy.flush(); return }
    if (event.altKey && event.key === 'ArrowUp') { event.preventDefault(); move(at, at - 1); focus(Math.max(0, at - 1), field) }
    else if (event.altKey && event.key === 'ArrowDown') { event.preventDefault(); move(at, at + 1); focus(Math.min(draft.steps.length - 1, at + 1), field) }
    else if (event.key === 'Enter' && !event.shiftKey) { event.preventDefault(); add(at + 1) }
    else if (event.key === 'Backspace' && fields.every((name) => draft.steps[at]?.[name] === '')) { event.preventDefault(); remove(at) }
    else if (event.key === 'ArrowUp' && selectionStart === 0) focus(at - 1, field)
    else if (event.key === 'ArrowDown' && selectionStart === value.length) focus(at + 1, field)
    else if (event.key === 'Escape') event.currentTarget.blur()
  }
  const paste = (event: ClipboardEvent<HTMLTextAreaElement>, at: number, field: StepField) => {
    const text = event.clipboardData.getData('text/plain')
    const cells = splitCells(text)
    if (cells.length < 2 && (cells[0]?.length ?? 1) < 2) return
    event.preventDefault()
    if (field !== 'action') return pasteColumns(cells, at, field)
    const pasted = stepLines(text)
    const own = draft.steps[at]
    const replaces = own && fields.every((name) => own[name] === '')
    setSteps([...draft.steps.slice(0, replaces ? at : at + 1), ...pasted.map((step) => ({ ...withTexts(step, escapeText), row: copy.newRow() })), ...draft.steps.slice(at + 1)])
  }
  const pasteColumns = (cells: readonly (readonly string[])[], at: number, field: StepField) => {
    const first = fields.indexOf(field)
    const count = Math.max(draft.steps.length, at + cells.length)
    setSteps(Array.from({ length: count }, (_, index) => {
      const step = draft.steps[index] ?? { id: null, action: '', expected: '', data: '', row: copy.newRow() }
      const given = index < at ? [] : (cells[index - at] ?? [])
      return { ...step, ...Object.fromEntries(given.flatMap((value, offset) => { const name = fields[first + offset]; return name ? [[name, escapeText(value.trim())]] : [] })) }
    }))
  }
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }), useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }))
  const dropped = ({ active, over }: DragEndEvent) => { if (over) move(draft.steps.findIndex(({ row }) => row === active.id), draft.steps.findIndex(({ row }) => row === over.id)) }
  return (
    <section className={css['steps']} aria-label="Steps">
      <div className={css['head']}><h3>Steps</h3><span className="quiet" role="status">{copy.state}</span></div>
      {copy.conflict && <p className={css['conflict']} role="alert">{copy.conflict.sentence} <Button look="word" onClick={copy.conflict.takeTheirs}>take theirs</Button> <Button look="word" onClick={copy.conflict.keepMine}>store mine over it</Button></p>}
      <label className={css['before']}><span>Before</span><Cell label="Preconditions" value={draft.preconditions} placeholder="What must hold before the first step?" onChange={(preconditions) => change({ ...draft, preconditions })} onKeyDown={(event) => event.stopPropagation()} /></label>
      <DndContext id={`steps-${of.key}`} sensors={sensors} onDragEnd={dropped}>
        <SortableContext items={draft.steps.map(({ row }) => row)} strategy={verticalListSortingStrategy}>
          <div ref={grid} className={css['grid']}>
            {draft.steps.length > 0 && <div className={css['columns']} aria-hidden="true"><span /><span>Action</span><span>Expected</span><span>Data</span><span /></div>}
            {draft.steps.map((step, at) => (
              <StepRow key={step.row} step={step} at={at} onRemove={() => remove(at)}>
                {fields.map((field) => <Cell key={field} label={`Step ${at + 1}, ${field}`} mark={`${at}:${field}`} value={step[field]} onChange={(value) => setSteps(draft.steps.map((each, index) => (index === at ? { ...each, [field]: value } : each)))} onKeyDown={(event) => hear(event, at, field)} onPaste={(event) => paste(event, at, field)} />)}
              </StepRow>
            ))}
          </div>
        </SortableContext>
      </DndContext>
      <p><Button look="word" data-step-cell={draft.steps.length === 0 ? '' : undefined} onClick={() => add(draft.steps.length)}>{draft.steps.length === 0 ? 'Write the first step' : 'Add a step'}</Button></p>
      <Rows draft={draft} onChange={change} />
      <Signals draft={draft} onFix={(fixed) => change({ ...draft, ...fixed, steps: fixed.steps.map((step) => ({ ...step, row: draft.steps.find(({ id }) => id !== null && id === step.id)?.row ?? copy.newRow() })) })} onGo={(step) => focus(step, 'expected')} />
    </section>
  )
}

function StepRow({ step, at, onRemove, children }: { step: DraftStep; at: number; onRemove: () => void; children: React.ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: step.row })
  return (
    <div ref={setNodeRef} className={css['step']} data-dragging={isDragging || undefined} style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}>
      <button type="button" className={css['number']} {...attributes} {...listeners} aria-label={`Step ${at + 1}, drag to reorder`}>{at + 1}</button>
      {children}
      <button type="button" className={css['remove']} aria-label={`Remove step ${at + 1}`} onClick={onRemove}>×</button>
    </div>
  )
}

interface CellProps {
  readonly label: string
  readonly value: string
  readonly mark?: string
  readonly placeholder?: string
  readonly onChange: (value: string) => void
  readonly onKeyDown: (event: KeyboardEvent<HTMLTextAreaElement>) => void
  readonly onPaste?: (event: ClipboardEvent<HTMLTextAreaElement>) => void
}

/** A cell reads as rich text and is typed as plain text with its marks; it grows with what is in it. */
function Cell({ label, value, mark, placeholder, onChange, onKeyDown, onPaste }: CellProps) {
  const [writing, setWriting] = useState(false)
  const rich = /<[a-z]/i.test(value)
  if (rich && !writing) return <div className={css['rich']} role="button" tabIndex={0} data-step-cell={mark} aria-label={`Edit ${label}`} dangerouslySetInnerHTML={{ __html: value }} onFocus={() => undefined} onClick={() => setWriting(true)} onKeyDown={(event) => { if (event.key === 'Enter') { event.preventDefault(); event.stopPropagation(); setWriting(true) } }} />
  return <textarea className={css['cell']} aria-label={label} data-step-cell={mark} rows={1} spellCheck autoFocus={writing} placeholder={placeholder} value={rich ? value : plainText(value)} onChange={(event) => onChange(rich ? event.target.value : escapeText(event.target.value))} onBlur={() => setWriting(false)} onKeyDown={onKeyDown} onPaste={onPaste} />
}
