import { plainText } from '#core/lib/plain-text.ts'
import { editOver } from '#core/lib/edit-over.ts'
import { isRecord, partOf, versionIn } from '#core/lib/record.ts'
import { keepPreviousData, QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import type { BodyOf, Contract, OutputOf, ParamsOf } from '#core/lib/contract.ts'
import { answerTo, type Served } from '#core/lib/question.ts'
import { notify } from '#ui/kit/notices.tsx'
import { call, type CallInput, CallProblem, sentenceOf } from '#ui/call.ts'

export const newClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      // What the browser thinks of its own line is no answer: what cannot be sent has to say so, not to wait unsaid.
      mutations: { networkMode: 'always' },
      queries: {
        networkMode: 'always',
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
    // What went wrong is said at once; with the server away, asking everything again would take long.
    onSettled: (_, error) => (error ? void client.invalidateQueries() : client.invalidateQueries()),
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

/**
 * Edits of a versioned object, as it is `shown`. Somebody's newer edit of other fields stays and so does this one; over a newer one of
 * the same field nothing is stored until the person says so.
 */
export function useEdit<C extends Contract>(
  contract: C,
  params: ParamsOf<C>,
  shown: { readonly version: number },
): (body: BodyOf<C>) => Promise<boolean> {
  // A second edit may come before the first is answered, or before its answer is shown: it waits, and builds on what the first one made.
  const made = useRef<Made>({ of: '', version: 0, edits: {} })
  const last = useRef<Promise<unknown>>(Promise.resolve())
  const of = JSON.stringify(params)
  const send = (input: CallInput<C>): Promise<OutputOf<C>> => {
    const answer = last.current.then(async () => {
      const before = made.current.of === of && made.current.version > versionIn(shown) ? made.current : null
      const now = before ? { ...shown, ...before.edits, version: before.version } : shown
      const body = before ? withEdit(input, editOver(now, shown, input.body).edit) : input
      const sent = await sentOver(contract, { ...body, version: Math.max(versionIn(input), versionIn(now)) }, now)
      made.current = { of, version: versionIn(sent.answer), edits: { ...before?.edits, ...sent.edit } }
      return sent.answer
    })
    last.current = answer.catch(() => undefined)
    return answer
  }
  const client = useQueryClient()
  const { mutateAsync: write } = useMutation({
    mutationFn: send,
    // Not waited for: with the server away, what went wrong would be said only when every answer has been asked for in vain.
    onSettled: () => void client.invalidateQueries(),
  })
  const store = async (body: BodyOf<C>, against: number): Promise<boolean> => {
    try {
      await write({ params, body, version: against })
      return true
    } catch (error) {
      const { status, current } = error instanceof CallProblem ? error.problem : { status: -1, current: null }
      const again = (label: string, over: number) => ({ undo: () => void store(body, over), undoLabel: label })
      notify(status === 412 ? clashText(current, shown, body) : sentenceOf(error), {
        tone: 'problem',
        ...(status === 412 && again('Store mine', versionIn(current))),
        ...(status === 0 && again('Try again', against)),
      })
      return false
    }
  }
  return (body) => store(body, shown.version)
}

/** The newest version this page made of an object, with what it edited to make it. */
interface Made {
  readonly of: string
  readonly version: number
  readonly edits: Readonly<Record<string, unknown>>
}

const partsOf = (of: unknown): Readonly<Record<string, unknown>> => (isRecord(of) ? of : {})
/** The same fields of the same kinds, so it is a body of the same contract. */
const withEdit = <C extends Contract>(input: CallInput<C>, edit: Readonly<Record<string, unknown>>): CallInput<C> => ({
  ...input,
  body: { ...partsOf(input.body), ...edit } as BodyOf<C>,
})

/** Sends an edit; over a newer version once more where that can be brought together with it. Answers what was sent at last, too. */
async function sentOver<C extends Contract>(contract: C, input: CallInput<C>, shown: unknown) {
  try {
    return { answer: await call(contract, input), edit: partsOf(input.body) }
  } catch (error) {
    const newer = error instanceof CallProblem && error.problem.status === 412 ? error.problem.current : null
    const { edit, clashes } = editOver(newer, shown, input.body)
    if (versionIn(newer) === 0 || clashes.length > 0) throw error
    return { answer: await call(contract, { ...withEdit(input, edit), version: versionIn(newer) }), edit }
  }
}

function clashText(newer: unknown, shown: unknown, edit: unknown): string {
  const told = editOver(newer, shown, edit).clashes.flatMap((name) => {
    const [theirs, mine] = [partOf(newer, name), partOf(edit, name)].map((text) =>
      typeof text === 'string' ? `“${plainText(text)}”` : '',
    )
    return theirs && mine ? [`${name} ${theirs}; yours is ${mine}`] : []
  })
  return told.length > 0
    ? `Somebody else stored ${told.join(', ')}. Yours is not stored.`
    : 'Somebody else changed the same meanwhile. Yours is not stored.'
}
