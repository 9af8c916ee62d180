import { useState } from 'react'
import { itemAsks } from '#core/finding/asks.ts'
import { itemFields } from '#core/finding/fields.ts'
import { minutesText } from '#core/lib/figures.ts'
import { isFinal } from '#core/lib/verdict.ts'
import type { Served } from '#core/lib/question.ts'
import { listItems, orderItems, readRun, type RunSheet, updateRun } from '#core/runs/contract.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import { runStates } from '#core/runs/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { List } from '#ui/list/List.tsx'
import { AskWords, Sentence } from '#ui/list/Sentence.tsx'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Lost } from '#ui/shell/Lost.tsx'
import { ManyItems, useItemColumns, useItems } from './items.tsx'
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
  const items = useItems(of.key)
  const columns = useItemColumns(items.set)
  const desk = (row: ItemRow) => location.assign(`/p/${key}/desk/${row.id}`)
  const nextMine = () => {
    const open = rows.filter(({ verdict }) => !isFinal(verdict))
    const next = open.find(({ assigneeId }) => assigneeId === me.id) ?? open[0] ?? rows[0]
    if (next) desk(next)
  }
  useKeys([
    { id: 'deal', keys: 'g', label: 'deal evenly', run: () => void items.deal() },
    { id: 'desk', keys: 'x', label: 'execute', run: nextMine },
  ])
  return (
    <div className={css['run']}>
      <section className={css['items']} aria-label="Items">
        <List
          name="items"
          label={`Items of ${of.key}`}
          title={<Title of={of} onClose={onClose} />}
          fields={itemFields}
          choices={{
            assignee: project.people.filter(({ role, ended }) => role !== 'viewer' && !ended).map(({ name }) => name),
            environment: project.environments.map(({ name }) => name),
            component: project.components,
          }}
          source={{ order: orderItems, rows: listItems, params: { key, ref: of.key } }}
          openId={null}
          onOpen={desk}
          onRows={setRows}
          columns={columns}
          sentence={(shown, all) => (
            <Sentence
              shown={shown}
              all={all}
              lead={<About of={of} onState={(state) => void edit({ state })} />}
              asks={itemAsks}
            />
          )}
          actions={<Acts of={of} onDeal={() => void items.deal()} onExecute={nextMine} />}
          many={(ids, clear) => <ManyItems ids={ids} clear={clear} items={items} />}
          noneFits={
            <>
              No item fits this filter. <AskWords words="Take the filter away" filter={null} />
            </>
          }
          empty="No item yet: the plan of this run has no case."
        />
      </section>
      <RunSide of={of} onEdit={(body) => void edit(body)} />
    </div>
  )
}

const Acts = ({ of, onDeal, onExecute }: { of: RunSheet; onDeal: () => void; onExecute: () => void }) => (
  <span className={css['acts']}>
    <Button
      onClick={onDeal}
      disabled={of.unassigned === 0}
      title={of.unassigned === 0 ? 'Everything has somebody' : undefined}
    >
      Deal {of.unassigned} evenly
    </Button>
    <Button look="main" onClick={onExecute} disabled={of.state !== 'Open'}>
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
