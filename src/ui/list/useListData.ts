import { useQueries, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import { answerTo, type Served } from '#core/lib/question.ts'
import type { OrderAnswer } from '#core/lib/shapes.ts'
import { call } from '#ui/call.ts'
import { keyOfAnswer, useAnswer } from '#ui/shell/answers.tsx'

type Asked = z.ZodType
interface RowsAnswer<T> {
  readonly rows: T[]
}
type OrderContract = Contract<Asked, Asked, Asked, z.ZodType<OrderAnswer>>
type RowsContract<T> = Contract<Asked, Asked, Asked, z.ZodType<RowsAnswer<T>>>

/** Where a list comes from: the ordered ids, the rows of some of them, and what both are asked with. */
export interface Source<T> {
  readonly order: OrderContract
  readonly rows: RowsContract<T>
  readonly params: Readonly<Record<string, unknown>>
}

/** The first rows of a list as they came with the page. */
export interface ServedList<T> {
  readonly order: Served<OrderAnswer>
  readonly rows: RowsAnswer<T>
}

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
export const block = 100
const nothing: OrderAnswer = { ids: [], total: 0, all: 0, groups: null }
/** So many rows of a typed filter come by themselves, before all that fit are counted: more than are in sight. */
const firstRows = 60
/** Typing has to rest so long, ms, before all rows that fit are counted. */
const rest = 150

/** A typed filter shows its first rows at once; groups cannot be known before all rows are. */
const isTyped = (ask: ListAsk): boolean => ask.text !== undefined && ask.group === undefined
const firstOf = (params: Source<unknown>['params'], ask: ListAsk) => ({
  params,
  query: { ...ask, limit: firstRows, count: 'no' },
})

/** Asks for the first rows of a text before it is drawn anywhere: the answer is on its way while the page draws. */
export function useForesight<T>(of: Source<T> & { readonly ask: ListAsk }): (text: string) => void {
  const client = useQueryClient()
  return (text) => {
    const ask = { ...of.ask, text }
    if (text === '' || !isTyped(ask)) return
    const asked = firstOf(of.params, ask)
    void client.prefetchQuery({
      queryKey: keyOfAnswer(of.rows, asked),
      queryFn: ({ signal }) => call(of.rows, { ...asked, signal }),
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

interface Wanted<T> extends Source<T> {
  readonly ask: ListAsk
  readonly from: number
  readonly to: number
  readonly served?: ServedList<T> | undefined
}

/** Ids in order at once, rows a block of a hundred at a time as they come into sight. Of a typed filter the first rows come before the order of all. */
export function useListData<T extends { id: number }>(of: Wanted<T>) {
  const typed = isTyped(of.ask)
  const first = useAnswer(of.rows, firstOf(of.params, of.ask), { keep: true, enabled: typed })
  const order = useOrder(of, typed)
  const counted = order.data ?? nothing
  // The rows of the letter before stay until those of this one are here.
  const early = typed && !order.settled && first.data ? first.data.rows : null
  const answer: OrderAnswer = early
    ? { ids: early.map(({ id }) => id), total: early.length, all: counted.all, groups: null }
    : counted
  const byId = new Map((typed && first.data ? first.data.rows : []).map((row) => [row.id, row]))
  const blocks = useBlocks(of, { answer, byId, fromPage: order.fromPage })
  for (const { data } of blocks) for (const row of data?.rows ?? []) byId.set(row.id, row)
  return {
    /** What is shown; of a typed filter its first rows, until all that fit are counted. */
    answer,
    /** The last answer in which all rows were counted; the same as `answer` as soon as it is about what is asked. */
    counted,
    byId,
    problem: first.error ?? order.error ?? blocks.find(({ error }) => error)?.error ?? null,
    waiting: order.isPending && early === null,
    settled: order.settled || (typed && first.settled),
  }
}

/** The order of all that fits. A page brings the first ids of a long list; they are shown until the rest is here. */
function useOrder<T>(of: Wanted<T>, typed: boolean) {
  const asked = { params: of.params, query: of.ask }
  const told = answerTo(asked, of.served?.order)
  const whole = told !== undefined && told.ids.length === told.total
  const said = JSON.stringify(of.ask)
  const rested = useRested(said, rest)
  const order = useAnswer(of.order, asked, {
    keep: true,
    enabled: !typed || rested === said,
    ...(whole ? { served: of.served?.order } : { first: told }),
  })
  return { ...order, fromPage: told !== undefined && order.data === told }
}

/** The rows in sight that are not here yet, asked for by the hundred. */
function useBlocks<T extends { id: number }>(
  of: Wanted<T>,
  { answer, byId, fromPage }: { answer: OrderAnswer; byId: ReadonlyMap<number, T>; fromPage: boolean },
) {
  const missing = blocksIn(of).filter((at) => {
    const [from, to] = [Math.max(of.from, at * block), Math.min(of.to, (at + 1) * block)]
    return at * block < answer.ids.length && !answer.ids.slice(from, to).every((id) => byId.has(id))
  })
  return useQueries({
    queries: missing.map((at) => {
      const ids = answer.ids.slice(at * block, (at + 1) * block).join(',')
      const asked = { params: of.params, query: { ids } }
      return {
        queryKey: keyOfAnswer(of.rows, asked),
        queryFn: ({ signal }: { signal: AbortSignal }) => call(of.rows, { ...asked, signal }),
        placeholderData: (before: RowsAnswer<T> | undefined) => before,
        ...(fromPage && at === 0 && of.served && { initialData: of.served.rows }),
      }
    }),
  })
}

/** The blocks a range of lines touches; one at least. */
export function blocksIn({ from, to }: { readonly from: number; readonly to: number }): number[] {
  const [first, last] = [Math.floor(from / block), Math.floor(to / block)]
  return Array.from({ length: Math.max(1, last - first + 1) }, (_, at) => first + at)
}
