import { LineChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import { percentText, percent } from '#core/lib/figures.ts'
import css from './Drafting.module.css'

echarts.use([LineChart, GridComponent, SVGRenderer])

/** What share of the tuples is held as the cases add up; the row that is looked at is marked. */
export function Curve({
  adds,
  total,
  unit,
  at,
}: {
  adds: readonly number[]
  total: number
  unit: string
  at: number | null
}) {
  const box = useRef<HTMLDivElement>(null)
  const sums = adds.reduce<number[]>((all, add) => [...all, (all.at(-1) ?? 0) + add], [])
  useEffect(() => {
    if (!box.current) return undefined
    const style = getComputedStyle(document.documentElement)
    const colour = (name: string) => style.getPropertyValue(name).trim()
    const chart = echarts.init(box.current, null, { renderer: 'svg' })
    const label = { color: colour('--ink-2'), fontSize: 12, fontFamily: colour('--text') }
    chart.setOption({
      animation: false,
      grid: { left: 46, right: 24, top: 12, bottom: 26 },
      xAxis: {
        type: 'value',
        min: 1,
        max: Math.max(2, sums.length),
        axisLabel: { ...label, formatter: (value: number) => (value === 1 ? '1 case' : String(value)) },
        axisLine: { lineStyle: { color: colour('--line') } },
        splitLine: { show: false },
        minInterval: 1,
      },
      yAxis: {
        type: 'value',
        min: 0,
        max: 100,
        interval: 25,
        axisLabel: { ...label, formatter: (value: number) => (value % 50 === 0 && value > 0 ? `${value} %` : '') },
        splitLine: { lineStyle: { color: colour('--line') } },
      },
      series: [
        {
          type: 'line',
          data: sums.map((sum, index) => [index + 1, (100 * sum) / total]),
          showSymbol: false,
          lineStyle: { color: colour('--action'), width: 2 },
          silent: true,
        },
        ...(at !== null && sums[at] !== undefined
          ? [
              {
                type: 'line' as const,
                data: [[at + 1, (100 * sums[at]) / total]],
                symbol: 'circle',
                symbolSize: 9,
                itemStyle: { color: colour('--action') },
                silent: true,
              },
            ]
          : []),
      ],
    })
    const fit = new ResizeObserver(() => chart.resize())
    fit.observe(box.current)
    return () => {
      fit.disconnect()
      chart.dispose()
    }
  }, [sums.join(), total, at])
  const here =
    at !== null && sums[at] !== undefined
      ? ` · row ${at + 1}: ${percentText(percent(sums[at] - (adds[at] ?? 0), total))} → ${percentText(percent(sums[at], total))}`
      : ''
  return (
    <figure className={css['curve']}>
      <figcaption className="quiet">
        {unit[0]!.toUpperCase() + unit.slice(1)} covered as the cases add up{here}
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
