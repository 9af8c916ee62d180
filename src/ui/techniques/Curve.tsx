import { LineChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import { percentText, percent } from '#core/lib/figures.ts'
import css from './Drafting.module.css'

echarts.use([LineChart, GridComponent, SVGRenderer])

interface Props {
  /** How many tuples each case adds to those before it. */
  readonly adds: readonly number[]
  readonly total: number
  readonly unit: string
  /** The row that is looked at. */
  readonly at: number | null
}

/** What share of the tuples is held as the cases add up; the row that is looked at is marked. */
export function Curve({ adds, total, unit, at }: Props) {
  const box = useRef<HTMLDivElement>(null)
  const sums = sumsOf(adds)
  useEffect(() => {
    if (!box.current) return undefined
    const chart = echarts.init(box.current, null, { renderer: 'svg' })
    chart.setOption(optionOf(sums, total, at, getComputedStyle(document.documentElement)))
    const fit = new ResizeObserver(() => chart.resize())
    fit.observe(box.current)
    return () => {
      fit.disconnect()
      chart.dispose()
    }
  }, [sums.join(), total, at])
  return (
    <figure className={css['curve']}>
      <figcaption className="quiet">
        {unit[0]!.toUpperCase() + unit.slice(1)} covered as the cases add up{hereText(adds, sums, total, at)}
      </figcaption>
      <div
        ref={box}
        className={css['plot']}
        role="img"
        aria-label={`After ${sums.length} cases all ${total} ${unit} are covered`}
      />
    </figure>
  )
}

const sumsOf = (adds: readonly number[]): number[] => {
  let sum = 0
  return adds.map((add) => (sum += add))
}

function hereText(adds: readonly number[], sums: readonly number[], total: number, at: number | null): string {
  const sum = at === null ? undefined : sums[at]
  if (at === null || sum === undefined) return ''
  const share = (of: number) => percentText(percent(of, total))
  return ` · row ${at + 1}: ${share(sum - (adds[at] ?? 0))} → ${share(sum)}`
}

function optionOf(sums: readonly number[], total: number, at: number | null, style: CSSStyleDeclaration) {
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const label = { color: colour('--ink-2'), fontSize: 12, fontFamily: colour('--text') }
  const points = sums.map((sum, index) => [index + 1, (100 * sum) / total])
  const line = { type: 'line' as const, silent: true }
  const marked = at === null ? undefined : points[at]
  return {
    animation: false,
    grid: { left: 46, right: 24, top: 12, bottom: 26 },
    xAxis: {
      type: 'value' as const,
      min: 1,
      max: Math.max(2, sums.length),
      axisLabel: { ...label, formatter: (value: number) => (value === 1 ? '1 case' : String(value)) },
      axisLine: { lineStyle: { color: colour('--line') } },
      splitLine: { show: false },
      minInterval: 1,
    },
    yAxis: {
      type: 'value' as const,
      min: 0,
      max: 100,
      interval: 25,
      axisLabel: { ...label, formatter: (value: number) => (value % 50 === 0 && value > 0 ? `${value} %` : '') },
      splitLine: { lineStyle: { color: colour('--line') } },
    },
    series: [
      { ...line, data: points, showSymbol: false, lineStyle: { color: colour('--action'), width: 2 } },
      ...(marked
        ? [{ ...line, data: [marked], symbol: 'circle', symbolSize: 9, itemStyle: { color: colour('--action') } }]
        : []),
    ],
  }
}
