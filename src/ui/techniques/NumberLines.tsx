import { useRef } from 'react'
import type { BoundaryInput } from '#core/techniques/models.ts'
import css from './Drafting.module.css'
import {
  type Edge,
  edgesOf,
  type Extent,
  extentOf,
  isSaid,
  moved,
  placeOf,
  shareOf,
  stepOf,
  stepsOfKey,
  valueAt,
} from './number-line.ts'

type Inputs = Readonly<Record<string, BoundaryInput>>

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

interface LineProps {
  readonly name: string
  readonly input: BoundaryInput
  readonly disabled: boolean
  readonly onChange: (partitions: BoundaryInput['partitions']) => void
}

function NumberLine({ name, input, disabled, onChange }: LineProps) {
  const box = useRef<HTMLDivElement>(null)
  const edges = edgesOf(input)
  if (edges.length === 0) return null
  const extent = extentOf(input, edges)
  const move = (edge: Edge, to: number) => {
    const partitions = moved(input, edge, to)
    if (partitions) onChange(partitions)
  }
  const drag = (edge: Edge, clientX: number) => {
    const frame = box.current?.getBoundingClientRect()
    if (!frame) return
    const at = extent.first + ((clientX - frame.left) / frame.width) * (extent.last - extent.first)
    move(edge, at - (edge.end === 'to' ? stepOf(input) : 0))
  }
  return (
    <div className={css['axis']}>
      <p>
        <b>{name}</b> <span className="quiet">{input.unit ? `in ${input.unit}` : input.type}</span>
      </p>
      <div ref={box} className={css['track']}>
        {input.partitions.map((_, at) => (
          <Band key={at} input={input} at={at} extent={extent} />
        ))}
        {edges.map((edge) => (
          <Handle
            key={`${edge.partition}-${edge.end}`}
            {...{ name, input, disabled, edge, extent }}
            said={isSaid(input, edges, edge)}
            onMove={(to) => move(edge, to)}
            onDrag={(clientX) => drag(edge, clientX)}
          />
        ))}
      </div>
    </div>
  )
}

/** A partition that is thinner than this share of the line could not be seen. */
const thinnest = 0.6

function Band({ input, at, extent }: { input: BoundaryInput; at: number; extent: Extent }) {
  const { name, valid, from, to } = input.partitions[at]!
  const left = shareOf(extent, placeOf(input, from) ?? extent.first)
  const end = (placeOf(input, to) ?? extent.last) + (to === undefined ? 0 : stepOf(input))
  const width = Math.max(shareOf(extent, end) - left, thinnest)
  return (
    <span className={css['band']} data-valid={valid} style={{ left: `${left}%`, width: `${width}%` }} title={name}>
      <span>{name}</span>
    </span>
  )
}

interface HandleProps extends Omit<LineProps, 'onChange'> {
  readonly edge: Edge
  readonly extent: Extent
  readonly said: boolean
  readonly onMove: (to: number) => void
  readonly onDrag: (clientX: number) => void
}

function Handle({ name, input, disabled, edge, extent, said, onMove, onDrag }: HandleProps) {
  const { end, at, partition } = edge
  const text = String(valueAt(input, at))
  return (
    <span
      className={css['edge']}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={`${end === 'from' ? 'Beginning' : 'End'} of ${input.partitions[partition]!.name} of ${name}`}
      aria-valuenow={at}
      aria-valuetext={text}
      aria-valuemin={extent.first}
      aria-valuemax={extent.last}
      aria-disabled={disabled}
      data-end={end}
      style={{ left: `${shareOf(extent, at + (end === 'to' ? stepOf(input) : 0))}%` }}
      onKeyDown={(event) => {
        const steps = stepsOfKey(event)
        if (disabled || steps === 0) return
        event.preventDefault()
        onMove(at + steps * stepOf(input))
      }}
      onPointerDown={(event) => {
        event.preventDefault()
        event.currentTarget.focus()
        event.currentTarget.setPointerCapture(event.pointerId)
      }}
      onPointerMove={(event) => {
        if (!disabled && event.buttons === 1) onDrag(event.clientX)
      }}
    >
      {said && <i>{text}</i>}
    </span>
  )
}
