import { useState } from 'react'
import type { RunSheet } from '#core/runs/contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { NewRun } from './NewRun.tsx'
import { slotsOfItems } from './slots-of-run.ts'

/** Opens a run of its own over ticked items, each in its own environment. */
export function AgainItems({ of, ids }: { of: RunSheet; ids: readonly number[] }) {
  const { key, project } = useHere()
  const [slots, setSlots] = useState<Awaited<ReturnType<typeof slotsOfItems>> | null>(null)
  if (project.role !== 'lead') return null
  const ask = () =>
    slotsOfItems(key, of.key, ids).then(setSlots, (error: unknown) => notify(sentenceOf(error), { tone: 'problem' }))
  return (
    <>
      <Button look="word" onClick={() => void ask()}>
        run again
      </Button>
      {slots && (
        <NewRun
          plan={null}
          slots={slots}
          known={{ title: `${of.title}, again`.slice(0, 200), build: of.buildId, releaseId: of.releaseId }}
          onClose={() => setSlots(null)}
        />
      )}
    </>
  )
}
