import '@xyflow/react/dist/base.css'
import { Graph, layout } from '@dagrejs/dagre'
import { Background, BaseEdge, Controls, type Connection, type Edge, type EdgeProps, MarkerType, type Node, Position, ReactFlow, useNodesState } from '@xyflow/react'
import { useEffect, useMemo } from 'react'
import type { DraftModel } from '#core/techniques/draft.ts'
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

/** States where the layout puts them; transitions between the same two states share one arrow. */
function placed({ initial, final, transitions }: Paths['body']): { readonly nodes: Node[]; readonly groups: ReadonlyMap<string, number[]> } {
  const graph = new Graph({ multigraph: false })
  graph.setGraph({ rankdir: 'TB', ranksep: 46, nodesep: 34, edgesep: 16 })
  graph.setDefaultEdgeLabel(() => ({}))
  const states = [...new Set([initial, ...transitions.flatMap(({ from, to }) => [from, to])])]
  for (const state of states) graph.setNode(state, { ...size })
  const groups = new Map<string, number[]>()
  transitions.forEach(({ from, to }, at) => {
    const key = `${from}\n${to}`
    groups.set(key, [...(groups.get(key) ?? []), at])
    if (from !== to) graph.setEdge(from, to)
  })
  layout(graph)
  const nodes = states.map((state): Node => {
    const { x = 0, y = 0 } = graph.node(state)
    return { id: state, position: { x: x - size.width / 2, y: y - size.height / 2 }, data: { label: state }, sourcePosition: Position.Bottom, targetPosition: Position.Top, className: [css['state'], state === initial ? css['initial'] : '', final?.includes(state) ? css['final'] : ''].join(' '), width: size.width, height: size.height }
  })
  return { nodes, groups }
}

/** A transition from a state to itself: out of its foot, round its right side, and in at its head. */
const Loop = ({ id, sourceX, sourceY, targetX, targetY, label, style, markerEnd }: EdgeProps) => {
  const right = sourceX + size.width / 2 + 26
  return <BaseEdge id={id} path={`M ${sourceX} ${sourceY} v 8 H ${right} V ${targetY - 12} H ${targetX} V ${targetY}`} label={label} labelX={right} labelY={(sourceY + targetY) / 2} {...(style && { style })} {...(markerEnd && { markerEnd })} />
}
const edgeTypes = { loop: Loop }

/** The graph on a canvas, always in step with its lines: drag from one state to another for a transition, Delete takes one away. */
export function StateGraph({ model, lit, disabled, onChange }: Props) {
  const { body } = model
  const shape = JSON.stringify(body)
  const laid = useMemo(() => placed(body), [shape])
  const [nodes, setNodes, onNodesChange] = useNodesState(laid.nodes)
  // A state that is still there stays where it was dragged.
  useEffect(() => setNodes((before) => laid.nodes.map((node) => { const own = before.find(({ id }) => id === node.id); return own ? { ...node, ...(own.measured && { measured: own.measured }), ...(before.length === laid.nodes.length && { position: own.position }) } : node })), [laid])
  const edges = [...laid.groups].map(([key, indices]): Edge => {
    const [source = '', target = ''] = key.split('\n')
    const on = indices.some((at) => lit.includes(transitionText(body.transitions[at]!)))
    return {
      id: key, source, target, type: source === target ? 'loop' : 'smoothstep', animated: false, className: on ? css['lit']! : '', markerEnd: { type: MarkerType.ArrowClosed, color: on ? 'var(--action)' : 'var(--ink-2)' },
      label: indices.map((at) => `${body.transitions[at]!.event || 'go on'}${body.transitions[at]!.guard ? ` [${body.transitions[at]!.guard}]` : ''}`).join(', '), style: { stroke: on ? 'var(--action)' : 'var(--line-strong)', strokeWidth: on ? 2.5 : 1.5 },
    }
  })
  const connect = ({ source, target }: Connection) => {
    const taken = new Set(body.transitions.map(({ event }) => event))
    const event = ['event', ...Array.from({ length: 200 }, (_, at) => `event ${at + 2}`)].find((name) => !taken.has(name)) ?? 'event'
    onChange({ ...model, body: { ...body, transitions: [...body.transitions, { from: source, event, guard: undefined, to: target }] } })
  }
  const remove = (gone: readonly Edge[]) => {
    const indices = new Set(gone.flatMap(({ id }) => laid.groups.get(id) ?? []))
    onChange({ ...model, body: { ...body, transitions: body.transitions.filter((_, at) => !indices.has(at)) } })
  }
  return (
    <div className={css['canvas']} aria-label="State graph" role="group">
      <ReactFlow nodes={nodes} edges={edges} edgeTypes={edgeTypes} onNodesChange={onNodesChange} onConnect={connect} onEdgesDelete={remove} nodesConnectable={!disabled} edgesFocusable={!disabled} nodesFocusable deleteKeyCode={disabled ? null : 'Delete'} fitView fitViewOptions={{ padding: 0.08 }} minZoom={0.2} proOptions={{ hideAttribution: true }} onBeforeDelete={async ({ edges: chosen }) => ({ nodes: [], edges: chosen })}>
        <Background color="var(--line)" gap={20} />
        <Controls showInteractive={false} />
      </ReactFlow>
    </div>
  )
}
