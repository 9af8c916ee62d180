import { versionIn } from '#core/lib/record.ts'
import { keepPreviousData, QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import type { BodyOf, Contract, OutputOf, ParamsOf } from '#core/lib/contract.ts'
import { answerTo, type Served } from '#core/lib/question.ts'
import { notify } from '#ui/kit/notices.tsx'
import { call, type CallInput, CallProblem, sentenceOf } from '#ui/call.ts'

export const newClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: {
        staleTime: 20_000,
        retry: (count, error) => count < 3 && error instanceof CallProblem && error.problem.status === 0,
        retryDelay: 1500,
      },
    },
  })

type Asked<C extends Contract> = Pick<CallInput<C>, 'params' | 'query'>

export const keyOfAnswer = <C extends Contract>(contract: C, input: Asked<C>) => [contract.name, input] as const

export interface Answered<T> {
  readonly data: T | undefined
  readonly error: Error | null
  readonly isPending: boolean
  /** What is shown answers this question, and not the one before it. */
  readonly settled: boolean
}

/**
 * What a contract answers, kept in one place and asked again when the event stream says it changed. What came with the page is
 * taken only for the very question it answers; `first` is shown until the whole answer is here, `keep` keeps the one before.
 */
export function useAnswer<C extends Contract>(
  contract: C,
  input: Asked<C>,
  of: {
    served?: Served<OutputOf<C>> | null | undefined
    first?: OutputOf<C> | undefined
    enabled?: boolean
    keep?: boolean
  } = {},
): Answered<OutputOf<C>> {
  const initialData = answerTo(input, of.served)
  const { data, error, isPending, isPlaceholderData } = useQuery<unknown>({
    queryKey: keyOfAnswer(contract, input),
    queryFn: ({ signal }) => call(contract, { ...input, signal }),
    enabled: of.enabled ?? true,
    // Comparing an answer of fifty thousand ids with the one before costs more than drawing it.
    structuralSharing: false,
    ...(initialData !== undefined && { initialData }),
    ...placeholderFor(of),
  })
  // The query library forgets which contract a key belongs to; only `call` with this contract fills it.
  return { data: data as OutputOf<C> | undefined, error, isPending, settled: !isPending && !isPlaceholderData }
}

function placeholderFor(of: { first?: unknown; keep?: boolean }) {
  if (of.first !== undefined) return { placeholderData: (before: unknown) => before ?? of.first }
  return of.keep ? { placeholderData: keepPreviousData } : {}
}

/** A write: what went wrong is said, and everything shown is asked again after it. */
export function useWrite<C extends Contract>(
  contract: C,
  send: (input: CallInput<C>) => Promise<OutputOf<C>> = (input) => call(contract, input),
) {
  const client = useQueryClient()
  const mutation = useMutation({
    mutationFn: send,
    onSettled: () => client.invalidateQueries(),
    onError: (error) => notify(sentenceOf(error), { tone: 'problem' }),
  })
  return {
    busy: mutation.isPending,
    write: mutation.mutateAsync,
    /** The same, answering `null` when it was refused (the person has been told). */
    attempt: async (input: CallInput<C>): Promise<OutputOf<C> | null> => {
      try {
        return await mutation.mutateAsync(input)
      } catch {
        return null
      }
    },
  }
}

/** Edits of a versioned object. Over somebody's newer edit nothing is stored: the person's own is kept and can be stored over it. */
export function useEdit<C extends Contract>(
  contract: C,
  params: ParamsOf<C>,
  version: number,
): (body: BodyOf<C>) => Promise<boolean> {
  // A second edit may come before the first is answered, or before its answer is shown: it waits, and builds on what the first one made.
  const made = useRef({ of: '', version: 0 })
  const last = useRef<Promise<unknown>>(Promise.resolve())
  const of = JSON.stringify(params)
  const send = (input: CallInput<C>): Promise<OutputOf<C>> => {
    const answer = last.current.then(async () => {
      const against = Math.max(versionIn(input), made.current.of === of ? made.current.version : 0)
      const answered = await call(contract, { ...input, version: against })
      made.current = { of, version: versionIn(answered) }
      return answered
    })
    last.current = answer.catch(() => undefined)
    return answer
  }
  const { write } = useWrite(contract, send)
  const store = async (body: BodyOf<C>, against: number): Promise<boolean> => {
    try {
      await write({ params, body, version: against })
      return true
    } catch (error) {
      if (error instanceof CallProblem && error.problem.status === 412)
        notify('Your edit is kept: store it over the newer one?', {
          tone: 'problem',
          undo: () => void store(body, versionIn(error.problem.current)),
          undoLabel: 'Store mine',
        })
      return false
    }
  }
  return (body) => store(body, version)
}
