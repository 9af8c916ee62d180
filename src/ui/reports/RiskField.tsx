import { partOf } from '#core/lib/record.ts'
import { TreemapChart } from 'echarts/charts'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import { shareText, wordsAfter } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { freshnessWords } from '#ui/requirements/freshness-words.ts'
import { useTo } from '#ui/shell/here.ts'
import { CoverageTable } from './CoverageTable.tsx'
import css from './Reports.module.css'

// Nothing but the treemap and its canvas: what is pointed at is told in words above the field, which also a table twin says.
echarts.use([TreemapChart, CanvasRenderer])

type Node = CoverageAnswer['nodes'][number]
const tokenOf: Readonly<Record<string, string>> = {
  Passed: '--verdict-passed',
  Failed: '--verdict-failed',
  Blocked: '--verdict-blocked',
  Inconclusive: '--verdict-inconclusive',
  'Not run': '--verdict-not-run',
  'In progress': '--verdict-in-progress',
  uncovered: '--line-strong',
}

/** The chart in its place; answers what is pointed at, in words. */
function useChart(of: CoverageAnswer, root: number | null, onBranch: (id: number) => void) {
  const to = useTo()
  const place = useRef<HTMLDivElement>(null)
  const [pointed, setPointed] = useState('')
  useEffect(() => {
    const box = place.current
    if (!box) return undefined
    const chart = echarts.init(box)
    chart.setOption(optionOf(of, root, getComputedStyle(document.documentElement)))
    chart.on('mouseover', ({ data }) => setPointed(String(partOf(data, 'tip') ?? '')))
    chart.on('mouseout', () => setPointed(''))
    chart.on('click', ({ data }) => {
      const node = of.nodes.find(({ id }) => id === partOf(data, 'id'))
      if (!node) return
      if (of.nodes.some(({ parent }) => parent === node.id)) onBranch(node.id)
      else location.assign(to(node.key))
    })
    const fit = new ResizeObserver(() => chart.resize())
    fit.observe(box)
    return () => {
      fit.disconnect()
      chart.dispose()
    }
  }, [of, root])
  return { place, pointed }
}

/** The outline as a treemap: area by risk, colour by state, hatched as it goes stale; a table twin says the same. */
export function RiskField({ of }: { of: CoverageAnswer }) {
  const [asTable, setAsTable] = useState(false)
  const [root, setRoot] = useState<number | null>(null)
  const shown = of.nodes.find(({ id }) => id === root)
  const tools = (words: ReactNode) => (
    <div className={css['legend']}>
      {root !== null && (
        <Button look="word" onClick={() => setRoot(shown?.parent ?? null)}>
          ‹ {shown?.title}
        </Button>
      )}
      {words}
      <Button look="word" onClick={() => setAsTable(!asTable)}>
        {asTable ? 'as a field' : 'as a table'}
      </Button>
    </div>
  )
  if (!asTable) return <Field of={of} root={root} onBranch={setRoot} tools={tools} />
  return (
    <>
      {tools(<Legend />)}
      <CoverageTable of={of} risky />
    </>
  )
}

const Legend = () => (
  <>
    <span>area is risk; colour is state:</span>
    {(['Passed', 'Failed', 'Blocked', 'In progress', 'Not run'] as const).map((state) => (
      <span key={state}>
        <Mark verdict={state} size={12} label={false} /> {state}
      </span>
    ))}
    <span>hatched is stale, empty is uncovered</span>
  </>
)

/** The field, with the legend above it, or in its place what is pointed at. */
function Field({
  of,
  root,
  onBranch,
  tools,
}: {
  of: CoverageAnswer
  root: number | null
  onBranch: (id: number) => void
  tools: (words: ReactNode) => ReactNode
}) {
  const { place, pointed } = useChart(of, root, onBranch)
  return (
    <>
      {tools(pointed === '' ? <Legend /> : <b className={css['pointed']}>{pointed}</b>)}
      <div
        ref={place}
        className={css['field']}
        role="img"
        aria-label={`Risk field of ${of.total.figures.leaves} requirements; the table says the same`}
      />
    </>
  )
}

type Token = (name: string) => string

/** From these shares of stale results on a requirement is hatched, and hatched closely. */
const staleFrom = 0.34
const veryStaleFrom = 0.67

/** What a requirement, or a branch with all below it, looks like in the field. */
function tileOf(node: Node, nodes: readonly Node[], token: Token): object {
  const children = nodes.filter(({ parent }) => parent === node.id)
  const named = { id: node.id, name: node.title }
  if (children.length > 0) return { ...named, children: children.map((child) => tileOf(child, nodes, token)) }
  const tile = { ...named, value: node.risk, tip: tipOf(node) }
  if (node.state === 'uncovered')
    return {
      ...tile,
      itemStyle: { color: token('--surface'), borderColor: token('--danger'), borderWidth: 2 },
      label: { color: token('--ink') },
    }
  const { slots, verdicts, stale } = node.figures
  const answered = Math.max(1, slots - (verdicts['Not run'] ?? 0))
  const share = Object.values(stale).reduce((sum, n) => sum + n, 0) / answered
  const colour = token(tokenOf[node.state] ?? '--ink-2')
  const shade = share > staleFrom ? hatched(colour, share > veryStaleFrom ? 7 : 14) : colour
  return { ...tile, itemStyle: { color: shade }, label: { color: token('--mark-ink') } }
}

function optionOf(of: CoverageAnswer, root: number | null, style: CSSStyleDeclaration) {
  const token: Token = (name) => style.getPropertyValue(name).trim()
  const edges = { borderColor: token('--ground'), gapWidth: 2 }
  const words = { fontFamily: token('--text'), fontSize: 12.5, lineHeight: 15 }
  const head = { color: token('--ink'), fontFamily: token('--display'), fontWeight: 650, fontSize: 13 }
  return {
    animation: false,
    series: [
      {
        type: 'treemap',
        roam: false,
        nodeClick: false,
        breadcrumb: { show: false },
        left: 0,
        right: 0,
        top: 0,
        bottom: 0,
        sort: 'desc',
        visibleMin: 1,
        data: of.nodes.filter(({ parent }) => parent === root).map((node) => tileOf(node, of.nodes, token)),
        label: { ...words, overflow: 'break', padding: [5, 6], position: 'insideTopLeft' },
        upperLabel: { show: true, height: 22, ...head },
        itemStyle: { ...edges, borderWidth: 0 },
        levels: [
          { upperLabel: { show: false }, itemStyle: { ...edges, gapWidth: 4 } },
          { itemStyle: { ...edges, borderWidth: 2 } },
        ],
      },
    ],
  }
}

/** A tile of diagonal lines over a colour, closer together the staler the results are. */
function hatched(colour: string, gap: number) {
  const tile = document.createElement('canvas')
  tile.width = tile.height = gap
  const pen = tile.getContext('2d')
  if (!pen) return colour
  pen.fillStyle = colour
  pen.fillRect(0, 0, gap, gap)
  pen.strokeStyle = 'rgba(255, 255, 255, 0.42)'
  pen.lineWidth = 1.3
  for (const shift of [-gap, 0, gap]) {
    pen.beginPath()
    pen.moveTo(shift - 1, gap + 1)
    pen.lineTo(shift + gap + 1, -1)
    pen.stroke()
  }
  return { image: tile, repeat: 'repeat' as const }
}

const tipOf = (node: Node): string =>
  `${node.key} ${node.title}: risk ${node.risk}${node.riskGiven ? '' : ' (assumed)'}, ${node.state}; passing ${shareText(node.figures.passing.plain.recorded)}, ${shareText(node.figures.passing.plain.current)} on current results; ${freshnessWords(node)}${wordsAfter(node.figures.words)}`
