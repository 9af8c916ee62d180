import { useMemo } from 'react'
import type { Project } from '#core/projects/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { dropItems } from '#core/runs/compose-contract.ts'
import { changeItems, dealItems, type ItemSet, type RunSheet } from '#core/runs/contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import type { DealingWay } from '#core/projects/dealing-ways.ts'
import type { PlaceWay } from '#core/runs/place.ts'
import { disagree, severalWords } from '#core/runs/several.ts'
import { waitState, waitWords } from '#core/runs/waits.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { type Column, oneOf, typed } from '#ui/list/columns.ts'
import { KeyTitle } from '#ui/list/KeyTitle.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useMany } from '#ui/shell/many.ts'
import { ago, peopleOptions, shortName } from '#ui/shell/people.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { AgainItems } from './AgainItems.tsx'
import { GiveVerdict } from './GiveVerdict.tsx'
import { Quarantine } from './Quarantine.tsx'
import { SendOut } from './RunFile.tsx'
import { mostBeside } from './useBeside.ts'
import { WaitFor } from './WaitFor.tsx'
import { usePlacing } from './usePlacing.ts'
import { withMinutes } from '#ui/shell/minutes.ts'

type DealWay = Exclude<DealingWay, 'nobody'>
export interface Items {
  readonly set: (ids: readonly number[], set: ItemSet) => Promise<void>
  /** Deals these, or all that nobody has, over the team by minutes. */
  readonly deal: (way: DealWay, ids?: readonly number[]) => Promise<void>
  /** Takes items out of the run; attempts at them stay in history. */
  readonly drop: (ids: readonly number[]) => Promise<void>
  /** Moves items in the order of the queue. */
  readonly place: ReturnType<typeof usePlacing>
}

/** What can be done with items of a run. */
export function useItems(ref: string): Items {
  const { key } = useHere()
  const params = { key, ref }
  const many = useMany(changeItems, { params, one: 'item', nothing: {} })
  const dealing = useWrite(dealItems)
  const dropping = useWrite(dropItems)
  const place = usePlacing(ref)
  const deal = async (way: DealWay, ids?: readonly number[]) => {
    const done = await dealing.attempt({ params, body: { way, ...(ids && { ids: [...ids] }) } })
    if (!done) return
    if (done.dealt === 0) notify('There was nothing to deal.')
    else
      many.tell(
        { changed: done.dealt, undo: done.undo },
        done.dealt,
        way === 'knowing'
          ? `${counted(done.dealt, 'item')} dealt, ${done.known} to somebody who knows them.`
          : undefined,
      )
  }
  const drop = async (ids: readonly number[]) => {
    const done = await dropping.attempt({ params, body: { ids: [...ids] } })
    if (!done) return
    const begun = done.begun > 0 ? `; attempts at ${counted(done.begun, 'of them', 'of them')} stay in history` : ''
    notify(`${counted(done.changed, 'item')} taken out${begun}.`, {
      undo: () => void dropping.attempt({ params, body: { ids: [...ids], undo: true } }),
    })
  }
  return { set: many.set, deal, drop, place }
}

/** The columns of items; made anew only for another project. */
export function useItemColumns(set: Items['set']): readonly Column<ItemRow>[] {
  const { project } = useHere()
  const latest = useLatest(set)
  return useMemo(() => itemColumns(project, (row, to) => void latest.current([row.id], to)), [project])
}

function WaitsIn({ row }: { row: ItemRow }) {
  const words = waitWords(row.waits, row.verdict)
  if (words === '') return null
  return <span className={waitState(row.waits, row.verdict) === 'freed' ? undefined : 'quiet'}> · {words}</span>
}

/** The case, and all that is to be known before one opens it. */
const CaseCell = ({ row }: { row: ItemRow }) => (
  <>
    <KeyTitle of={{ key: row.case, title: row.title }} />
    {row.stands && <span className="quiet"> · {row.stands} stands, by another attempt</span>}
    {row.outage !== null && <span className="quiet"> · {outageWords(row)}</span>}
    {row.quarantine !== null && <span className="quiet"> · in quarantine: {row.quarantine}</span>}
    {row.several && (
      <span className={disagree(row.several.said) ? undefined : 'quiet'}>
        {' '}
        · {severalWords(row.several, row.several.said)}
      </span>
    )}
    <WaitsIn row={row} />
    {row.moved && <span className="quiet"> · case changed since it was put in</span>}
    {row.word && <span className="quiet"> · {row.word}</span>}
    {row.spoiled && <span className="quiet"> · spoiled by {row.spoiled}</span>}
    {row.owed.length > 0 && <span className="quiet"> · asks for {row.owed.join(', ')}</span>}
    {row.reasons.length > 0 && <span className="quiet"> · {row.reasons.join(', ')}</span>}
  </>
)

/** What an outage of its environment means for an item. */
export const outageWords = ({ outage, attempt }: Pick<ItemRow, 'outage' | 'attempt'>): string =>
  attempt === null ? `held: ${outage}` : `made during an outage: ${outage}`

const executedColumn: Column<ItemRow> = {
  name: 'executed',
  label: 'Last executed',
  width: 150,
  usual: false,
  cell: (row) => (
    <span className="quiet">{row.at === null ? '' : `${ago(row.at)}${row.by ? ` by ${shortName(row.by)}` : ''}`}</span>
  ),
}

const itemColumns = (project: Project, store: (row: ItemRow, set: ItemSet) => void): Column<ItemRow>[] => [
  { name: 'verdict', label: 'Result', width: 44, cell: (row) => <SaidMark verdict={row.verdict} word={row.word} /> },
  {
    name: 'title',
    label: 'Case',
    width: 0,
    cell: (row) => <CaseCell row={row} />,
  },
  { name: 'environment', label: 'Environment', width: 120, cell: (row) => row.environment },
  {
    name: 'assignee',
    label: 'Assigned to',
    width: 94,
    cell: (row) => (row.assignee ? shortName(row.assignee) : <span className="quiet">nobody</span>),
    edit: oneOf(
      peopleOptions(project),
      (row) => row.assigneeId ?? '',
      (row, value) => store(row, { assigneeId: value || null }),
    ),
  },
  {
    name: 'estimate',
    label: 'Min',
    width: 36,
    align: 'end',
    cell: (row) => row.minutes,
    edit: typed(
      (row) => String(row.minutes),
      (row, value) => withMinutes(value, (estimate) => store(row, { estimate })),
    ),
  },
  { name: 'importance', label: 'Importance', width: 76, usual: false, cell: (row) => row.importance },
  {
    name: 'build',
    label: 'Build',
    width: 96,
    usual: false,
    sortable: false,
    cell: (row) => <span className="key">{row.build}</span>,
  },
  executedColumn,
  {
    name: 'defects',
    label: 'Defects',
    width: 62,
    sortable: false,
    cell: (row) => <span className="key">{row.defects.join(' ')}</span>,
  },
]

const minutes = ['5', '10', '15', '20', '30', '45', '60'].map((value) => ({ value, label: `${value} min` }))

const ways: readonly { readonly value: PlaceWay; readonly label: string }[] = [
  { value: 'first', label: 'to the front of the queue' },
  { value: 'up', label: 'one place up (Alt ↑)' },
  { value: 'down', label: 'one place down (Alt ↓)' },
  { value: 'last', label: 'to its end' },
]

/** The keyboard's twin of dragging. */
function MoveItems({ ids, place }: { ids: readonly number[]; place: Items['place'] }) {
  const move = (way: PlaceWay) => void place(ids, way)
  useKeys([
    { id: 'item-up', keys: 'Alt+ArrowUp', label: 'move up', quiet: true, run: () => move('up') },
    { id: 'item-down', keys: 'Alt+ArrowDown', label: 'move down', quiet: true, run: () => move('down') },
  ])
  return <SetTo label="Move" options={ways} onSet={move} />
}

/** Who judges an item: one, or so many of so many who have to pass it. */
const severalWays = ['1 of 1', '1 of 2', '2 of 2', '2 of 3', '3 of 3', '3 of 5'].map((value) => ({
  value,
  label: value === '1 of 1' ? 'one tester' : `passes with ${value} testers`,
}))
function severalIn(value: string): Pick<ItemSet, 'people' | 'passes'> {
  const [passes = 1, people = 1] = value.split(' of ').map(Number)
  return { people, passes }
}

const dealChoices: readonly { readonly value: DealWay; readonly label: string }[] = [
  { value: 'evenly', label: 'evenly by minutes' },
  { value: 'knowing', label: 'to those who know it' },
]

interface ManyProps {
  readonly of: RunSheet
  readonly ids: readonly number[]
  readonly clear: () => void
  readonly items: Items
}

/** What is said of ticked items, each asked for in a panel of its own. */
function SaidOfMany({ of, ids, clear }: Omit<ManyProps, 'items'>) {
  const { key } = useHere()
  return (
    <>
      {of.state === 'Open' && (
        <Pop label="give a verdict" title="One verdict for all of them">
          <GiveVerdict of={of.key} ids={ids} onGiven={clear} />
        </Pop>
      )}
      {!hasEnded(of.state) && (
        <Pop label="wait for" title="What they wait for">
          <WaitFor of={of.key} ids={ids} onDone={clear} />
        </Pop>
      )}
      {ids.length > 1 && ids.length <= mostBeside && of.state === 'Open' && (
        <a href={`/p/${key}/desk/beside?items=${ids.join(',')}`}>side by side</a>
      )}
      <AgainItems of={of} ids={ids} />
      {!hasEnded(of.state) && (
        <Pop label="send out" title="To be executed elsewhere">
          <SendOut of={of.key} ids={ids} />
        </Pop>
      )}
      <Pop label="quarantine" title="Executed and shown, and not counted">
        <Quarantine of={of.key} ids={ids} onDone={clear} />
      </Pop>
    </>
  )
}

/** What can be done with ticked items. */
export function ManyItems({ of, ids, clear, items }: ManyProps) {
  const { project } = useHere()
  const set = (to: ItemSet) => void items.set(ids, to)
  return (
    <>
      <SetTo label="Assign to" options={peopleOptions(project)} onSet={(value) => set({ assigneeId: value || null })} />
      <SetTo label="Estimate" options={minutes} onSet={(value) => set({ estimate: Number(value) })} />
      <SetTo label="Testers" options={severalWays} onSet={(value) => set(severalIn(value))} />
      <label>
        due{' '}
        <input
          type="date"
          aria-label="Due day"
          onChange={(event) => {
            if (event.target.value) set({ dueOn: event.target.value })
          }}
        />
      </label>
      <SetTo
        label="Deal"
        options={dealChoices}
        onSet={(way) => {
          void items.deal(way, ids)
          clear()
        }}
      />
      {!hasEnded(of.state) && <MoveItems ids={ids} place={items.place} />}
      <SaidOfMany of={of} ids={ids} clear={clear} />
      {!hasEnded(of.state) && (
        <Button
          look="word"
          onClick={() => {
            void items.drop(ids)
            clear()
          }}
        >
          take out
        </Button>
      )}
    </>
  )
}
