import { numberIn } from '#core/lib/key.ts'
import { useState } from 'react'
import { type BoardAnswer, readBoard } from '#core/reports/contract.ts'
import { createLinks } from '#core/cases/link-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Board.module.css'
import { litBy, type Lit } from './lit.ts'

const gapNames = ['no case', 'no result', 'suspect', 'failing with no defect', 'defect with no case'] as const

/** Four lanes; choosing in one lights the linked rows in the others and sinks the rest; gaps are lit on demand. */
export function Board() {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(readBoard, { params: { key }, query: scopeIn(params) }, { keep: true })
  const [chosen, setChosen] = useState<string | null>(null)
  const [gap, setGap] = useState<string | null>(null)
  const linking = useWrite(createLinks)
  /** A case dropped on a requirement, or the other way round, is a link. */
  const link = async (dragged: string, to: string) => {
    const pair = [dragged, to]
    const [requirement, own] = (['requirement', 'case'] as const).map((kind) =>
      pair.find((ref) => numberIn(kind, ref) > 0),
    )
    if (requirement === undefined || own === undefined) return
    const done = await linking.attempt({ params: { key }, body: { requirements: [requirement], cases: [own] } })
    if (done)
      notify(done.made === 0 ? `${requirement} and ${own} are linked already.` : `${own} is linked to ${requirement}.`)
  }
  useKeys([
    {
      id: 'board-clear',
      keys: 'Escape',
      label: 'light all',
      run: () => {
        setChosen(null)
        setGap(null)
      },
    },
  ])
  if (!data) return <p className={css['wait']}>Laying out the lanes…</p>
  const lit = litBy(data, chosen, gap)
  return (
    <div className={css['board']}>
      <p className={css['gaps']}>
        Light the gaps:{' '}
        {gapNames.map((name) => (
          <Button
            key={name}
            look="word"
            aria-pressed={gap === name}
            onClick={() => {
              setChosen(null)
              setGap(gap === name ? null : name)
            }}
          >
            {name} {countGap(data, name)}
          </Button>
        ))}
        {data.cut && <span className="quiet">the first 400 requirements are shown</span>}
      </p>
      <div className={css['lanes']}>
        <Lane
          title="Requirements"
          rows={data.requirements.map((row) => ({ id: `r${row.id}`, ref: row.key, title: row.title, gap: row.gap }))}
          lit={lit}
          chosen={chosen}
          onChoose={setChosen}
          onDropped={link}
          href={(ref) => `/p/${key}/${ref}${scopeSearch(params)}`}
        />
        <Lane
          title="Cases"
          rows={data.cases.map((row) => ({ id: `c${row.id}`, ref: row.key, title: row.title, gap: row.gap }))}
          lit={lit}
          chosen={chosen}
          onChoose={setChosen}
          onDropped={link}
          href={(ref) => `/p/${key}/${ref}${scopeSearch(params)}`}
        />
        <Lane
          title="Standing results"
          rows={data.results.map((row) => ({
            id: `s${row.id}`,
            ref: '',
            title: row.environment,
            gap: row.gap,
            verdict: row.verdict,
            stale: row.stale,
            of: data.cases.find(({ id }) => id === row.case)?.key ?? '',
          }))}
          lit={lit}
          chosen={chosen}
          onChoose={setChosen}
        />
        <Lane
          title="Open defects"
          rows={data.defects.map((row) => ({
            id: `d${row.id}`,
            ref: row.key,
            title: row.title,
            gap: row.gap,
            note: row.state,
          }))}
          lit={lit}
          chosen={chosen}
          onChoose={setChosen}
          href={(ref) => `/p/${key}/${ref}${scopeSearch(params)}`}
        />
      </div>
    </div>
  )
}

const countGap = (data: BoardAnswer, name: string): number =>
  [...data.requirements, ...data.cases, ...data.results, ...data.defects].filter((row) => row.gap.includes(name)).length

const refsType = 'application/x-rovant-refs'

interface Row {
  readonly id: string
  readonly ref: string
  readonly title: string
  readonly gap: readonly string[]
  readonly verdict?: string
  readonly stale?: boolean
  readonly of?: string
  readonly note?: string
}

function Lane({
  title,
  rows,
  lit,
  chosen,
  onChoose,
  onDropped,
  href,
}: {
  title: string
  rows: readonly Row[]
  lit: Lit
  chosen: string | null
  onChoose: (id: string | null) => void
  onDropped?: (dragged: string, to: string) => void
  href?: (ref: string) => string
}) {
  const bright = rows.filter(({ id }) => lit.has(id))
  const shown = lit.all ? rows : [...bright, ...rows.filter(({ id }) => !lit.has(id))]
  return (
    <section className={css['lane']} aria-label={title}>
      <h2>
        {title} <span className="quiet">{lit.all ? rows.length : `${bright.length} of ${rows.length}`}</span>
      </h2>
      <ul>
        {shown.slice(0, 300).map((row) => (
          <li
            key={row.id}
            draggable={onDropped !== undefined}
            onDragStart={(event) => event.dataTransfer.setData(refsType, row.ref)}
            onDragOver={(event) => {
              if (onDropped && event.dataTransfer.types.includes(refsType)) event.preventDefault()
            }}
            onDrop={(event) => {
              event.preventDefault()
              onDropped?.(event.dataTransfer.getData(refsType), row.ref)
            }}
            data-sunk={!lit.has(row.id) || undefined}
            data-chosen={chosen === row.id || undefined}
          >
            <button
              type="button"
              aria-pressed={chosen === row.id}
              onClick={() => onChoose(chosen === row.id ? null : row.id)}
            >
              {row.verdict && <Mark verdict={row.verdict} stale={row.stale ?? false} size={13} />}
              {row.ref && <span className="key quiet">{row.ref}</span>}
              {row.of && <span className="key quiet">{row.of}</span>}
              <span className={css['text']}>{row.title}</span>
              {row.gap.length > 0 && <span className={css['gap']}>{row.gap.join(', ')}</span>}
              {row.note && <span className="quiet">{row.note}</span>}
            </button>
            {href && row.ref && chosen === row.id && (
              <a href={href(row.ref)} aria-label={`Open ${row.ref}`}>
                open
              </a>
            )}
          </li>
        ))}
        {shown.length > 300 && <li className="quiet">and {shown.length - 300} more</li>}
      </ul>
    </section>
  )
}
