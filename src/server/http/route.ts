import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import type { Asked } from './asked.ts'
import { bodyText, inputOf, json } from './body.ts'
import { type Context, contextOf } from './context.ts'
import { refuseForeignIds } from './own-ids.ts'
import { reply } from './reply.ts'
import type { Services } from './services.ts'
import { storeOnce, transact } from './transact.ts'

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

/** A contract and a synchronous use case as an endpoint: parse, one transaction, answer. */
export const on = <C extends Contract>(
  contract: C,
  useCase: (context: Context, input: Input<C>) => Answer<C>,
): Route => ({
  contract,
  answer: async (asked) => {
    const text = await bodyText(contract, asked.request)
    const { input, raw } = inputOf(contract, asked, text === '' ? undefined : json(text))
    const work = (context: Context) => {
      refuseForeignIds(context, contract, raw)
      return useCase(context, input)
    }
    if (contract.method === 'GET') return reply(contract, work(contextOf(asked.parts(asked.services.db)).context))
    return storeOnce(asked, { contract, text }, work)
  },
})

/** The same for what waits: files, workers, streams. Its use case may answer a `Response` of its own. */
export const onOpen = <C extends Contract>(
  contract: C,
  useCase: (context: OpenContext, input: Input<C>) => Promise<Answer<C> | Response>,
): Route => ({
  contract,
  answer: async (asked) => {
    const text = contract.raw ? '' : await bodyText(contract, asked.request)
    const { input, raw } = inputOf(contract, asked, text === '' ? undefined : json(text))
    const { services, request, address } = asked
    const { context } = contextOf(asked.parts(services.db))
    refuseForeignIds(context, contract, raw)
    const store = <T>(work: (context: Context) => T): T => transact(asked, work)
    const answer = await useCase({ ...context, services, request, address, store }, input)
    return answer instanceof Response ? answer : reply(contract, answer)
  },
})
