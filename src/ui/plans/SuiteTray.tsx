import { listSuites } from '#core/plans/suite-contract.ts'
import { DropTray } from '#ui/list/DropTray.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { usePinning } from './pinning.ts'

const idsType = 'application/x-rovant-ids'

/** The suites beside the cases, so that rows can be dropped on them. */
export function SuiteTray({ onClose }: { onClose: () => void }) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 500 } }, { keep: true })
  const pin = usePinning()
  const places = (data?.rows ?? []).filter(({ state }) => state !== 'Closed')
  return (
    <DropTray
      title="Suites"
      told="Drop cases on a suite to pin them to it; ticked ones go together. By key: tick, then “pin to a suite”."
      type={idsType}
      places={places.map(({ id, key: ref, title, cases }) => ({ id, key: ref, title, note: String(cases) }))}
      onDrop={(place, carried) => void pin(place, carried.split(',').map(Number))}
      onClose={onClose}
    />
  )
}
