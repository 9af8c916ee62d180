import { numberIn } from '#core/lib/key.ts'
import { type DragEvent, useState } from 'react'
import { type BoardAnswer, readBoard } from '#core/reports/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere, useTo } from '#ui/shell/here.ts'
import { useLinking } from '#ui/shell/links.ts'
import css from './Board.module.css'
import { litBy, type Lit } from './lit.ts'

const gapNames = ['no case', 'no result', 'suspect', 'failing with no defect', 'defect with no case'] as const

type Gap = (typeof gapNames)[number]

interface Row {
  readonly id: string
  readonly ref: string
  readonly title: string
  readonly gap: readonly string[]
  readonly verdict?: string
  readonly word?: string | null
  readonly stale?: boolean
  readonly of?: string
  readonly note?: string
}

interface LaneOf {
  readonly title: string
  readonly rows: readonly Row[]
  /** Its rows lead to a sheet. */
  readonly opens: boolean
  /** Its rows are dragged on one another to be linked. */
  readonly links: boolean
}

/** The four lanes, each with its rows; ids bear the lane's letter, so that they differ between lanes. */
function lanesOf({ requirements, cases, results, defects }: BoardAnswer): LaneOf[] {
  const keys = new Map(cases.map(({ id, key }) => [id, key]))
  const row = (letter: string, { id, key, title, gap }: BoardAnswer['cases'][number]): Row => ({
    id: `${letter}${id}`,
    ref: key,
    title,
    gap,
  })
  const own = { opens: true, links: true }
  return [
    { title: 'Requirements', rows: requirements.map((each) => row('r', each)), ...own },
    { title: 'Cases', rows: cases.map((each) => row('c', each)), ...own },
    {
      title: 'Standing results',
      rows: results.map(({ id, environment, gap, verdict, word, stale, case: of }) => ({
        id: `s${id}`,
        ref: '',
        title: environment,
        gap,
        verdict,
        word,
        stale,
        of: keys.get(of) ?? '',
      })),
      opens: false,
      links: false,
    },
    {
      title: 'Open defects',
      rows: defects.map((each) => ({ ...row('d', each), note: each.state })),
      opens: true,
      links: false,
    },
  ]
}

/** A case dropped on a requirement, or the other way round, is a link. */
function useDropping() {
  const link = useLinking()
  return async (dragged: string, to: string) => {
    const [requirement, own] = (['requirement', 'case'] as const).map((kind) =>
      [dragged, to].find((ref) => numberIn(kind, ref) > 0),
    )
    if (requirement !== undefined && own !== undefined) await link({ requirements: [requirement], cases: [own] })
  }
}

/** Four lanes; choosing in one lights the linked rows in the others and sinks the rest; gaps are lit on demand. */
export function Board() {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(readBoard, { params: { key }, query: scopeIn(params) }, { keep: true })
  const [chosen, setChosen] = useState<string | null>(null)
  const [gap, setGap] = useState<Gap | null>(null)
  const link = useDropping()
  const light = (next: Gap | null) => {
    setChosen(null)
    setGap(next)
  }
  useKeys([{ id: 'board-clear', keys: 'Escape', label: 'light all', run: () => light(null) }])
  if (!data) return <p className={css['wait']}>Laying out the lanes…</p>
  const lit = litBy(data, chosen, gap)
  return (
    <div className={css['board']}>
      <p className={css['gaps']}>
        Light the gaps:{' '}
        {gapNames.map((name) => (
          <Button key={name} look="word" aria-pressed={gap === name} onClick={() => light(gap === name ? null : name)}>
            {name} {countGap(data, name)}
          </Button>
        ))}
        {data.cut && <span className="quiet">the first 400 requirements are shown</span>}
      </p>
      <div className={css['lanes']}>
        {lanesOf(data).map((lane) => (
          <Lane key={lane.title} of={lane} lit={lit} chosen={chosen} onChoose={setChosen} onLink={link} />
        ))}
      </div>
    </div>
  )
}

const countGap = (data: BoardAnswer, name: string): number =>
  [...data.requirements, ...data.cases, ...data.results, ...data.defects].filter((row) => row.gap.includes(name)).length

const refsType = 'application/x-rovant-refs'
/** So many rows of a lane are drawn. */
const mostRows = 300

interface LaneProps {
  readonly of: LaneOf
  readonly lit: Lit
  readonly chosen: string | null
  readonly onChoose: (id: string | null) => void
  readonly onLink: (dragged: string, to: string) => Promise<void>
}

function Lane(props: LaneProps) {
  const { of, lit } = props
  const bright = of.rows.filter(({ id }) => lit.has(id))
  const shown = lit.all ? of.rows : [...bright, ...of.rows.filter(({ id }) => !lit.has(id))]
  return (
    <section className={css['lane']} aria-label={of.title}>
      <h2>
        {of.title} <span className="quiet">{lit.all ? of.rows.length : `${bright.length} of ${of.rows.length}`}</span>
      </h2>
      <ul>
        {shown.slice(0, mostRows).map((row) => (
          <LaneRow key={row.id} {...props} row={row} />
        ))}
        {shown.length > mostRows && <li className="quiet">and {shown.length - mostRows} more</li>}
      </ul>
    </section>
  )
}

/** What makes a row one that others are dropped on. */
const dragging = (row: Row, onLink: LaneProps['onLink']) => ({
  draggable: true,
  onDragStart: (event: DragEvent) => event.dataTransfer.setData(refsType, row.ref),
  onDragOver: (event: DragEvent) => {
    if (event.dataTransfer.types.includes(refsType)) event.preventDefault()
  },
  onDrop: (event: DragEvent) => {
    event.preventDefault()
    void onLink(event.dataTransfer.getData(refsType), row.ref)
  },
})

function LaneRow({ of, lit, chosen, onChoose, onLink, row }: LaneProps & { row: Row }) {
  const to = useTo()
  const own = chosen === row.id
  return (
    <li
      {...(of.links && dragging(row, onLink))}
      data-sunk={!lit.has(row.id) || undefined}
      data-chosen={own || undefined}
    >
      <button type="button" aria-pressed={own} onClick={() => onChoose(own ? null : row.id)}>
        {row.verdict && <SaidMark verdict={row.verdict} word={row.word ?? null} stale={row.stale ?? false} size={13} />}
        {row.ref && <span className="key quiet">{row.ref}</span>}
        {row.of && <span className="key quiet">{row.of}</span>}
        <span className={css['text']}>{row.title}</span>
        {row.gap.length > 0 && <span className={css['gap']}>{row.gap.join(', ')}</span>}
        {row.note && <span className="quiet">{row.note}</span>}
      </button>
      {of.opens && own && (
        <a href={to(row.ref)} aria-label={`Open ${row.ref}`}>
          open
        </a>
      )}
    </li>
  )
}
