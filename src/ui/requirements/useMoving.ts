import { moveRequirement, type RequirementRow } from '#core/requirements/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { Move } from './outline-keys.ts'

/** What a row of the outline carries to a place in it. */
export const branchType = 'application/x-rovant-branch'

/** Branches moved in the outline by keys, or dropped before a row or into it. */
export function useMoving(): {
  readonly move: Move
  readonly place: (dropped: string, row: RequirementRow, before: boolean) => Promise<void>
} {
  const { key } = useHere()
  const { attempt } = useWrite(moveRequirement)
  return {
    move: (ref, under, before) => void attempt({ params: { key, ref }, body: { under, before } }),
    /** Branches dragged elsewhere keep their order among themselves. */
    place: async (dropped, row, before) => {
      const refs = dropped.split(',').filter((each) => each !== row.key)
      const body = before ? { under: row.parent, before: row.id } : { under: row.id, before: null }
      for (const ref of refs) if (!(await attempt({ params: { key, ref }, body }))) return
      if (refs.length > 0)
        notify(
          `${refs.join(', ')} ${refs.length === 1 ? 'stands' : 'stand'} ${before ? 'before' : 'below'} ${row.key} now.`,
        )
    },
  }
}
