import { useQueries } from '@tanstack/react-query'
import type { Matrix, MatrixRow } from '#core/plans/asks-contract.ts'
import { readMatrix } from '#core/plans/asks-contract.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { call } from '#ui/call.ts'
import { block, blocksIn } from '#ui/list/useListData.ts'
import { keyOfAnswer, useAnswer } from '#ui/shell/answers.tsx'

interface Wanted {
  readonly key: string
  readonly ref: string
  readonly scope: ScopeQuery
  readonly by: 'requirements' | 'cases'
  /** Rows in sight. */
  readonly from: number
  readonly to: number
}

interface MatrixShown {
  readonly first: Matrix | undefined
  readonly error: Error | null
  readonly rowAt: (at: number) => MatrixRow | undefined
}

/** The matrix of a plan: its columns and figures at once, rows a block of a hundred at a time as they come into sight. */
export function useMatrix({ key, ref, scope, by, from, to }: Wanted): MatrixShown {
  const params = { key, ref }
  const asked = (at: number) => ({ params, query: { ...scope, by, cursor: at * block, limit: block } })
  const { data: first, error } = useAnswer(readMatrix, asked(0), { keep: true })
  const blocks = blocksIn({ from, to }).filter((at) => at > 0 && at * block < (first?.total ?? 0))
  const answers = useQueries({
    queries: blocks.map((at) => ({
      queryKey: keyOfAnswer(readMatrix, asked(at)),
      queryFn: ({ signal }: { signal: AbortSignal }) => call(readMatrix, { ...asked(at), signal }),
      placeholderData: (before: Matrix | undefined) => before,
    })),
  })
  const byBlock = new Map(blocks.map((at, index) => [at, answers[index]?.data]))
  return {
    first,
    error,
    rowAt: (at) => (at < block ? first : byBlock.get(Math.floor(at / block)))?.rows[at % block],
  }
}
