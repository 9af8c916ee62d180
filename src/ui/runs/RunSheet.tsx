import { type ComponentProps, useState } from 'react'
import { itemAsks } from '#core/finding/asks.ts'
import { itemFields } from '#core/finding/fields.ts'
import { minutesText } from '#core/lib/figures.ts'
import type { Project } from '#core/projects/contract.ts'
import { isFinal } from '#core/lib/verdict.ts'
import type { Served } from '#core/lib/question.ts'
import { listItems, orderItems, readRun, type RunSheet, updateRun } from '#core/runs/contract.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import { hasEnded, runStates } from '#core/runs/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { type Carrying, List } from '#ui/list/List.tsx'
import { AskWords, Sentence } from '#ui/list/Sentence.tsx'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Lost } from '#ui/shell/Lost.tsx'
import { ManyItems, useItemColumns, useItems } from './items.tsx'
import { EndRun } from './EndRun.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { AddCases, droppedCases, useAdding } from './AddCases.tsx'
import { ItemBeside } from './ItemBeside.tsx'
import { RunSide } from './RunSide.tsx'
import css from './RunSheet.module.css'

export function RunSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<RunSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readRun, { params: { key, ref: about } }, { served })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Sheet of={data} onClose={onClose} /> : null
}

function Sheet({ of, onClose }: { of: RunSheet; onClose: () => void }) {
  const { key, project, me } = useHere()
  const edit = useEdit(updateRun, { key, ref: of.key }, of)
  const [rows, setRows] = useState<readonly ItemRow[]>([])
  const open = Number(useParams('item').get('item')) || null
  const [ending, setEnding] = useState<'Closed' | 'Aborted' | null>(null)
  const items = useItems(of.key)
  const add = useAdding(of.key)
  const columns = useItemColumns(items.set)
  const desk = (row: ItemRow) => location.assign(`/p/${key}/desk/${row.id}`)
  const nextMine = () => {
    const open = rows.filter(({ verdict, spoiled }) => !isFinal(verdict) || spoiled !== null)
    const next = open.find(({ assigneeId }) => assigneeId === me.id) ?? open[0] ?? rows[0]
    if (next) desk(next)
  }
  // Who ends a run says why, and what becomes of what is left open.
  const toState = (state: RunSheet['state']) => (hasEnded(state) ? setEnding(state) : void edit({ state }))
  const acts = {
    deal: () => void items.deal(project.dealing === 'knowing' ? 'knowing' : 'evenly'),
    execute: nextMine,
    again: () => location.assign(`/p/${key}/runs/again?runs=${of.key}`),
    line: () => location.assign(`/p/${key}/runs/line?run=${of.key}`),
  }
  useRunKeys(of, acts, open !== null)
  return (
    <div className={css['run']}>
      <section className={css['items']} aria-label="Items" {...droppedCases((...of) => void add(...of))}>
        <List
          name="items"
          label={`Items of ${of.key}`}
          title={<Title of={of} onClose={onClose} />}
          fields={itemFields}
          choices={choicesOf(project)}
          source={{ order: orderItems, rows: listItems, params: { key, ref: of.key } }}
          openId={open}
          onOpen={(row, full) => (full ? desk(row) : go({ params: { item: String(row.id) } }))}
          onRows={setRows}
          columns={columns}
          sentence={(shown, all) => (
            <Sentence shown={shown} all={all} lead={<About of={of} onState={toState} />} asks={itemAsks} />
          )}
          actions={<Acts of={of} project={project} {...acts} />}
          carrying={carryingOf(items.place)}
          many={(ids, clear) => <ManyItems of={of} ids={ids} clear={clear} items={items} />}
          noneFits={
            <>
              No item fits this filter. <AskWords words="Take the filter away" filter={null} />
            </>
          }
          empty="No item yet: the plan of this run has no case."
        />
      </section>
      <Beside item={open} of={of} onEdit={edit} onClose={onClose} items={items} />
      {ending && <EndRun of={of} to={ending} onEdit={edit} onClose={() => setEnding(null)} />}
    </div>
  )
}

/** What can be done with a run by keys; an item that is open has its own for what is said of it alone. */
function useRunKeys(of: RunSheet, acts: Omit<ActsOf, 'of' | 'project'>, isItemOpen: boolean): void {
  const { project } = useHere()
  useKeys([
    { id: 'deal', keys: 'g', label: 'deal evenly', run: acts.deal },
    ...(!isItemOpen ? [{ id: 'desk', keys: 'x', label: 'execute', run: acts.execute }] : []),
    { id: 'again', keys: 'a', label: 'what again', run: acts.again },
    ...(hasEnded(of.state) ? [] : [{ id: 'cut-line', keys: 'w', label: 'cut line', run: acts.line }]),
    ...(project.role === 'lead' && !hasEnded(of.state)
      ? [{ id: 'add-cases', keys: 'n', label: 'add cases', run: () => go({ params: { add: 'yes', item: null } }) }]
      : []),
  ])
}

/** The item that is open, cases that can be put in, else the run. */
function Beside({ item, ...run }: { item: number | null } & ComponentProps<typeof RunSide>) {
  const adding = useParams('add').get('add') === 'yes'
  if (item !== null) return <ItemBeside key={item} id={item} />
  return adding ? <AddCases of={run.of} /> : <RunSide {...run} />
}

const itemsType = 'application/x-rovant-items'
/** Dragged rows go before the one they are dropped on. */
const carryingOf = (place: ReturnType<typeof useItems>['place']): Carrying<ItemRow> => ({
  drag: (dragged) => ({ [itemsType]: dragged.map(({ id }) => id).join(',') }),
  drop: { type: itemsType, on: (dropped, row) => void place(dropped.split(',').map(Number), { before: row.id }) },
})

const choicesOf = ({ people, environments, components, builds, verdictKinds }: Project) => ({
  assignee: people.filter(({ role, ended }) => role !== 'viewer' && !ended).map(({ name }) => name),
  executedBy: people.map(({ name }) => name),
  executedOn: builds.map(({ name }) => name),
  environment: environments.map(({ name }) => name),
  component: components,
  word: verdictKinds.map(({ word }) => word),
})

interface ActsOf {
  readonly of: RunSheet
  readonly project: Project
  readonly deal: () => void
  readonly execute: () => void
  /** Goes to what of it is to be executed again. */
  readonly again: () => void
  /** Goes to what of it fits into the time there is. */
  readonly line: () => void
}

const Acts = ({ of, project, deal, execute, again, line }: ActsOf) => (
  <span className={css['acts']}>
    <Button onClick={again}>What again?</Button>
    {!hasEnded(of.state) && <Button onClick={line}>Cut line</Button>}
    <Button
      onClick={deal}
      disabled={of.unassigned === 0}
      title={of.unassigned === 0 ? 'Everything has somebody' : undefined}
    >
      Deal {of.unassigned} {project.dealing === 'knowing' ? 'to who knows' : 'evenly'}
    </Button>
    <Button look="main" onClick={execute} disabled={of.state !== 'Open'}>
      Execute
    </Button>
  </span>
)

const Title = ({ of, onClose }: { of: RunSheet; onClose: () => void }) => (
  <h1>
    <button type="button" className={css['back']} onClick={onClose} aria-label="Back to all runs">
      ‹
    </button>{' '}
    {of.title} <span className="key quiet">{of.key}</span>
  </h1>
)

/** The state of the run, when and on which build, and its work. */
const About = ({ of, onState }: { of: RunSheet; onState: (state: RunSheet['state']) => void }) => (
  <>
    {' '}
    {of.items === 1 ? 'item' : 'items'}, {minutesText(of.minutes)} of work;{' '}
    <Choice label="State" value={of.state} options={runStates} onChoose={onState} /> {dayText(of.startOn)} –{' '}
    {dayText(of.endOn)} on <span className="key">{of.build}</span>
  </>
)
