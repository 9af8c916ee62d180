import { useState } from 'react'
import type { Desk } from '#core/runs/contract.ts'
import { minutesText } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Desk.module.css'

export const QueueRest = ({ queue }: { queue: Desk['queue'] }) =>
  queue.length === 0 ? (
    <span className="quiet">nothing more</span>
  ) : (
    <span className="quiet">
      and {queue.length} more, {minutesText(queue.reduce((sum, { minutes }) => sum + minutes, 0))}
    </span>
  )

export function rowVerdict(attempt: Desk['attempt'], row: number): string {
  const marks = attempt?.marks.filter((mark) => mark.row === row && mark.verdict !== 'Not run') ?? []
  if (marks.length === 0) return 'Not run'
  return (
    marks.find(({ verdict }) => verdict === 'Failed' || verdict === 'Blocked')?.verdict ??
    (marks.length === attempt?.steps.length ? 'Passed' : 'In progress')
  )
}

export function Override({
  verdict,
  onClose,
  onGive,
}: {
  verdict: string
  onClose: () => void
  onGive: (reason: string) => void
}) {
  const [reason, setReason] = useState('')
  return (
    <Dialog title={`A step failed: why is the whole ${verdict}?`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (reason.trim() !== '') onGive(reason)
        }}
      >
        <textarea
          aria-label="Reason"
          autoFocus
          rows={3}
          className={css['reason']}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <p className="quiet">The reason stays with the attempt until the override is lifted.</p>
        <Button look="main" type="submit" disabled={reason.trim() === ''}>
          Override as {verdict}
        </Button>
      </form>
    </Dialog>
  )
}

/** What should be so before the first step: cases that ran before, the environment the case needs. */
export function Needs({ desk }: { desk: Desk }) {
  const { key } = useHere()
  const elsewhere = desk.wants !== '' && desk.wants !== desk.item.environment
  if (desk.needs.length === 0 && !elsewhere) return null
  return (
    <div className={css['before']}>
      <span className="quiet">first</span>{' '}
      <span>
        {desk.needs.map((need, index) => (
          <span key={need.key}>
            {index > 0 && ', '}
            <Mark verdict={need.verdict ?? 'Not run'} size={12} label={need.verdict ?? 'not part of this run'} />{' '}
            <a href={`/p/${key}/${need.key}`} title={need.title}>
              {need.key}
            </a>
          </span>
        ))}
        {desk.needs.some(({ verdict }) => verdict !== 'Passed') && ' should have passed before'}
        {elsewhere &&
          `${desk.needs.length > 0 ? '; ' : ''}it is meant for ${desk.wants}, and this is ${desk.item.environment}`}
      </span>
    </div>
  )
}
