import { type Filter, filterIn } from '#core/lib/filter.ts'
import { type RunReason, runReasons } from '#core/runs/compose.ts'
import type { Project } from '#core/projects/contract.ts'
import { go, scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { buildIn } from './build-in.ts'

/** What is asked for, as the address of the page says it. */
export interface ComposeAsked {
  readonly runs: readonly string[]
  readonly plan: string | null
  readonly build: Project['builds'][number] | null
  readonly reasons: readonly RunReason[]
  readonly words: string
  readonly filter: Filter | null
}

const usualReasons: readonly RunReason[] = ['failed', 'stuck', 'basis changed']
const none = 'none'

/** What is composed by the address, and how to change it: whoever gets the address sees the same. */
export function useCompose(): readonly [ComposeAsked, (to: Partial<ComposeAsked>) => void] {
  const { project } = useHere()
  const params = useParams('runs', 'plan', 'on', 'reasons', 'words', 'only', ...scopeNames)
  const said = params.get('reasons')?.split(',')
  const asked: ComposeAsked = {
    runs: (params.get('runs') ?? '').split(',').filter((key) => /^RN-\d+$/.test(key)),
    plan: params.get('plan'),
    build: project.builds.find(({ id }) => String(id) === params.get('on')) ?? buildIn(project, scopeIn(params)),
    reasons: said ? runReasons.filter((reason) => said.includes(reason)) : usualReasons,
    words: params.get('words') ?? '',
    filter: filterIn(params.get('only')),
  }
  const set = ({ runs, plan, build, reasons, words, filter: only }: Partial<ComposeAsked>) =>
    go(
      {
        params: {
          ...(runs && { runs: runs.join(',') }),
          ...(plan !== undefined && { plan }),
          ...(build && { on: String(build.id) }),
          ...(reasons && { reasons: reasons.join(',') || none }),
          ...(words !== undefined && { words }),
          ...(only !== undefined && { only: only && JSON.stringify(only) }),
        },
      },
      true,
    )
  return [asked, set]
}

/** The same as the API asks for it. */
export const queryOf = ({ runs, plan, build, reasons, words, filter }: ComposeAsked) => ({
  build: build?.id ?? 0,
  reasons: reasons.join(','),
  ...(runs.length > 0 && { runs: runs.join(',') }),
  ...(plan !== null && { plan }),
  ...(words !== '' && { words }),
  ...(filter !== null && { filter: JSON.stringify(filter) }),
})

/** So many rows are asked for at a time. */
export const pageSize = 200

/** What is taken out by hand, with its minutes, by case and environment. */
export type Out = ReadonlyMap<string, number>
export const placeOf = (row: { readonly case: number; readonly environment: number }): string =>
  `${row.case}:${row.environment}`
