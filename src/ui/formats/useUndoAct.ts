import { undoImport } from '#core/formats/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'

/** Takes an act of many changes back and tells what somebody changed since and therefore stays; `taken` is how the sentence begins. */
export function useUndoAct(taken: string): (act: number) => Promise<void> {
  const { key } = useHere()
  const undoing = useWrite(undoImport)
  const going = useGoing()
  return async (act) => {
    const done = await going('Taking it back …', (job) => undoing.attempt({ params: { key, id: act }, job }))
    if (!done) return
    if (done.stopped !== undefined) return notify(done.stopped)
    notify(
      done.kept.length > 0
        ? `${taken}, but for ${done.kept.slice(0, 5).join(', ')}, which somebody changed since.`
        : `${taken}.`,
    )
  }
}
