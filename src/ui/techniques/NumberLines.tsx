import { type KeyboardEvent, useRef } from 'react'
import type { BoundaryInput } from '#core/techniques/models.ts'
import css from './Drafting.module.css'

type Inputs = Readonly<Record<string, BoundaryInput>>
const day = 86_400_000

/** Partitions of each ordered input as bands on a line; an edge is dragged, or moved with the arrows. */
export function NumberLines({
  inputs,
  disabled,
  onChange,
}: {
  inputs: Inputs
  disabled: boolean
  onChange: (inputs: Record<string, BoundaryInput>) => void
}) {
  const shown = Object.entries(inputs).filter(([, { type, partitions }]) => type !== 'set' && partitions.length > 0)
  return (
    <>
      {shown.map(([name, input]) => (
        <NumberLine
          key={name}
          name={name}
          input={input}
          disabled={disabled}
          onChange={(partitions) => onChange({ ...inputs, [name]: { ...input, partitions } })}
        />
      ))}
    </>
  )
}

const stepOf = ({ type, step }: BoundaryInput): number => (type === 'date' ? day : 1) * (step ?? 1)
const place = (input: BoundaryInput, value: string | number | undefined): number | null => {
  if (value === undefined) return null
  const number = input.type === 'date' ? Date.parse(`${value}T00:00:00Z`) : Number(value)
  return Number.isFinite(number) ? number : null
}
const valueAt = (input: BoundaryInput, at: number): string | number => {
  if (input.type === 'date') return new Date(Math.round(at / day) * day).toISOString().slice(0, 10)
  const step = input.step ?? 1
  return Number((Math.round(at / step) * step).toFixed(String(step).split('.')[1]?.length ?? 0))
}

interface Edge {
  readonly partition: number
  readonly end: 'from' | 'to'
  readonly at: number
}

function NumberLine({
  name,
  input,
  disabled,
  onChange,
}: {
  name: string
  input: BoundaryInput
  disabled: boolean
  onChange: (partitions: BoundaryInput['partitions']) => void
}) {
  const box = useRef<HTMLDivElement>(null)
  const edges = input.partitions.flatMap((each, partition) =>
    (['from', 'to'] as const).flatMap((end): Edge[] => {
      const at = place(input, each[end])
      return at === null ? [] : [{ partition, end, at }]
    }),
  )
  if (edges.length === 0) return null
  const step = stepOf(input)
  const [low, high] = [Math.min(...edges.map(({ at }) => at)), Math.max(...edges.map(({ at }) => at))]
  const margin = Math.max((high - low) * 0.12, step * 3)
  const [first, last] = [input.type === 'length' ? Math.max(0, low - margin) : low - margin, high + margin]
  const share = (at: number): number => (100 * (at - first)) / (last - first)
  const move = ({ partition, end, at }: Edge, to: number) => {
    const value = place(input, valueAt(input, to)) ?? at
    if (value === at) return
    // The neighbour that begins where this one ends moves along, so that neither gap nor overlap comes of it.
    onChange(
      input.partitions.map((each, index) => {
        if (index === partition) return { ...each, [end]: valueAt(input, value) }
        const other = end === 'to' ? place(input, each.from) : place(input, each.to)
        if (other === null || Math.abs(other - at) > step * 1.0001 || other === at) return each
        return end === 'to'
          ? { ...each, from: valueAt(input, value + step) }
          : { ...each, to: valueAt(input, value - step) }
      }),
    )
  }
  const onKey = (event: KeyboardEvent, edge: Edge) => {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
    if (by === 0) return
    event.preventDefault()
    move(edge, edge.at + by * step * (event.shiftKey ? 10 : 1))
  }
  return (
    <div className={css['axis']}>
      <p>
        <b>{name}</b> <span className="quiet">{input.unit ? `in ${input.unit}` : input.type}</span>
      </p>
      <div ref={box} className={css['track']}>
        {input.partitions.map((each, at) => {
          const [from, to] = [place(input, each.from) ?? first, place(input, each.to) ?? last]
          const width = Math.max(share(to + (each.to === undefined ? 0 : step)) - share(from), 0.6)
          return (
            <span
              key={at}
              className={css['band']}
              data-valid={each.valid}
              style={{ left: `${share(from)}%`, width: `${width}%` }}
              title={each.name}
            >
              <span>{each.name}</span>
            </span>
          )
        })}
        {edges.map((edge) => (
          <span
            key={`${edge.partition}-${edge.end}`}
            className={css['edge']}
            role="slider"
            tabIndex={disabled ? -1 : 0}
            aria-label={`${edge.end === 'from' ? 'Beginning' : 'End'} of ${input.partitions[edge.partition]!.name} of ${name}`}
            aria-valuenow={edge.at}
            aria-valuetext={String(valueAt(input, edge.at))}
            aria-valuemin={first}
            aria-valuemax={last}
            aria-disabled={disabled}
            data-end={edge.end}
            style={{ left: `${share(edge.at + (edge.end === 'to' ? step : 0))}%` }}
            onKeyDown={(event) => !disabled && onKey(event, edge)}
            onPointerDown={(event) => {
              event.preventDefault()
              event.currentTarget.focus()
              event.currentTarget.setPointerCapture(event.pointerId)
            }}
            onPointerMove={(event) => {
              const frame = box.current?.getBoundingClientRect()
              if (disabled || !frame || event.buttons !== 1) return
              move(
                edge,
                first + ((event.clientX - frame.left) / frame.width) * (last - first) - (edge.end === 'to' ? step : 0),
              )
            }}
          >
            {!(
              edge.end === 'from' &&
              edges.some((other) => other.end === 'to' && Math.abs(edge.at - other.at - step) < step * 0.001)
            ) && <i>{String(valueAt(input, edge.at))}</i>}
          </span>
        ))}
      </div>
    </div>
  )
}
