import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { addItems, dropItems } from '#core/runs/compose-contract.ts'
import type { RunReason } from '#core/runs/compose.ts'
import { listRuns } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

const goesOn = JSON.stringify({ field: 'state', op: 'is', values: ['Open', 'Planned'] })

/** Puts what is chosen into a run that goes on; what is in it by now is named and not doubled. */
export function JoinRun({
  slots,
  onClose,
}: {
  slots: readonly { readonly case: number; readonly environment: number; readonly reasons: RunReason[] }[]
  onClose: () => void
}) {
  const { key } = useHere()
  const { data } = useAnswer(listRuns, { params: { key }, query: { limit: 100, filter: goesOn, sort: '-number' } })
  const [chosen, setChosen] = useState<string | null>(null)
  const adding = useWrite(addItems)
  const dropping = useWrite(dropItems)
  const ref = chosen ?? data?.rows[0]?.key ?? ''
  const join = async () => {
    const joined = await adding.attempt({ params: { key, ref }, body: { items: [...slots] } })
    if (!joined) return
    onClose()
    const there = joined.there > 0 ? ` ${counted(joined.there, 'was', 'were')} in it by now.` : ''
    notify(
      `${counted(joined.added, 'item')} joined ${ref}.${there}`,
      joined.added === 0
        ? {}
        : {
            undo: () => void dropping.attempt({ params: { key, ref }, body: { ids: joined.undo } }),
          },
    )
  }
  return (
    <Dialog title="Join an open run" onClose={onClose}>
      {data?.rows.length === 0 ? (
        <p>No run is open or planned; open this as one of its own.</p>
      ) : (
        <Form onSend={() => void join()}>
          <p style={{ marginBlockEnd: 12 }}>
            {counted(slots.length, 'item')} go into{' '}
            <Choice
              label="Run"
              look="box"
              value={ref}
              options={(data?.rows ?? []).map((run) => ({ value: run.key, label: `${run.key} ${run.title}` }))}
              onChoose={setChosen}
            />
            , behind what is in it; what is there already stays as it is.
          </p>
          <Button look="main" type="submit" disabled={adding.busy || ref === ''}>
            Join
          </Button>
        </Form>
      )}
    </Dialog>
  )
}
