import { useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import {
  type Matrix,
  type MatrixCell,
  type matrixFinds,
  type MatrixRow,
  type PlanPrice,
  readMatrixSlots,
  readPrice,
} from '#core/plans/asks-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { go, scopeIn, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { AskDialog } from './AskDialog.tsx'
import { type AskOf, Costs, Pairs } from './Costs.tsx'
import { cellIn, cellKey, groupedBy } from './matrix-place.ts'
import { MatrixTable } from './Matrix.tsx'
import { Stands } from './Stands.tsx'
import { Outages } from './Outages.tsx'
import { FreeText, Head } from './PlanBits.tsx'
import type { PartProps } from './PlanSheet.tsx'
import { Ticks } from './Ticks.tsx'
import { useMatrix } from './useMatrix.ts'
import css from './Matrix.module.css'

/** Where is it tested? What is asked case by environment, with what stands there, and what each way of asking would cost. */
export function WherePart(props: PartProps) {
  const { of, may, edit } = props
  const { key } = useHere()
  const params = useParams('by', 'columns', 'release', 'iteration', 'build', 'environment', 'asOf')
  const by = params.get('by') === 'cases' ? 'cases' : 'requirements'
  const factor = params.get('columns')
  const [range, setRange] = useState({ from: 0, to: 40 })
  const [opening, setOpening] = useState(false)
  const [asking, setAsking] = useState<AskOf | null>(null)
  const scope = scopeIn(params)
  const { chosen, choose, none, find } = useChosen(of.key, scope)
  const { first, error, rowAt } = useMatrix({ key, ref: of.key, scope, by, ...range })
  const price = useAnswer(readPrice, { params: { key, ref: of.key }, query: {} }, { keep: true }).data
  const run = () =>
    chosen.size > 0 ? setOpening(true) : notify('Choose cells first: Space, or a word of the sentence.')
  useKeys([{ id: 'run-chosen', keys: 'x', label: 'run the chosen', run }])
  return (
    <>
      <Head title="Where?">{first && <Asked of={first} onFind={(what) => void find(what)} />}</Head>
      {price && isNothingAllowed(of, price) && (
        <p role="note">
          <b>None of its environments is allowed any more</b>, so any environment answers. Choose others, or change what
          is not allowed in the set-up.
        </p>
      )}
      <div className={css['where']}>
        <div>
          {first && <Acts of={first} by={by} factor={factor} chosen={chosen.size} onRun={run} onNone={none} />}
          {error && !first && <p role="alert">{sentenceOf(error)}</p>}
          {first?.total === 0 && <p className="quiet">Its suites hold no case yet; choose suites under “What?”.</p>}
          {first && first.total > 0 && (
            <MatrixTable
              columns={first.columns}
              order={groupedBy(first.columns, factor)}
              total={first.total}
              rowAt={rowAt}
              chosen={chosen}
              onChoose={choose}
              onOpen={(row, cell) => open(key, row, cell)}
              onAsk={(row) => setAsking(askOf(row))}
              onRange={(from, to) => setRange({ from, to })}
            />
          )}
        </div>
        <aside className={css['aside']} aria-label="What it costs, and what is in the way">
          <Environments of={of} may={may} edit={edit} />
          {price && <Costs of={of} price={price} may={may} onAsk={setAsking} />}
          <Stands of={of} />
          <Outages named={of.environmentList.map(({ id }) => id)} />
          {price && <Pairs price={price} />}
        </aside>
      </div>
      <FreeText {...props} part="where" placeholder="Installations, accounts and data that are needed" />
      {asking && <AskDialog plan={of} about={asking} may={may} edit={edit} onClose={() => setAsking(null)} />}
      {opening && <Opening of={of} chosen={chosen} onClose={() => setOpening(false)} />}
    </>
  )
}

const isNothingAllowed = ({ environmentList }: PlanSheet, { notAllowed }: PlanPrice): boolean =>
  environmentList.length > 0 && environmentList.every(({ id }) => notAllowed.some((each) => each.id === id))

/** Cells that are chosen, one by one or by what is wrong with them. */
function useChosen(ref: string, scope: ReturnType<typeof scopeIn>) {
  const { key } = useHere()
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const choose = (keys: readonly string[], on: boolean) => {
    const next = new Set(chosen)
    for (const each of keys) {
      if (on) next.add(each)
      else next.delete(each)
    }
    setChosen(next)
  }
  const find = async (what: (typeof matrixFinds)[number]) => {
    try {
      const { slots, total } = await call(readMatrixSlots, { params: { key, ref }, query: { ...scope, find: what } })
      setChosen(new Set(slots.map((slot) => cellKey(slot.case, slot.environment))))
      if (slots.length < total) notify(`The first ${slots.length} of ${total} are chosen; a run has no more.`)
    } catch (problem) {
      notify(sentenceOf(problem), { tone: 'problem' })
    }
  }
  return { chosen, choose, find, none: () => setChosen(new Set()) }
}

const askOf = (row: MatrixRow): AskOf | null =>
  row.id === 0
    ? null
    : { about: row.kind === 'case' ? 'case' : 'requirement', id: row.id, key: row.key, title: row.title }

/** Opens the attempt that stands in a cell, or what the row is about. */
function open(key: string, row: MatrixRow, cell: MatrixCell | null): void {
  if (row.key === '') return
  location.assign(cell?.item ? `/p/${key}/desk/${cell.item}` : `/p/${key}/${row.key}`)
}

const Opening = ({ of, chosen, onClose }: { of: PlanSheet; chosen: ReadonlySet<string>; onClose: () => void }) => (
  <NewRun
    plan={{ id: of.id, title: of.title, releaseId: of.releaseId, environments: [] }}
    slots={[...chosen].map(cellIn)}
    onClose={onClose}
  />
)

function Asked({ of, onFind }: { of: Matrix; onFind: (what: (typeof matrixFinds)[number]) => void }) {
  const { slots, empty, stale, failing } = of.figures
  const words = [
    ['empty', empty],
    ['stale', stale],
    ['failing', failing],
  ] as const
  return (
    <>
      It asks for <b>{counted(slots, 'slot')}</b>:{' '}
      {words.map(([what, n], at) => (
        <span key={what}>
          {at > 0 && ', '}
          {n === 0 ? (
            `none ${what}`
          ) : (
            <Button look="word" onClick={() => onFind(what)}>
              {n} {what}
              <span className="hidden">, choose them</span>
            </Button>
          )}
        </span>
      ))}
      ; one pass takes <b>{minutesText(of.figures.minutes)}</b>.
    </>
  )
}

function Acts({
  of,
  by,
  factor,
  chosen,
  onRun,
  onNone,
}: {
  of: Matrix
  by: 'requirements' | 'cases'
  factor: string | null
  chosen: number
  onRun: () => void
  onNone: () => void
}) {
  const factors = [...new Set(of.columns.flatMap(({ values }) => Object.keys(values)))]
  return (
    <p className={css['acts']}>
      <span>
        Rows:{' '}
        <Choice
          label="Rows"
          value={by}
          options={[
            { value: 'requirements', label: 'requirements with their cases' },
            { value: 'cases', label: 'cases' },
          ]}
          onChoose={(value) => go({ params: { by: value === 'cases' ? value : null } })}
        />
      </span>
      {factors.length > 0 && (
        <span>
          columns:{' '}
          <Choice
            label="Columns"
            value={factor ?? ''}
            options={[
              { value: '', label: 'in their order' },
              ...factors.map((each) => ({ value: each, label: `by ${each}` })),
            ]}
            onChoose={(value) => go({ params: { columns: value === '' ? null : value } })}
          />
        </span>
      )}
      <span data-end>
        {chosen > 0 && (
          <Button look="word" onClick={onNone}>
            choose none
          </Button>
        )}{' '}
        <Button look="main" disabled={chosen === 0} onClick={onRun}>
          {chosen === 0 ? 'Run the chosen' : `Run the ${chosen} chosen`}
        </Button>
      </span>
    </p>
  )
}

function Environments({ of, may, edit }: Pick<PartProps, 'of' | 'may' | 'edit'>) {
  const { project } = useHere()
  const all = project.environments.filter(({ isAny }) => !isAny)
  const names = of.environmentList.map(({ name }) => name)
  return (
    <section>
      <h3>Environments</h3>
      <p>
        {names.length === 0 ? 'Any environment answers.' : `${counted(names.length, 'environment')} of ${all.length}. `}
        {may && (
          <Pop title="Environments" label="choose them">
            <Ticks
              legend="Environments"
              all={all}
              ticked={of.environmentList.map(({ id }) => id)}
              onTick={(environments) => void edit({ environments })}
            />
          </Pop>
        )}
      </p>
    </section>
  )
}
