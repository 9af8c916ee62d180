import { type RefObject, useEffect, useRef, useState } from 'react'
import type { BoundaryInput } from '#core/techniques/models.ts'
import css from './Drafting.module.css'
import {
  type Edge,
  edgesOf,
  type Extent,
  extentOf,
  isSaid,
  moved,
  type Place,
  placeOf,
  placesOf,
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
  const shown = Object.entries(inputs).filter(([, input]) => input.type !== 'set' && edgesOf(input).length > 0)
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

/** Until a line is drawn and can be measured. */
const usualWidth = 480

function useWidth(box: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(usualWidth)
  useEffect(() => {
    if (!box.current) return
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width))
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [])
  return width
}

function NumberLine({ name, input, disabled, onChange }: LineProps) {
  const box = useRef<HTMLDivElement>(null)
  const width = useWidth(box)
  const edges = edgesOf(input)
  const extent = extentOf(input, edges)
  const said = edges.filter((edge) => isSaid(input, edges, edge))
  const places = placesOf(
    said.map((edge) => ({
      end: edge.end,
      at: (placeOnLine(input, extent, edge) * width) / 100,
      text: String(valueAt(input, edge.at)),
    })),
    width,
  )
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
      <div ref={box} className={css['track']} style={{ blockSize: trackHeight(places) }}>
        {input.partitions.map((_, at) => (
          <Band key={at} input={input} at={at} extent={extent} />
        ))}
        {edges.map((edge) => (
          <Handle
            key={`${edge.partition}-${edge.end}`}
            {...{ name, input, disabled, edge, extent }}
            place={places[said.indexOf(edge)] ?? { level: null, side: edge.end === 'to' ? 'left' : 'right' }}
            onMove={(to) => move(edge, to)}
            onDrag={(clientX) => drag(edge, clientX)}
          />
        ))}
      </div>
    </div>
  )
}

/** The bands, and the values below them. */
const trackHeight = (places: readonly Place[]): number =>
  32 + 16 * Math.max(...places.map(({ level }) => (level ?? 0) + 1))

/** An end lies behind its last value. */
const placeOnLine = (input: BoundaryInput, extent: Extent, { end, at }: Edge): number =>
  shareOf(extent, at + (end === 'to' ? stepOf(input) : 0))

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
  /** A value without a level is told when its edge is reached. */
  readonly place: Place
  readonly onMove: (to: number) => void
  readonly onDrag: (clientX: number) => void
}

function Handle({ name, input, disabled, edge, extent, place: { level, side }, onMove, onDrag }: HandleProps) {
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
      data-side={side}
      style={{ left: `${placeOnLine(input, extent, edge)}%` }}
      data-level={level ?? 0}
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
      <i data-told={level === null || undefined}>{text}</i>
    </span>
  )
}
