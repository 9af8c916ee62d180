import { listStanding, runStanding } from '#core/formats/contract.ts'
import { call } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoAct } from './useUndoAct.ts'

/** Imports again, by one key, whatever stands to be imported again of this kind. */
export function useStandingImport(what: 'cases' | 'requirements'): () => Promise<void> {
  const { key } = useHere()
  const { attempt } = useWrite(runStanding)
  const undo = useUndoAct('Taken back')
  return async () => {
    const standing = (await call(listStanding, { params: { key } })).rows.filter((each) => each.what === what)
    if (standing.length === 0)
      return notify('Nothing stands to be imported again; a lead can set that up in the set-up.')
    for (const { id, name } of standing) {
      const done = await attempt({ params: { key, id } })
      const act = done?.act ?? null
      if (done) notify(`${name}: ${done.told}`, act === null ? {} : { undo: () => void undo(act) })
    }
  }
}
