import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import { isRecord } from '#core/lib/record.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Asked } from './asked.ts'
import { bodyText, inputOf, json, type Raw } from './body.ts'
import { type Context, contextOf } from './context.ts'
import { atOnce, breathe, type Going, goingFor, inSets } from './going.ts'
import { holding } from './held.ts'
import { refuseForeignIds } from './own-ids.ts'
import { reply } from './reply.ts'
import type { Services } from './services.ts'
import { storeOnce, storeOnceInParts, transact } from './transact.ts'

export interface Input<C extends Contract> {
  readonly params: z.output<C['params']>
  readonly query: z.output<C['query']>
  readonly body: z.output<C['body']>
}
export type Answer<C extends Contract> = z.input<C['output']>

/** What an asynchronous use case gets: no transaction is open; it opens one for what it stores. */
export interface OpenContext extends Context {
  readonly services: Services
  readonly request: Request
  readonly address: string
  readonly store: <T>(work: (context: Context) => T) => T
}

/** One endpoint: what may be asked, and what answers once sign-in and permission are settled. */
export interface Route {
  readonly contract: Contract
  readonly answer: (asked: Asked) => Promise<Response>
}

/** What was asked, read. */
interface Read<C extends Contract> {
  readonly text: string
  readonly input: Input<C>
  readonly raw: Raw
}

/** A contract and a synchronous use case as an endpoint: parse, one transaction, answer. */
export const on = <C extends Contract>(
  contract: C,
  useCase: (context: Context, input: Input<C>) => Answer<C>,
): Route => ({
  contract,
  answer: async (asked) => atOneGo(contract, useCase, asked, await readOf(contract, asked)),
})

function atOneGo<C extends Contract>(
  contract: C,
  useCase: (context: Context, input: Input<C>) => Answer<C>,
  asked: Asked,
  { text, input, raw }: Read<C>,
): Response {
  const work = (context: Context) =>
    holding(contract.name, () => {
      refuseForeignIds(context, contract, raw)
      return useCase(context, input)
    })
  if (contract.method === 'GET') return reply(contract, work(contextOf(asked.parts(asked.services.db)).context))
  return storeOnce(asked, { contract, text }, work)
}

async function readOf<C extends Contract>(contract: C, asked: Asked): Promise<Read<C>> {
  const text = contract.raw ? '' : await bodyText(contract, asked.request)
  return { text, ...inputOf(contract, asked, text === '' ? undefined : json(text)) }
}

/** What of a body is long: all of it, and the body with a part of it; `first` is the part that also has what is not parted. */
export interface Parting<Body> {
  /** The name of the long list, and what stands in it. */
  readonly list: string
  readonly all: readonly unknown[]
  readonly some: (part: readonly unknown[], first: boolean) => Body
}

/** Parted by the list that nearly every change of many has. */
function byIds<Body>(body: Body): Parting<Body> {
  const lists: Readonly<Record<string, unknown>> = isRecord(body) ? body : {}
  const name = 'ids' in lists ? 'ids' : 'refs'
  const all = lists[name]
  return { list: name, all: Array.isArray(all) ? all : [], some: (part) => ({ ...body, [name]: part }) }
}

/**
 * A change of many: a few in one transaction, all of them or none. More go in sets that hold nobody up, each in a transaction of its
 * own; whoever asked may stop it. What was done then stays and is answered, with why the rest was not.
 */
export const onMany = <C extends Contract>(
  contract: C,
  useCase: (context: Context, input: Input<C>) => Answer<C>,
  join: (answers: readonly Answer<C>[], stopped: string | undefined) => Answer<C>,
  parting: (body: Input<C>['body']) => Parting<Input<C>['body']> = byIds,
): Route => ({
  contract,
  answer: async (asked) => {
    const read = await readOf(contract, asked)
    const { text, input, raw } = read
    const { list, all, some } = parting(input.body)
    if (all.length <= atOnce) return atOneGo(contract, useCase, asked, read)
    return storeOnceInParts(asked, { contract, text }, async () => {
      const { context } = contextOf(asked.parts(asked.services.db))
      await refuseAnyForeign(context, { contract, raw, list, all })
      const going = goingFor(asked, context.project.id)
      try {
        const { answers, stopped } = await inParts(asked, { contract, all, going }, (inside, part, first) =>
          useCase(inside, { ...input, body: some(part, first) }),
        )
        return join(answers, stopped)
      } finally {
        going.end()
      }
    })
  },
})

/** Before anything is done, and in sets as well: every id is looked up. */
const refuseAnyForeign = (
  context: Context,
  of: { readonly contract: Contract; readonly raw: Raw; readonly list: string; readonly all: readonly unknown[] },
): Promise<void> =>
  inSets(of.all, (part, from) => {
    // With the others left out of the list each keeps its place in it, by which it is named.
    const own: unknown[] = []
    part.forEach((id, at) => {
      own[from + at] = id
    })
    const body = { ...(isRecord(of.raw.body) ? of.raw.body : {}), [of.list]: own }
    holding(of.contract.name, () => refuseForeignIds(context, of.contract, { ...of.raw, body }))
    return true
  })

/** Set after set; a refusal of the first is a refusal of all, of a later one the end. */
async function inParts<T>(
  asked: Asked,
  { contract, all, going }: { contract: Contract; all: readonly unknown[]; going: Going },
  work: (context: Context, part: readonly unknown[], first: boolean) => T,
): Promise<{ answers: T[]; stopped: string | undefined }> {
  const answers: T[] = []
  let stopped: string | undefined
  await inSets(all, (part, from) => {
    if (going.stopped()) stopped = `Stopped after ${from} of ${all.length}; what was done so far stays.`
    else
      try {
        answers.push(transact(asked, (context) => holding(contract.name, () => work(context, part, from === 0))))
      } catch (error) {
        if (from === 0) throw error
        if (!(error instanceof Refusal)) asked.services.logError(error)
        stopped = `It ended after ${from} of ${all.length}, and what was done so far stays: ${error instanceof Refusal ? error.message : 'something broke.'}`
      }
    going.report(from + part.length, all.length)
    return stopped === undefined
  })
  return { answers, stopped }
}

const openOf = (asked: Asked, contract: Contract, context: Context): OpenContext => {
  const { services, request, address } = asked
  const store = <T>(work: (context: Context) => T): T =>
    transact(asked, (inside) => holding(contract.name, () => work(inside)))
  return { ...context, services, request, address, store }
}

/** The same for what waits: files, workers, streams. Its use case may answer a `Response` of its own. */
export const onOpen = <C extends Contract>(
  contract: C,
  useCase: (context: OpenContext, input: Input<C>) => Promise<Answer<C> | Response>,
): Route => ({
  contract,
  answer: async (asked) => {
    const { input, raw } = await readOf(contract, asked)
    const { context } = contextOf(asked.parts(asked.services.db))
    refuseForeignIds(context, contract, raw)
    const answer = await useCase(openOf(asked, contract, context), input)
    return answer instanceof Response ? answer : reply(contract, answer)
  },
})

/** The same for what is stored in several transactions: with an Idempotency-Key it is done once. */
export const onParts = <C extends Contract>(
  contract: C,
  useCase: (context: OpenContext, input: Input<C>) => Promise<Answer<C>>,
): Route => ({
  contract,
  answer: async (asked) => {
    const { text, input, raw } = await readOf(contract, asked)
    const { context } = contextOf(asked.parts(asked.services.db))
    // What names thousands takes a turn for each step of it.
    await breathe()
    refuseForeignIds(context, contract, raw)
    await breathe()
    return storeOnceInParts(asked, { contract, text }, () => useCase(openOf(asked, contract, context), input))
  },
})
