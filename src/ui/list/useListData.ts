import { useQueries, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
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
/** So many rows of a typed filter come by themselves, before all that fit are counted: more than are in sight. */
const firstRows = 60
/** Typing has to rest so long, ms, before all rows that fit are counted. */
const rest = 150

/** A typed filter shows its first rows at once; groups cannot be known before all rows are. */
const isTyped = (ask: ListAsk): boolean => ask.text !== undefined && ask.group === undefined
const firstOf = (params: Record<string, unknown>, ask: ListAsk) => ({
  params,
  query: { ...ask, limit: firstRows, count: 'no' },
})

/** Asks for the first rows of a text before it is drawn anywhere: the answer is on its way while the page draws. */
export function useForesight(of: {
  readonly rows: Contract
  readonly params: Record<string, unknown>
  readonly ask: ListAsk
}): (text: string) => void {
  const client = useQueryClient()
  return (text) => {
    const ask = { ...of.ask, text }
    if (text === '' || !isTyped(ask)) return
    const asked = firstOf(of.params, ask)
    void client.prefetchQuery({
      queryKey: keyOfAnswer<Contract>(of.rows, asked),
      queryFn: ({ signal }) => call<Contract>(of.rows, { ...asked, signal }),
    })
  }
}

/** What was said last, once it has stood for some milliseconds. */
function useRested(said: string, ms: number): string | null {
  const [rested, setRested] = useState<string | null>(null)
  useEffect(() => {
    const timer = setTimeout(() => setRested(said), ms)
    return () => clearTimeout(timer)
  }, [said, ms])
  return rested
}

/** Ids in order at once, rows a block of a hundred at a time as they come into sight. Of a typed filter the first rows come before the order of all. */
export function useListData<T extends { id: number }, O extends Contract, R extends Contract>(of: {
  readonly order: O
  readonly rows: R
  readonly params: Record<string, unknown>
  readonly ask: ListAsk
  readonly from: number
  readonly to: number
  readonly pick: (answer: OutputOf<R>) => readonly T[]
  readonly asOrder: (answer: OutputOf<O>) => OrderAnswer
  readonly initial?: { readonly order: OutputOf<O>; readonly rows: OutputOf<R> } | undefined
}) {
  const told = of.initial && of.asOrder(of.initial.order)
  const whole = told !== undefined && told.ids.length === told.total
  const typed = isTyped(of.ask)
  const said = JSON.stringify(of.ask)
  const rested = useRested(said, rest)
  const first = useAnswer<Contract>(of.rows, firstOf(of.params, of.ask), { keep: true, enabled: typed })
  const order = useAnswer<Contract>(
    of.order,
    { params: of.params, query: of.ask },
    {
      keep: true,
      enabled: !typed || rested === said,
      ...(of.initial && (whole ? { initial: of.initial.order } : { first: of.initial.order })),
    },
  )
  const counted: OrderAnswer = order.data === undefined ? nothing : of.asOrder(order.data as OutputOf<O>)
  // The rows of the letter before stay until those of this one are here.
  const early = typed && !order.settled && first.data !== undefined ? of.pick(first.data as OutputOf<R>) : null
  const answer: OrderAnswer = early
    ? { ids: early.map(({ id }) => id), total: early.length, all: counted.all, groups: null }
    : counted
  const byId = new Map<number, T>()
  if (typed && first.data !== undefined) for (const row of of.pick(first.data as OutputOf<R>)) byId.set(row.id, row)
  const blocks = Array.from(
    { length: Math.max(1, Math.floor(of.to / block) - Math.floor(of.from / block) + 1) },
    (_, index) => Math.floor(of.from / block) + index,
  ).filter(
    (at) =>
      at * block < answer.ids.length &&
      !answer.ids.slice(Math.max(of.from, at * block), Math.min(of.to, (at + 1) * block)).every((id) => byId.has(id)),
  )
  const results = useQueries({
    queries: blocks.map((at) => {
      const ids = answer.ids.slice(at * block, (at + 1) * block).join(',')
      const asked = { params: of.params, query: { ids } }
      const fromPage = of.initial && at === 0 && order.data === of.initial.order
      return {
        queryKey: keyOfAnswer<Contract>(of.rows, asked),
        queryFn: ({ signal }: { signal: AbortSignal }) => call<Contract>(of.rows, { ...asked, signal }),
        placeholderData: (before: unknown) => before,
        ...(fromPage && { initialData: of.initial?.rows as unknown }),
      }
    }),
  })
  for (const { data } of results)
    if (data !== undefined) for (const row of of.pick(data as OutputOf<R>)) byId.set(row.id, row)
  return {
    /** What is shown; of a typed filter its first rows, until all that fit are counted. */
    answer,
    /** The last answer in which all rows were counted; the same as `answer` as soon as it is about what is asked. */
    counted,
    byId,
    problem: first.error ?? order.error ?? results.find(({ error }) => error)?.error ?? null,
    waiting: order.isPending && early === null,
    settled: order.settled || (typed && first.settled),
  }
}
