import { type DragEvent, useState } from 'react'
import { listCases } from '#core/cases/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { addItems, dropItems } from '#core/runs/compose-contract.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { listMembers, listSuites } from '#core/plans/suite-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { Ticks } from '#ui/plans/Ticks.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './RunSheet.module.css'

const carried = 'application/x-rovant-cases-of-run'
const close = () => go({ params: { add: null } })

/** Puts cases into a run in each of some environments, told with the way back. */
export function useAdding(ref: string) {
  const { key } = useHere()
  const adding = useWrite(addItems)
  const dropping = useWrite(dropItems)
  const params = { key, ref }
  return async (cases: readonly number[], environments: readonly number[]) => {
    if (environments.length === 0) return notify('Tick an environment first; each case becomes an item in it.')
    const items = cases.flatMap((own) => environments.map((environment) => ({ case: own, environment })))
    if (items.length === 0) return notify('There is no case in it.')
    const done = await adding.attempt({ params, body: { items } })
    if (!done) return
    const there = done.there > 0 ? ` ${counted(done.there, 'was', 'were')} in it by now.` : ''
    notify(`${counted(done.added, 'item')} put in, behind what is there.${there}`, {
      ...(done.added > 0 && { undo: () => void dropping.attempt({ params, body: { ids: done.undo } }) }),
    })
  }
}

/** What a list takes that cases are dropped on: the case and the environments it carries. */
export const droppedCases = (onAdd: (cases: readonly number[], environments: readonly number[]) => void) => ({
  onDragOver: (event: DragEvent) => {
    if (event.dataTransfer.types.includes(carried)) event.preventDefault()
  },
  onDrop: (event: DragEvent) => {
    const text = event.dataTransfer.getData(carried)
    if (text === '') return
    event.preventDefault()
    const [cases = '', environments = ''] = text.split(';')
    const numbers = (part: string) => part.split(',').filter(Boolean).map(Number)
    onAdd(numbers(cases), numbers(environments))
  },
})

const shown = 40

/** Cases beside the list of a run: searched, dragged into it or put in by a click, or a whole suite at once. */
export function AddCases({ of }: { of: RunSheet }) {
  const { key, project } = useHere()
  const [words, setWords] = useState('')
  const [ticked, setTicked] = useState<number[]>(() =>
    project.environments
      .filter(({ isAny }) => !isAny)
      .slice(0, 1)
      .map(({ id }) => id),
  )
  const add = useAdding(of.key)
  const text = words.trim()
  const { data } = useAnswer(listCases, {
    params: { key },
    query: { limit: shown, ...(text !== '' && { text }) },
  })
  useKeys([{ id: 'close-add', keys: 'Escape', label: 'close', quiet: true, run: close }])
  return (
    <aside className={css['side']} data-asked aria-label="Cases to add">
      <div className={css['teamHead']}>
        <h2>Cases to add</h2>
        <Button look="word" onClick={close}>
          close
        </Button>
      </div>
      <Ticks
        legend="Each becomes an item in"
        all={project.environments.filter(({ isAny }) => !isAny)}
        ticked={ticked}
        onTick={setTicked}
      />
      <WholeSuite onAdd={(cases) => void add(cases, ticked)} />
      <TextInput
        autoFocus
        aria-label="Search cases by key or words"
        placeholder="Search by key or words"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <ul className={css['after']}>
        {data?.rows.map((row) => (
          <li
            key={row.id}
            className={css['carry']}
            draggable
            onDragStart={(event) => event.dataTransfer.setData(carried, `${row.id};${ticked.join(',')}`)}
          >
            <button type="button" aria-label={`Put ${row.key} in`} onClick={() => void add([row.id], ticked)}>
              +
            </button>{' '}
            <span className="key quiet">{row.key}</span> <span>{row.title}</span>
          </li>
        ))}
        {data && data.rows.length === 0 && <li className="quiet">No case has these words.</li>}
        {data && data.total > data.rows.length && (
          <li className="quiet">and {data.total - data.rows.length} more; type to narrow</li>
        )}
      </ul>
    </aside>
  )
}

/** Ids of all cases that are in a suite now. */
async function membersOf(key: string, ref: string): Promise<number[]> {
  const ids: number[] = []
  for (let cursor: number | null = 0; cursor !== null;) {
    const page: { rows: { id: number }[]; next: number | null } = await call(listMembers, {
      params: { key, ref },
      query: { limit: 500, cursor },
    })
    ids.push(...page.rows.map(({ id }) => id))
    cursor = page.next
  }
  return ids
}

function WholeSuite({ onAdd }: { onAdd: (cases: readonly number[]) => void }) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 200 } })
  if (!data || data.rows.length === 0) return null
  const put = async (ref: string) => {
    try {
      onAdd(await membersOf(key, ref))
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  return (
    <p>
      <SetTo
        label="A whole suite"
        options={data.rows.map((suite) => ({ value: suite.key, label: `${suite.key} ${suite.title}` }))}
        onSet={(ref) => void put(ref)}
      />
    </p>
  )
}
