import { DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { type KeyboardEvent, lazy, type ReactNode, type RefObject, Suspense, useEffect, useRef, useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import { UseRow } from '#ui/reuse/UseRow.tsx'
import { type Flush } from '#ui/shell/sending.ts'
import { Cell } from './Cell.tsx'
import { Clashes } from './Clashes.tsx'
import { type Draft, type DraftStep, usedBy } from './draft.ts'
import { Signals } from './Signals.tsx'
import { type StepField, stepFields } from './step-edits.ts'
import css from './Steps.module.css'
import { useChosen, useStepEdits } from './useStepEdits.ts'
import { useWorkingCopy, type Written } from './useWorkingCopy.ts'

const InsertDialog = lazy(async () => ({ default: (await import('#ui/reuse/InsertDialog.tsx')).InsertDialog }))

interface Props {
  readonly of: Written
  /** A case has preconditions and rows; a routine has steps only. */
  readonly plain?: boolean
  /** What stands between preconditions and steps, and below the steps. */
  /** Hands out how to store at once what is typed. */
  readonly onReady?: (flush: Flush) => void
  readonly setting?: (draft: Draft, change: (next: Draft) => void) => ReactNode
  readonly below?: (draft: Draft, change: (next: Draft) => void) => ReactNode
  readonly chosenActs?: (of: {
    steps: readonly DraftStep[]
    chosen: readonly number[]
    flush: Flush
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
  const focus = (at: number, field: StepField) => cellIn(grid, at, field)?.focus()
  const edits = useStepEdits(copy, focus)
  const { chosen } = choice
  useEffect(() => props.onReady?.(copy.flush))
  return (
    <section className={css['steps']} aria-label="Steps">
      <Head copy={copy} />
      {!props.plain && <Preconditions draft={draft} edits={edits} />}
      {props.setting?.(draft, change)}
      {chosen.length > 0 &&
        props.chosenActs?.({ steps: draft.steps, chosen, flush: copy.flush, onClear: choice.clear })}
      <Grid {...{ props, draft, grid, edits, choice, focus }} onInsert={setInserting} />
      <p className={css['adds']} data-print="no">
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
        onFix={({ steps, ...fixed }) => change({ ...draft, ...fixed, steps: inPlace(draft, steps, copy.newRow) })}
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

const cellIn = (grid: RefObject<HTMLElement | null>, at: number, field: StepField): HTMLElement | null | undefined =>
  grid.current?.querySelector<HTMLElement>(`[data-step-cell="${at}:${field}"]`) ??
  grid.current?.querySelector<HTMLElement>(`[data-step-cell="${at}:action"]`)

/** Steps that were mended keep the places of those they were. */
const inPlace = (draft: Draft, steps: readonly Omit<DraftStep, 'row'>[], newRow: () => string): DraftStep[] =>
  steps.map((step) => ({
    ...step,
    row: draft.steps.find(({ id }) => id !== null && id === step.id)?.row ?? newRow(),
  }))

type Copy = ReturnType<typeof useWorkingCopy>

const Head = ({ copy: { draft, state, joining } }: { copy: Copy }) => (
  <>
    <div className={css['head']}>
      <h3>Steps</h3>
      <span className="quiet" role="status">
        {state}
      </span>
    </div>
    {joining.clashes.length > 0 && <Clashes of={joining} draft={draft} />}
  </>
)

const Preconditions = ({ draft, edits }: { draft: Draft; edits: ReturnType<typeof useStepEdits> }) => (
  <label className={css['before']} data-print={draft.preconditions === '' ? 'no' : undefined}>
    <span>Before</span>
    <Cell
      label="Preconditions"
      value={draft.preconditions}
      placeholder="What must hold before the first step?"
      onChange={edits.before}
      onKeyDown={edits.hearBefore}
    />
  </label>
)

interface GridProps {
  readonly props: Props
  readonly draft: Draft
  readonly grid: RefObject<HTMLDivElement | null>
  readonly edits: ReturnType<typeof useStepEdits>
  readonly choice: ReturnType<typeof useChosen>
  readonly focus: (at: number, field: StepField) => void
  /** Asks what to insert before the step at this place. */
  readonly onInsert: (at: number) => void
}

function Grid(of: GridProps) {
  const { props, draft, grid, edits } = of
  const { steps } = draft
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const placeOf = (id: unknown) => steps.findIndex(({ row }) => row === id)
  const dropped = ({ active, over }: DragEndEvent) => {
    if (over) edits.move(placeOf(active.id), placeOf(over.id))
  }
  return (
    <DndContext id={`steps-${props.of.key}`} sensors={sensors} onDragEnd={dropped}>
      <SortableContext items={steps.map(({ row }) => row)} strategy={verticalListSortingStrategy}>
        <div ref={grid} className={css['grid']} data-bare={steps.every(({ data }) => data === '') || undefined}>
          {steps.length > 0 && (
            <div className={css['columns']} aria-hidden="true">
              <span />
              <span>Action</span>
              <span>Expected</span>
              <span>Data</span>
              <span />
            </div>
          )}
          {steps.map((step, at) => (
            <StepRow
              key={step.row}
              step={step}
              at={at}
              chosen={of.choice.chosen.includes(at)}
              onChoose={(range) => of.choice.toggle(at, range)}
              onRemove={() => edits.remove(at)}
              onEvidence={() => edits.put(at, withEvidence(step))}
              note={props.note?.(step, at)}
            >
              {step.use ? <Inserted {...of} step={step} at={at} /> : <Cells {...of} step={step} at={at} />}
            </StepRow>
          ))}
        </div>
      </SortableContext>
    </DndContext>
  )
}

/** A step that asks for evidence asks for none, and the other way round. */
const withEvidence = ({ evidence, ...step }: DraftStep): DraftStep => (evidence ? step : { ...step, evidence: true })

interface AtStep extends GridProps {
  readonly step: DraftStep
  readonly at: number
}

const Inserted = ({ props, edits, focus, step, at }: AtStep) => (
  <UseRow
    step={step}
    at={at}
    used={usedBy(step, props.of.used)}
    onChange={(next) => edits.put(at, next)}
    onWriteOut={() => edits.writeOut(at, props.of.used)}
    onMove={(by) => {
      edits.move(at, at + by)
      focus(at + by, 'action')
    }}
    onGo={(by) => focus(at + by, 'action')}
    onRemove={() => edits.remove(at)}
  />
)

function Cells({ edits, choice, onInsert, step, at }: AtStep) {
  const hear = (event: KeyboardEvent<HTMLElement>, field: StepField) => {
    const inserts = event.altKey && event.key.toLowerCase() === 'i'
    const chooses = event.ctrlKey && event.key === ' '
    if (!inserts && !chooses) return edits.hear(event, at, field)
    event.preventDefault()
    event.stopPropagation()
    if (inserts) onInsert(at + 1)
    else choice.toggle(at, event.shiftKey)
  }
  return stepFields.map((field) => (
    <Cell
      key={field}
      label={`Step ${at + 1}, ${field}`}
      mark={`${at}:${field}`}
      value={step[field]}
      onChange={(value) => edits.put(at, { ...step, [field]: value }, field)}
      onKeyDown={(event) => hear(event, field)}
      onPaste={(event) => edits.paste(event, at, field)}
    />
  ))
}

interface RowProps {
  readonly step: DraftStep
  readonly at: number
  readonly chosen: boolean
  readonly onChoose: (range: boolean) => void
  readonly onRemove: () => void
  readonly onEvidence: () => void
  readonly note: ReactNode
  readonly children: ReactNode
}

function StepRow({ step, at, chosen, onChoose, onRemove, onEvidence, note, children }: RowProps) {
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
      {!step.use && (
        <button
          type="button"
          className={css['asks']}
          aria-pressed={step.evidence ?? false}
          aria-label={`Step ${at + 1} asks for evidence`}
          onClick={onEvidence}
        >
          {step.evidence ? 'asks for evidence' : 'ask for evidence'}
        </button>
      )}
      {note}
    </div>
  )
}
