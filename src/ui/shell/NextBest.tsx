import { useState } from 'react'
import { minutesText } from '#core/lib/figures.ts'
import { readNextBest } from '#core/schedule/contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { useAnswer } from './answers.tsx'
import { useHere } from './here.ts'

/** One key that says what is worth most now, why, and goes there with Enter. */
export function useNextBest(not?: number) {
  const [open, setOpen] = useState(false)
  useKeys([{ id: 'next-best', keys: 'm', label: 'worth most', run: () => setOpen(true) }])
  return open ? <NextBestDialog not={not} onClose={() => setOpen(false)} /> : null
}

function NextBestDialog({ not, onClose }: { not: number | undefined; onClose: () => void }) {
  const { key } = useHere()
  const { data, error } = useAnswer(readNextBest, { params: { key }, query: not === undefined ? {} : { not } })
  const best = data?.best
  const execute = () => {
    if (best) location.assign(`/p/${key}/desk/${best.item}${best.free ? '?mine=no' : ''}`)
  }
  return (
    <Dialog title="Worth most now" onClose={onClose}>
      {error && <p role="alert">{sentenceOf(error)}</p>}
      {!data && !error && <p role="status">Weighing what you may execute…</p>}
      {data && !best && (
        <p>Nothing is open for you that does not wait for something: nothing of yours, and nothing free to take.</p>
      )}
      {data && best && (
        <PickForm onDo={execute}>
          <p>
            <a className="key" href={`/p/${key}/${best.case}`}>
              {best.case}
            </a>{' '}
            <b>{best.title}</b>, {best.environment}
          </p>
          <p>
            {best.why}; worth {best.worth.toFixed(1)} in {minutesText(best.minutes)}, the most a minute among{' '}
            {data.among} in {best.run}
            {best.free ? '; it is free to take' : ''}.
          </p>
          <PickFoot>
            <Button look="main" type="submit" autoFocus>
              Execute it
            </Button>
          </PickFoot>
        </PickForm>
      )}
    </Dialog>
  )
}
