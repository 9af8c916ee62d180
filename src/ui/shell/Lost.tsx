import { CallProblem, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import css from './sheet.module.css'

/** In place of a sheet that cannot be shown: what is the matter, and the way back. */
export function Lost({ error, onClose }: { error: Error; onClose: () => void }) {
  const title = error instanceof CallProblem ? error.problem.title : 'Something broke'
  return <div className={css['lost']} role="alert"><h2>{title}</h2><p>{sentenceOf(error)}</p><p><Button look="word" onClick={onClose}>Back to the list</Button></p></div>
}
