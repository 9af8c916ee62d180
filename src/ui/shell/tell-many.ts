import { notify } from '#ui/kit/notices.tsx'
import { undoGroups } from './undo-many.ts'

interface Changed {
  readonly changed: number
  readonly undo: readonly { readonly id: number; readonly set: Readonly<Record<string, unknown>> }[]
}

/** Tells what a change of many did, with the way back; `null` was refused, and the person knows. */
export function tellChanged(
  done: Changed | null,
  many: string,
  again: (body: { ids: number[]; set: Record<string, unknown> }) => unknown,
): void {
  if (done && done.changed > 0)
    notify(done.changed === 1 ? 'Stored.' : `${done.changed} ${many} changed.`, {
      undo: () => {
        for (const body of undoGroups(done.undo)) void again(body)
      },
    })
}

/** The same for what was deleted. */
export function tellDeleted(
  done: { readonly refs: readonly string[] } | null,
  what: string,
  restore: (refs: string[]) => unknown,
): void {
  if (done) notify(`${done.refs.length} ${what}.`, { undo: () => void restore([...done.refs]) })
}
