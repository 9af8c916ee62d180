import '@xyflow/react/dist/base.css'
import { Graph, layout } from '@dagrejs/dagre'
import {
  Background,
  BaseEdge,
  Controls,
  type Connection,
  type Edge,
  EdgeLabelRenderer,
  type EdgeProps,
  getSmoothStepPath,
  MarkerType,
  type Node,
  Position,
  ReactFlow,
  useNodesState,
} from '@xyflow/react'
import { useEffect, useMemo } from 'react'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import { transitionText } from '#core/techniques/paths.ts'
import css from './Drafting.module.css'

type Paths = Extract<DraftModel, { technique: 'paths' }>
interface Props {
  readonly model: Paths
  readonly lit: readonly string[]
  readonly disabled: boolean
  readonly onChange: (model: DraftModel) => void
}

const size = { width: 112, height: 34 }
const letter = 6.6

interface Spot {
  readonly x: number
  readonly y: number
}
/** The way the layout found for an arrow between its states, with room for its words; it holds while both stay where they were put. */
interface Way {
  readonly points: readonly Spot[]
  readonly words: Spot
  readonly from: Spot
  readonly to: Spot
}
type Arrow = Edge<{ readonly way: Way | null }>
interface Group {
  readonly indices: readonly number[]
  readonly label: string
}

const eventText = ({ event, guard }: Paths['body']['transitions'][number]): string =>
  `${event || 'go on'}${guard ? ` [${guard}]` : ''}`

/** Transitions between the same two states share one arrow. */
function arrowsOf({ transitions }: Paths['body']): ReadonlyMap<string, Group> {
  const groups = new Map<string, Group>()
  transitions.forEach((transition, at) => {
    const key = `${transition.from}\n${transition.to}`
    const before = groups.get(key)
    groups.set(key, {
      indices: [...(before?.indices ?? []), at],
      label: [...(before ? [before.label] : []), eventText(transition)].join(', '),
    })
  })
  return groups
}

/** States where the layout puts them, and the ways of the arrows. */
function placed(
  { initial, final, transitions }: Paths['body'],
  groups: ReadonlyMap<string, Group>,
): { readonly nodes: Node[]; readonly ways: ReadonlyMap<string, Way> } {
  const graph = new Graph({ multigraph: false })
  graph.setGraph({ rankdir: 'TB', ranksep: 26, nodesep: 30, edgesep: 14 })
  graph.setDefaultEdgeLabel(() => ({}))
  const states = [...new Set([initial, ...transitions.flatMap(({ from, to }) => [from, to])])]
  for (const state of states) graph.setNode(state, { ...size })
  for (const [key, { label }] of groups) {
    const [from = '', to = ''] = key.split('\n')
    graph.setEdge(from, to, { width: Math.min(26, label.length) * letter + 10, height: 20, labelpos: 'c' })
  }
  layout(graph)
  const nodes = states.map((state): Node => {
    const { x = 0, y = 0 } = graph.node(state) as Partial<Spot>
    return {
      id: state,
      position: { x: x - size.width / 2, y: y - size.height / 2 },
      data: { label: state },
      sourcePosition: Position.Bottom,
      targetPosition: Position.Top,
      className: [
        css['state'],
        state === initial ? css['initial'] : '',
        final?.includes(state) ? css['final'] : '',
      ].join(' '),
      width: size.width,
      height: size.height,
    }
  })
  const spot = (state: string): Spot => nodes.find(({ id }) => id === state)!.position
  const ways = new Map(
    graph.edges().map(({ v, w }): [string, Way] => {
      const { points = [], x = 0, y = 0 } = graph.edge(v, w) as Partial<Spot> & { points?: Spot[] }
      return [
        `${v}\n${w}`,
        { points: v === w ? loop(spot(v), x) : points, words: { x, y }, from: spot(v), to: spot(w) },
      ]
    }),
  )
  return { nodes, ways }
}

/** Out of a state's right side and in again, round the room that the layout kept for its words. */
function loop({ x, y }: Spot, words: number): Spot[] {
  const [right, middle] = [x + size.width, y + size.height / 2]
  return [
    { x: right, y: middle - 8 },
    { x: words, y: middle - 26 },
    { x: words, y: middle + 26 },
    { x: right, y: middle + 8 },
  ]
}

/** Bends at the given points, rounded. */
const bent = (points: readonly Spot[]): string =>
  points
    .map(({ x, y }, at) => {
      const next = points[at + 1]
      if (at === 0) return `M ${x} ${y}`
      return next === undefined ? `L ${x} ${y}` : `Q ${x} ${y} ${(x + next.x) / 2} ${(y + next.y) / 2}`
    })
    .join(' ')

/** Words of an arrow stand above all arrows, so that none strikes them through. */
const Words = ({ at, text, on }: { at: Spot; text: string; on: boolean }) => (
  <EdgeLabelRenderer>
    <span
      className={css['words']}
      data-lit={on || undefined}
      title={text}
      style={{ transform: `translate(-50%, -50%) translate(${at.x}px, ${at.y}px)` }}
    >
      {text}
    </span>
  </EdgeLabelRenderer>
)

/** By the way of the layout; by a plain one as soon as a state was dragged elsewhere. */
function WayEdge({
  id,
  source,
  target,
  sourceX,
  sourceY,
  targetX,
  targetY,
  label,
  style,
  markerEnd,
  data,
}: EdgeProps<Arrow>) {
  const way = data?.way
  const near = (spot: Spot, x: number, y: number) =>
    Math.abs(spot.x + size.width / 2 - x) < 2 && Math.abs(spot.y - y) < size.height + 6
  const holds = way && way.points.length > 1 && near(way.from, sourceX, sourceY) && near(way.to, targetX, targetY)
  const right = sourceX + size.width / 2 + 26
  const [plain, x, y] =
    source === target
      ? ([
          `M ${sourceX} ${sourceY} v 8 H ${right} V ${targetY - 12} H ${targetX} V ${targetY}`,
          right,
          (sourceY + targetY) / 2,
        ] as const)
      : getSmoothStepPath({
          sourceX,
          sourceY,
          targetX,
          targetY,
          sourcePosition: Position.Bottom,
          targetPosition: Position.Top,
        })
  return (
    <>
      <BaseEdge
        id={id}
        path={holds ? bent(way.points) : plain}
        {...(style && { style })}
        {...(markerEnd && { markerEnd })}
      />
      <Words at={holds ? way.words : { x, y }} text={String(label)} on={style?.stroke === litColour} />
    </>
  )
}

const litColour = 'var(--action)'
const edgeTypes = { way: WayEdge }

/** A name for a new event that no transition bears yet. */
function freeEvent({ transitions }: Paths['body']): string {
  const taken = new Set(transitions.map(({ event }) => event))
  if (!taken.has('event')) return 'event'
  let number = 2
  while (taken.has(`event ${number}`)) number += 1
  return `event ${number}`
}

/** States as they are drawn: one that is still there stays where it was dragged. */
function useNodes(laid: readonly Node[]) {
  const [nodes, setNodes, onNodesChange] = useNodesState([...laid])
  useEffect(() => {
    setNodes((before) =>
      laid.map((node) => {
        const own = before.find(({ id }) => id === node.id)
        if (!own) return node
        const measured = own.measured && { measured: own.measured }
        return { ...node, ...measured, ...(before.length === laid.length && { position: own.position }) }
      }),
    )
  }, [laid])
  return { nodes, onNodesChange }
}

function arrowOf(key: string, label: string, way: Way | null, on: boolean): Arrow {
  const [source = '', target = ''] = key.split('\n')
  return {
    id: key,
    source,
    target,
    type: 'way',
    markerEnd: { type: MarkerType.ArrowClosed, color: on ? litColour : 'var(--ink-2)' },
    label,
    data: { way },
    style: { stroke: on ? litColour : 'var(--line-strong)', strokeWidth: on ? 2.5 : 1.5 },
  }
}

/** The graph on a canvas, always in step with its lines: drag from one state to another for a transition, Delete takes one away. */
export function StateGraph({ model, lit, disabled, onChange }: Props) {
  const { body } = model
  const { transitions } = body
  const shape = JSON.stringify(body)
  const groups = useMemo(() => arrowsOf(body), [shape])
  const laid = useMemo(() => placed(body, groups), [groups])
  const { nodes, onNodesChange } = useNodes(laid.nodes)
  const edges = [...groups].map(([key, { indices, label }]) => {
    const on = indices.some((at) => lit.includes(transitionText(transitions[at]!)))
    return arrowOf(key, label, laid.ways.get(key) ?? null, on)
  })
  const put = (next: Paths['body']['transitions']) => onChange({ ...model, body: { ...body, transitions: next } })
  const connect = ({ source, target }: Connection) =>
    put([...transitions, { from: source, event: freeEvent(body), guard: undefined, to: target }])
  const remove = (gone: readonly Edge[]) => {
    const indices = new Set(gone.flatMap(({ id }) => groups.get(id)?.indices ?? []))
    put(transitions.filter((_, at) => !indices.has(at)))
  }
  return (
    <div className={css['canvas']} aria-label="State graph" role="group">
      <ReactFlow
        nodes={nodes}
        edges={edges}
        edgeTypes={edgeTypes}
        onNodesChange={onNodesChange}
        onConnect={connect}
        onEdgesDelete={remove}
        nodesConnectable={!disabled}
        edgesFocusable={!disabled}
        nodesFocusable
        deleteKeyCode={disabled ? null : 'Delete'}
        fitView
        fitViewOptions={{ padding: { x: '44px', y: '14px' } }}
        minZoom={0.2}
        proOptions={{ hideAttribution: true }}
        onBeforeDelete={async ({ edges: chosen }) => ({ nodes: [], edges: chosen })}
      >
        <Background color="var(--line)" gap={20} />
        <Controls showInteractive={false} position="top-left" />
      </ReactFlow>
    </div>
  )
}
