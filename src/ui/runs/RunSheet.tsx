import { useState } from 'react'
import { itemFields } from '#core/finding/fields.ts'
import { counted, minutesText, percent, percentText } from '#core/lib/figures.ts'
import {
  assignItems,
  dealItems,
  type ItemRow,
  listItems,
  orderItems,
  readRun,
  type RunSheet,
  runStates,
  updateRun,
} from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { List } from '#ui/list/List.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { dayText, peopleOptions, shortName } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './RunSheet.module.css'

type ItemSet = { assigneeId?: string | null; estimate?: number | null; dueOn?: string | null }

export function RunSheetView({
  about,
  initial,
  onClose,
}: {
  about: string
  initial: RunSheet | undefined
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readRun, { params: { key, ref: about } }, { initial })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Sheet of={data} onClose={onClose} /> : null
}

function Sheet({ of, onClose }: { of: RunSheet; onClose: () => void }) {
  const { key, project, me } = useHere()
  const updating = useWrite(updateRun)
  const [focused, setFocused] = useState<readonly ItemRow[]>([])
  const items = useItems(of)
  const desk = (row: ItemRow) => location.assign(`/p/${key}/desk/${row.id}`)
  const nextMine = () => {
    const open = focused.filter(({ verdict }) => verdict === 'Not run' || verdict === 'In progress')
    const next = open.find(({ assigneeId }) => assigneeId === me.id) ?? open[0] ?? focused[0]
    if (next) desk(next)
  }
  useKeys([
    { id: 'deal', keys: 'g', label: 'deal evenly', run: () => void items.deal() },
    { id: 'desk', keys: 'x', label: 'execute', run: nextMine },
  ])
  const set = (body: Parameters<typeof updating.attempt>[0]['body']) =>
    void updating.attempt({ params: { key, ref: of.key }, body, version: of.version })
  const testers = project.people.filter(({ role }) => role !== 'viewer')
  return (
    <div className={css['run']}>
      <section className={css['items']} aria-label="Items">
        <List
          name="items"
          label={`Items of ${of.key}`}
          heading={
            <h1>
              <button type="button" className={css['back']} onClick={onClose} aria-label="Back to all runs">
                ‹
              </button>{' '}
              {of.title} <span className="key quiet">{of.key}</span>
            </h1>
          }
          fields={itemFields}
          choices={{
            assignee: testers.map(({ name }) => name),
            environment: project.environments.map(({ name }) => name),
            component: project.components,
          }}
          order={orderItems}
          rows={listItems}
          params={{ key, ref: of.key }}
          asOrder={(answer) => answer}
          pick={(answer) => answer.rows}
          openId={null}
          onOpen={desk}
          onRows={setFocused}
          columns={[
            { name: 'verdict', label: 'Result', width: 44, cell: (row) => <Mark verdict={row.verdict} /> },
            {
              name: 'title',
              label: 'Case',
              width: 0,
              cell: (row) => (
                <>
                  <span className="key quiet">{row.case}</span>&ensp;{row.title}
                </>
              ),
            },
            { name: 'environment', label: 'Environment', width: 120, cell: (row) => row.environment },
            {
              name: 'assignee',
              label: 'Assigned to',
              width: 94,
              cell: (row) => (row.assignee ? shortName(row.assignee) : <span className="quiet">nobody</span>),
              edit: {
                kind: 'choice',
                options: peopleOptions(project),
                value: (row) => row.assigneeId ?? '',
                store: (row, value) => void items.set([row.id], { assigneeId: value || null }),
              },
            },
            {
              name: 'estimate',
              label: 'Min',
              width: 36,
              align: 'end',
              cell: (row) => row.minutes,
              edit: {
                kind: 'number',
                value: (row) => String(row.minutes),
                store: (row, value) =>
                  void items.set([row.id], { estimate: /^[1-9]\d*$/.test(value) ? Number(value) : null }),
              },
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
            {
              name: 'defects',
              label: 'Defects',
              width: 62,
              sortable: false,
              cell: (row) => <span className="key">{row.defects.join(' ')}</span>,
            },
          ]}
          sentence={(n, all) => (
            <>
              <Choice
                label="State"
                value={of.state}
                options={runStates}
                onChoose={(state) => set({ state: runStates.find((each) => each === state) ?? of.state })}
              />{' '}
              {dayText(of.startOn)} – {dayText(of.endOn)} on <span className="key">{of.build}</span>;{' '}
              {n === all ? counted(all, 'item') : `${n} of ${counted(all, 'item')}`}, {minutesText(of.minutes)} of work
            </>
          )}
          actions={
            <span style={{ display: 'flex', gap: 8 }}>
              <Button
                onClick={() => void items.deal()}
                disabled={of.unassigned === 0}
                title={of.unassigned === 0 ? 'Everything has somebody' : undefined}
              >
                Deal {of.unassigned} evenly
              </Button>
              <Button look="main" onClick={nextMine} disabled={of.state !== 'Open'}>
                Execute
              </Button>
            </span>
          }
          bulk={(ids, clear) => (
            <>
              <Choice
                label="Assign to"
                value="x"
                options={[{ value: 'x', label: 'assign to' }, ...peopleOptions(project)]}
                onChoose={(value) => void items.set(ids, { assigneeId: value || null })}
              />
              <Choice
                label="Estimate"
                value="x"
                options={[
                  { value: 'x', label: 'estimate' },
                  ...['5', '10', '15', '20', '30', '45', '60'].map((value) => ({ value, label: `${value} min` })),
                ]}
                onChoose={(value) => void items.set(ids, { estimate: Number(value) })}
              />
              <label>
                due{' '}
                <input
                  type="date"
                  aria-label="Due day"
                  onChange={(event) => {
                    if (event.target.value) void items.set(ids, { dueOn: event.target.value })
                  }}
                />
              </label>
              <Button
                look="word"
                onClick={() => {
                  void items.deal(ids)
                  clear()
                }}
              >
                deal these evenly
              </Button>
            </>
          )}
          empty="No item fits this filter."
        />
      </section>
      <aside className={css['side']} aria-label="The run">
        <h2>So far</h2>
        <ResultBar verdicts={of.verdicts} stale={{}} slots={of.items} width="100%" />
        <p>
          {percentText(percent(of.done, of.items))} done, {of.done} of {of.items}
          {of.outcome && of.done > 0 && (
            <>
              ; as a whole <Mark verdict={of.outcome} /> {of.outcome}
            </>
          )}
        </p>
        <ul className={css['tally']}>
          {(['Passed', 'Failed', 'Blocked', 'Inconclusive', 'Skipped', 'Not run'] as const).map((verdict) => (
            <li key={verdict}>
              <Mark verdict={verdict} label={false} /> {verdict} <b>{of.verdicts[verdict] ?? 0}</b>
            </li>
          ))}
        </ul>
        <div className={css['teamHead']}>
          <h2>Team</h2>
          <Pop title="Testers" label="choose testers">
            {testers.map(({ id, name }) => {
              const on = of.team.some((each) => each.id === id)
              return (
                <p key={id}>
                  <label>
                    <input
                      type="checkbox"
                      checked={on}
                      onChange={() =>
                        set({
                          people: on
                            ? of.team.filter((each) => each.id !== id).map((each) => each.id)
                            : [...of.team.map((each) => each.id), id],
                        })
                      }
                    />{' '}
                    {name}
                  </label>
                </p>
              )
            })}
          </Pop>
        </div>
        <table className={css['team']}>
          <thead>
            <tr>
              <th>Tester</th>
              <th>Items</th>
              <th>Left</th>
            </tr>
          </thead>
          <tbody>
            {of.team.map((person) => (
              <tr key={person.id}>
                <td>{person.name}</td>
                <td>{person.items}</td>
                <td>{minutesText(person.left)}</td>
              </tr>
            ))}
            {of.unassigned > 0 && (
              <tr>
                <td className="quiet">nobody</td>
                <td>{of.unassigned}</td>
                <td />
              </tr>
            )}
          </tbody>
        </table>
        {of.plan && (
          <p>
            From plan <a href={`/p/${key}/${of.plan}`}>{of.planTitle}</a>
          </p>
        )}
        <p>
          New attempts start on{' '}
          <Choice
            label="Build of the run"
            value={String(of.buildId)}
            options={project.builds
              .filter(({ release }) => release === of.releaseId)
              .map(({ id, name }) => ({ value: String(id), label: name }))}
            onChoose={(build) => set({ build: Number(build) })}
          />
        </p>
        <History about={of.key} />
      </aside>
    </div>
  )
}

function useItems(of: RunSheet) {
  const { key } = useHere()
  const assigning = useWrite(assignItems)
  const dealing = useWrite(dealItems)
  const params = { key, ref: of.key }
  const undo = (before: readonly { id: number; set: Record<string, unknown> }[]) => () => {
    for (const each of before) void assigning.attempt({ params, body: { ids: [each.id], set: each.set } })
  }
  const set = async (ids: readonly number[], to: ItemSet) => {
    const done = await assigning.attempt({ params, body: { ids: [...ids], set: to } })
    if (done && done.changed > 0) notify(`${counted(done.changed, 'item')} changed.`, { undo: undo(done.undo) })
  }
  const deal = async (ids?: readonly number[]) => {
    const done = await dealing.attempt({ params, body: ids ? { ids: [...ids] } : {} })
    if (done)
      notify(
        done.dealt === 0 ? 'There was nothing to deal.' : `${counted(done.dealt, 'item')} dealt evenly by minutes.`,
        done.dealt > 0 ? { undo: undo(done.undo) } : {},
      )
  }
  return { set, deal }
}
