import { partOf } from '#core/lib/record.ts'
import { TreemapChart } from 'echarts/charts'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef, useState } from 'react'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import { shareText } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { freshnessWords } from '#ui/requirements/freshness-words.ts'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
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

/** The outline as a treemap: area by risk, colour by state, hatched as it goes stale; a table twin says the same. */
export function RiskField({ of }: { of: CoverageAnswer }) {
  const { key } = useHere()
  const { params } = useAddress()
  const place = useRef<HTMLDivElement>(null)
  const [asTable, setAsTable] = useState(false)
  const [root, setRoot] = useState<number | null>(null)
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
      if (of.nodes.some(({ parent }) => parent === node.id)) setRoot(node.id)
      else location.assign(`/p/${key}/${node.key}${scopeSearch(params)}`)
    })
    const fit = new ResizeObserver(() => chart.resize())
    fit.observe(box)
    return () => {
      fit.disconnect()
      chart.dispose()
    }
  }, [of, root, asTable])
  const shown = of.nodes.find(({ id }) => id === root)
  return (
    <>
      <div className={css['legend']}>
        {root !== null && (
          <Button look="word" onClick={() => setRoot(shown?.parent ?? null)}>
            ‹ {shown?.title}
          </Button>
        )}
        {pointed !== '' ? (
          <b className={css['pointed']}>{pointed}</b>
        ) : (
          <>
            <span>area is risk; colour is state:</span>
            {(['Passed', 'Failed', 'Blocked', 'In progress', 'Not run'] as const).map((state) => (
              <span key={state}>
                <Mark verdict={state} size={12} label={false} /> {state}
              </span>
            ))}
            <span>hatched is stale, empty is uncovered</span>
          </>
        )}
        <Button look="word" onClick={() => setAsTable(!asTable)}>
          {asTable ? 'as a field' : 'as a table'}
        </Button>
      </div>
      {asTable ? (
        <CoverageTable of={of} risky />
      ) : (
        <div
          ref={place}
          className={css['field']}
          role="img"
          aria-label={`Risk field of ${of.total.figures.leaves} requirements; the table says the same`}
        />
      )}
    </>
  )
}

function optionOf(of: CoverageAnswer, root: number | null, style: CSSStyleDeclaration) {
  const token = (name: string) => style.getPropertyValue(name).trim()
  const below = (parent: number | null): Node[] => of.nodes.filter((node) => node.parent === parent)
  const data = (node: Node): object => {
    const children = below(node.id)
    if (children.length > 0) return { id: node.id, name: node.title, children: children.map(data) }
    const answered = Math.max(1, node.figures.slots - (node.figures.verdicts['Not run'] ?? 0))
    const stale = Object.values(node.figures.stale).reduce((sum, n) => sum + n, 0) / answered
    const uncovered = node.state === 'uncovered'
    return {
      id: node.id,
      name: node.title,
      value: node.risk,
      tip: tipOf(node),
      itemStyle: uncovered
        ? { color: token('--surface'), borderColor: token('--danger'), borderWidth: 2 }
        : {
            color:
              stale > 0.34
                ? hatched(token(tokenOf[node.state] ?? '--ink-2'), stale > 0.67 ? 7 : 14)
                : token(tokenOf[node.state] ?? '--ink-2'),
          },
      label: { color: uncovered ? token('--ink') : token('--mark-ink') },
    }
  }
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
        data: below(root).map(data),
        label: {
          fontFamily: token('--text'),
          fontSize: 12.5,
          lineHeight: 15,
          overflow: 'break',
          padding: [5, 6],
          position: 'insideTopLeft',
        },
        upperLabel: {
          show: true,
          height: 22,
          color: token('--ink'),
          fontFamily: token('--display'),
          fontWeight: 650,
          fontSize: 13,
        },
        itemStyle: { borderColor: token('--ground'), gapWidth: 2, borderWidth: 0 },
        levels: [
          { upperLabel: { show: false }, itemStyle: { gapWidth: 4, borderColor: token('--ground') } },
          { itemStyle: { borderColor: token('--ground'), gapWidth: 2, borderWidth: 2 } },
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
  `${node.key} ${node.title}: risk ${node.risk}${node.riskGiven ? '' : ' (assumed)'}, ${node.state}; passing ${shareText(node.figures.passing.plain.recorded)}, ${shareText(node.figures.passing.plain.current)} on current results; ${freshnessWords(node)}`
