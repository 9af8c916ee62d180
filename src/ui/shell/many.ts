import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import { type Before, type ManyChanged, undoGroups } from '#core/lib/many.ts'
import { counted } from '#core/lib/figures.ts'
import { restoreObject } from '#core/history/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from './answers.tsx'
import { useHere } from './here.ts'

type Asked = z.ZodType

/** A change of many: `Set` is what its own contract lets be set. */
export type ManyContract<Set> = Contract<
  Asked,
  Asked,
  z.ZodType<unknown, { ids: number[]; set: Set; tags?: TagsOfMany | undefined }>,
  z.ZodType<ManyChanged<Set>>
>
interface TagsOfMany {
  readonly add?: string[] | undefined
  readonly drop?: string[] | undefined
}
export interface ManyEdit<Set> {
  readonly set?: Set
  readonly tags?: TagsOfMany
}

export interface Many<Set> {
  /** Sets the same on all of them; told with the way back. */
  readonly set: (ids: readonly number[], set: Set) => Promise<void>
  /** The same with tags put on and taken off. */
  readonly edit: (ids: readonly number[], edit: ManyEdit<Set>) => Promise<void>
  /** Tells what another act changed, with the same way back. */
  readonly tell: (done: ManyChanged<Set>) => void
}

/** Changes of many objects of one kind, `one` being its word; what was done is said, and can be taken back from there. */
export function useMany<Set extends object>(
  contract: ManyContract<Set>,
  of: { readonly params: Readonly<Record<string, unknown>>; readonly one: string; readonly nothing: Set },
): Many<Set> {
  const { attempt } = useWrite(contract)
  const store = (ids: number[], { set = of.nothing, tags }: ManyEdit<Set>) =>
    attempt({ params: of.params, body: { ids, set, ...(tags && { tags }) } })
  const back = (undo: readonly Before<Set>[]) => async () => {
    for (const { ids, set } of undoGroups(undo)) await store(ids, { set })
  }
  const tell = ({ changed, undo }: ManyChanged<Set>) => {
    if (changed > 0)
      notify(changed === 1 ? 'Stored.' : `${counted(changed, of.one)} changed.`, { undo: () => void back(undo)() })
  }
  const edit: Many<Set>['edit'] = async (ids, asked) => {
    const done = await store([...ids], asked)
    if (done) tell(done)
  }
  return { set: (ids, set) => edit(ids, { set }), edit, tell }
}

type DeleteContract = Contract<
  Asked,
  Asked,
  z.ZodType<unknown, { ids: number[] }>,
  z.ZodType<{ readonly refs: string[] }>
>

/** Deletes many and says so, with the way back. */
export function useDeleting(contract: DeleteContract, words: string): (ids: readonly number[]) => Promise<void> {
  const { key } = useHere()
  const deleting = useWrite(contract)
  const restoring = useWrite(restoreObject)
  return async (ids) => {
    const done = await deleting.attempt({ params: { key }, body: { ids: [...ids] } })
    if (!done) return
    const { refs } = done
    notify(`${refs.length} ${words}.`, { undo: () => void restoring.attempt({ params: { key }, body: { refs } }) })
  }
}
