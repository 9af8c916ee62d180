import { useState } from 'react'
import { changeCases } from '#core/cases/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { undoGroups } from '#core/lib/many.ts'
import { listMinutes, type MinutesRow, readSpent, type SpentBy, spentBy } from '#core/schedule/minutes-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Minutes.module.css'

export const MinutesPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <Minutes />
  </Shell>
)

/** What cases are given against what their attempts taught: far-off ones changed many at once, and where the time went. */
function Minutes() {
  const { key } = useHere()
  const params = useParams('show', 'by')
  const show = params.get('show') === 'all' ? 'all' : 'far'
  const [limit, setLimit] = useState(200)
  const { data } = useAnswer(listMinutes, { params: { key }, query: { show, limit } }, { keep: true })
  if (!data)
    return (
      <div className={css['empty']}>
        <h1>Minutes</h1>
        <p>Reading what attempts took…</p>
      </div>
    )
  return (
    <div className={css['page']}>
      <section className={css['main']} aria-label="Given and learned minutes">
        <h1>Minutes</h1>
        <p className={css['lead']}>
          <Button look="word" aria-current={show === 'far' || undefined} onClick={() => go({ params: { show: null } })}>
            {counted(data.far, 'case')} given far too much or too little
          </Button>
          , of{' '}
          <Button
            look="word"
            aria-current={show === 'all' || undefined}
            onClick={() => go({ params: { show: 'all' } })}
          >
            all that attempts taught something of
          </Button>
          .{' '}
          {data.model ? (
            <Model of={data.model} />
          ) : (
            'Too little was executed yet to tell anything of cases nobody has tried.'
          )}
        </p>
        {data.rows.length === 0 ? (
          <p className={css['empty']}>
            {show === 'far'
              ? 'Nothing given is far off what attempts take.'
              : 'No case was executed three times with its time measured or typed.'}
          </p>
        ) : (
          <Rows key={show} of={data.rows} />
        )}
        {data.next !== null && limit < 500 && (
          <p className={css['lead']}>
            <Button onClick={() => setLimit(500)}>Show more</Button>
          </p>
        )}
      </section>
      <Spent by={params.get('by')} />
    </div>
  )
}

const Model = ({ of }: { of: { base: number; steps: number; rows: number; spread: number; n: number } }) => (
  <span className="quiet">
    What nobody has tried yet takes {of.base.toFixed(1)} min × (1 + steps)<sup>{of.steps.toFixed(2)}</sup> × rows
    <sup>{of.rows.toFixed(2)}</sup>, more or less by environment: learned from {of.n} cases in environments, half of
    which lie within {Math.round(100 * (Math.exp(0.6745 * of.spread) - 1))} % of it.
  </span>
)

const rounded = (learned: number): number => Math.max(1, Math.round(learned))

/** Gives cases the minutes they were learned to take; each group of equal minutes is one act, and all are taken back together. */
function useTaking() {
  const { key } = useHere()
  const { attempt, busy } = useWrite(changeCases)
  const give = async (sets: readonly { id: number; set: { estimate: number | null } }[]) => {
    const undo: { id: number; set: { estimate: number | null } }[] = []
    for (const { ids, set } of undoGroups(sets)) {
      const done = await attempt({ params: { key }, body: { ids, set } })
      if (!done) break
      undo.push(...done.undo.map(({ id, set: before }) => ({ id, set: { estimate: before.estimate ?? null } })))
    }
    return undo
  }
  const take = async (rows: readonly MinutesRow[]) => {
    const undo = await give(rows.map(({ id, learned }) => ({ id, set: { estimate: rounded(learned) } })))
    if (undo.length > 0)
      notify(`${counted(undo.length, 'case')} given what attempts took.`, { undo: () => void give(undo) })
  }
  return { take, busy }
}

function Rows({ of }: { of: readonly MinutesRow[] }) {
  const { project } = useHere()
  const may = project.role !== 'viewer'
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const { take, busy } = useTaking()
  const chosen = of.filter(({ id }) => ticked.has(id))
  const toggle = (id: number) => {
    const next = new Set(ticked)
    if (!next.delete(id)) next.add(id)
    setTicked(next)
  }
  const takeChosen = () => void take(chosen).then(() => setTicked(new Set()))
  useKeys([
    ...(may && chosen.length > 0
      ? [{ id: 'take-learned', keys: 'Ctrl+Enter', label: 'take what was learned', run: takeChosen }]
      : []),
  ])
  const all = chosen.length === of.length
  return (
    <>
      {may && (
        <p className={css['acts']}>
          <Button
            look={chosen.length > 0 ? 'main' : 'plain'}
            onClick={takeChosen}
            disabled={chosen.length === 0 || busy}
          >
            Take what was learned{chosen.length > 0 && ` for ${chosen.length}`}
          </Button>
        </p>
      )}
      <Table
        of={of}
        may={may}
        ticked={ticked}
        onTick={toggle}
        onAll={() => setTicked(all ? new Set() : new Set(of.map(({ id }) => id)))}
        all={all}
      />
    </>
  )
}

interface TableOf {
  readonly of: readonly MinutesRow[]
  readonly may: boolean
  readonly ticked: ReadonlySet<number>
  readonly all: boolean
  readonly onTick: (id: number) => void
  readonly onAll: () => void
}

const Table = ({ of, may, ticked, all, onTick, onAll }: TableOf) => (
  <div className={css['scroll']} tabIndex={0} role="region" aria-label="Cases">
    <table>
      <thead>
        <tr>
          {may && (
            <th scope="col">
              <input type="checkbox" aria-label="Tick all shown" checked={all} onChange={onAll} />
            </th>
          )}
          <th scope="col">Case</th>
          <th scope="col" className={css['n']}>
            Given
          </th>
          <th scope="col" className={css['n']}>
            Learned
          </th>
          <th scope="col">Half of them took</th>
          <th scope="col" className={css['n']}>
            Attempts
          </th>
        </tr>
      </thead>
      <tbody>
        {of.map((row) => (
          <Row key={row.id} of={row} may={may} ticked={ticked.has(row.id)} onTick={() => onTick(row.id)} />
        ))}
      </tbody>
    </table>
  </div>
)

function Row({ of, may, ticked, onTick }: { of: MinutesRow; may: boolean; ticked: boolean; onTick: () => void }) {
  const { key } = useHere()
  return (
    <tr data-far={of.far || undefined}>
      {may && (
        <td>
          <input type="checkbox" aria-label={`Tick ${of.key}`} checked={ticked} onChange={onTick} />
        </td>
      )}
      <th scope="row">
        <a href={`/p/${key}/${of.key}`}>
          <span className="key quiet">{of.key}</span> {of.title}
        </a>
      </th>
      <td className={css['n']}>{of.given === null ? '–' : `${of.given} min`}</td>
      <td className={css['n']}>{rounded(of.learned)} min</td>
      <td className="quiet">
        {of.low.toFixed(0)} to {of.high.toFixed(0)} min
      </td>
      <td className={css['n']}>{of.n}</td>
    </tr>
  )
}

const byWords: Readonly<Record<SpentBy, string>> = {
  environment: 'environment',
  suite: 'suite',
  component: 'component',
  me: 'case, mine alone',
}

/** Planned against spent over the last 90 days; of single people only one's own, since nobody is ranked. */
function Spent({ by: asked }: { by: string | null }) {
  const { key } = useHere()
  const by = spentBy.find((each) => each === asked) ?? 'environment'
  const { data } = useAnswer(readSpent, { params: { key }, query: { by } }, { keep: true })
  const most = Math.max(1, ...(data?.rows ?? []).flatMap(({ planned, spent }) => [planned, spent]))
  return (
    <aside className={css['spent']} aria-label="Planned against spent">
      <h2>Planned against spent</h2>
      <p className="quiet">
        The last 90 days by{' '}
        <Choice
          label="Spent by"
          value={by}
          options={spentBy.map((value) => ({ value, label: byWords[value] }))}
          onChoose={(value) => go({ params: { by: value === 'environment' ? null : value } })}
        />
        : what attempts were planned to take by today’s minutes, and what they took.
      </p>
      {data?.rows.length === 0 && <p>Nothing was executed with its time measured or typed.</p>}
      <table>
        <tbody>
          {data?.rows.map(({ name, attempts, planned, spent }) => (
            <tr key={name}>
              <th scope="row">
                {name}
                <small>{counted(attempts, 'attempt')}</small>
              </th>
              <td>
                <i className={css['planned']} style={{ inlineSize: `${(100 * planned) / most}%` }} />
                <i style={{ inlineSize: `${(100 * spent) / most}%` }} />
              </td>
              <td className={css['n']}>
                {minutesText(planned)}
                <br />
                <b>{minutesText(spent)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet">Above what was planned, below what was spent.</p>
    </aside>
  )
}
