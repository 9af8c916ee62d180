import type { z } from 'zod'
import type { Contract } from '#core/lib/contract.ts'
import { type Before, type ManyChanged, mostAtOnce, undoGroups } from '#core/lib/many.ts'
import { counted } from '#core/lib/figures.ts'
import { restoreObject } from '#core/history/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from './answers.tsx'
import { useGoing } from './going.ts'
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

interface Sum<Set> {
  changed: number
  undo: Before<Set>[]
  readonly stopped?: string
}

/** What was done, and why the rest was not. */
export const withWhy = (told: string, stopped: string | undefined): string =>
  stopped === undefined ? told : `${told} ${stopped}`

export interface Many<Set> {
  /** Sets the same on all of them; told with the way back. */
  readonly set: (ids: readonly number[], set: Set) => Promise<void>
  /** The same with tags put on and taken off. */
  readonly edit: (ids: readonly number[], edit: ManyEdit<Set>) => Promise<void>
  /** Tells what another act changed, with the same way back. */
  readonly tell: (done: ManyChanged<Set>, asked?: number, words?: string) => void
}

/** Changes of many objects of one kind, `one` being its word; what was done is said, and can be taken back from there. */
export function useMany<Set extends object>(
  contract: ManyContract<Set>,
  of: { readonly params: Readonly<Record<string, unknown>>; readonly one: string; readonly nothing: Set },
): Many<Set> {
  const { attempt } = useWrite(contract)
  const going = useGoing()
  /** In as many acts as it takes; what is refused has been told, and what was stored before it counts. */
  const store = async (ids: readonly number[], { set = of.nothing, tags }: ManyEdit<Set>) => {
    const sum: Sum<Set> = { changed: 0, undo: [] }
    for (const some of inParts(ids, mostAtOnce)) {
      const body = { ids: some, set, ...(tags && { tags }) }
      const done = await going(`Changing ${counted(some.length, of.one)} …`, (job) =>
        attempt({ params: of.params, body, job }),
      )
      if (!done) return sum.changed > 0 ? sum : null
      sum.changed += done.changed
      sum.undo.push(...done.undo)
      if (done.stopped !== undefined) return { ...sum, stopped: done.stopped }
    }
    return sum
  }
  const back = (undo: readonly Before<Set>[]) => async () => {
    for (const { ids, set } of undoGroups(undo)) await store(ids, { set })
  }
  const tell: Many<Set>['tell'] = ({ changed, undo, stopped }, asked = changed, words) => {
    if (changed === 0 && stopped === undefined)
      return asked > 1 ? notify(`All ${counted(asked, of.one)} are so already.`) : undefined
    const told = words ?? (asked === 1 ? 'Stored.' : `${howMany(changed, asked, of.one)} changed.`)
    notify(withWhy(told, stopped), { undo: () => void back(undo)() })
  }
  const edit: Many<Set>['edit'] = async (ids, asked) => {
    const done = await store(ids, asked)
    if (done) tell(done, ids.length)
  }
  return { set: (ids, set) => edit(ids, { set }), edit, tell }
}

/** `214 cases`, or `180 of 214 cases` where the others stay as they were. */
export const howMany = (done: number, of: number, one: string): string =>
  done === of ? counted(of, one) : `${done} of ${counted(of, one)}`

/** Neighbours, at most so many together. */
const inParts = <T>(all: readonly T[], most: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / most) }, (_, index) => all.slice(index * most, (index + 1) * most))

type DeleteContract = Contract<
  Asked,
  Asked,
  z.ZodType<unknown, { ids: number[] }>,
  z.ZodType<{ readonly refs: string[]; readonly stopped?: string | undefined }>
>

/** So many are deleted in one act. */
const mostDeleted = 5000

/** Deletes many and says how many of how many, with the way back; `rest` is what else is so then. */
export function useDeleting(
  contract: DeleteContract,
  { one, rest = '' }: { one: string; rest?: string },
): (ids: readonly number[]) => Promise<void> {
  const { key } = useHere()
  const deleting = useWrite(contract)
  const restoring = useWrite(restoreObject)
  const going = useGoing()
  return async (ids) => {
    const refs: string[] = []
    let stopped: string | undefined
    for (const some of inParts(ids, mostDeleted)) {
      const done = await going(`Deleting ${counted(some.length, one)} …`, (job) =>
        deleting.attempt({ params: { key }, body: { ids: some }, job }),
      )
      if (!done) break
      refs.push(...done.refs)
      stopped = done.stopped
      if (stopped !== undefined) break
    }
    if (refs.length === 0) return
    const back = async () => {
      for (const some of inParts(refs, mostDeleted)) {
        const done = await going(`Bringing ${counted(some.length, one)} back …`, (job) =>
          restoring.attempt({ params: { key }, body: { refs: some }, job }),
        )
        if (done?.stopped !== undefined) return notify(done.stopped)
      }
    }
    // What goes with them is more than was ticked.
    const told = refs.length > ids.length ? counted(refs.length, one) : howMany(refs.length, ids.length, one)
    notify(withWhy(`${told} deleted${rest}.`, stopped), { undo: () => void back() })
  }
}
