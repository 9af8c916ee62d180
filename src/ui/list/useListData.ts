import { useQueries } from '@tanstack/react-query'
import type { Contract, OutputOf } from '#core/lib/contract.ts'
import type { OrderAnswer } from '#core/lib/shapes.ts'
import { call } from '#ui/call.ts'
import { keyOfAnswer, useAnswer } from '#ui/shell/answers.tsx'

export interface ListAsk {
  readonly text?: string
  readonly filter?: string
  readonly sort?: string
  readonly group?: string
  readonly release?: string
  readonly iteration?: string
  readonly build?: string
  readonly environment?: string
  readonly asOf?: number
}
const block = 100
const nothing: OrderAnswer = { ids: [], total: 0, all: 0, groups: null }

/** Ids in order at once, rows a block of a hundred at a time as they come into sight. */
export function useListData<T extends { id: number }, O extends Contract, R extends Contract>(of: {
  readonly order: O; readonly rows: R; readonly params: Record<string, unknown>; readonly ask: ListAsk; readonly from: number; readonly to: number
  readonly pick: (answer: OutputOf<R>) => readonly T[]; readonly asOrder: (answer: OutputOf<O>) => OrderAnswer; readonly initial?: { readonly order: OutputOf<O>; readonly rows: OutputOf<R> } | undefined
}) {
  const input = { params: of.params, query: of.ask }
  const told = of.initial && of.asOrder(of.initial.order)
  const whole = told !== undefined && told.ids.length === told.total
  const order = useAnswer<Contract>(of.order, input, { keep: true, ...(of.initial && (whole ? { initial: of.initial.order } : { first: of.initial.order })) })
  const answer: OrderAnswer = order.data === undefined ? nothing : of.asOrder(order.data as OutputOf<O>)
  const blocks = Array.from({ length: Math.max(1, Math.floor(of.to / block) - Math.floor(of.from / block) + 1) }, (_, index) => Math.floor(of.from / block) + index).filter((at) => at * block < answer.ids.length)
  const results = useQueries({
    queries: blocks.map((at) => {
      const ids = answer.ids.slice(at * block, (at + 1) * block).join(',')
      const asked = { params: of.params, query: { ids } }
      const first = of.initial && at === 0 && order.data === of.initial.order
      return { queryKey: keyOfAnswer<Contract>(of.rows, asked), queryFn: ({ signal }: { signal: AbortSignal }) => call<Contract>(of.rows, { ...asked, signal }), placeholderData: (before: unknown) => before, ...(first && { initialData: of.initial?.rows as unknown }) }
    }),
  })
  const byId = new Map<number, T>()
  for (const { data } of results) if (data !== undefined) for (const row of of.pick(data as OutputOf<R>)) byId.set(row.id, row)
  return { answer, byId, problem: order.error ?? results.find(({ error }) => error)?.error ?? null, waiting: order.isPending, settled: order.settled }
}
