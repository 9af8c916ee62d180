import { keyOf, readKey } from '#core/lib/key.ts'
import { restoreObject } from '#core/history/contract.ts'
import { CallProblem, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useAddress } from './address.ts'
import { useWrite } from './answers.tsx'
import { useHere } from './here.ts'
import css from './sheet.module.css'

/** In place of a sheet that cannot be shown: what is the matter, and the way back; what was deleted can be brought back from here. */
export function Lost({ error, onClose }: { error: Error; onClose: () => void }) {
  const { key } = useHere()
  const { path } = useAddress()
  const restoring = useWrite(restoreObject)
  const problem = error instanceof CallProblem ? error.problem : null
  const open = readKey(path.split('/').at(-1) ?? '')
  const ref = open ? keyOf(open.kind, open.number) : undefined
  const moved =
    typeof problem?.current === 'object' && problem.current !== null && 'address' in problem.current
      ? String(problem.current.address)
      : null
  return (
    <div className={css['lost']} role="alert">
      <h2>{problem?.title ?? 'Something broke'}</h2>
      <p>{sentenceOf(error)}</p>
      <p>
        {moved !== null && (
          <>
            <a href={moved}>Go to {moved.split('/').at(-1)}</a>{' '}
          </>
        )}
        {problem?.type === 'urn:rovant:deleted' && ref && (
          <>
            <Button
              look="main"
              disabled={restoring.busy}
              onClick={() => void restoring.attempt({ params: { key }, body: { refs: [ref] } })}
            >
              Bring {ref} back
            </Button>{' '}
          </>
        )}
        <Button look="word" onClick={onClose}>
          Back to the list
        </Button>
      </p>
    </div>
  )
}
