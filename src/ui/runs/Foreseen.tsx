import { useEffect, useState } from 'react'
import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { previewRun } from '#core/runs/contract.ts'
import { call, CallProblem } from '#ui/call.ts'
import { useHere } from '#ui/shell/here.ts'
import { NamedKeys, Unapproved } from './Unapproved.tsx'

/** Long enough that a click on three environments asks once. */
const pause = 250

/** What the run would hold, said before it is opened: how much, what of it cannot be executed yet, which rows of data are missing. */
export function Foreseen({ of }: { of: BodyOf<typeof previewRun> }) {
  const { key } = useHere()
  const [told, setTold] = useState<OutputOf<typeof previewRun> | string | null>(null)
  const asked = JSON.stringify(of)
  useEffect(() => {
    const stopping = new AbortController()
    const ask = async () => {
      try {
        setTold(await call(previewRun, { params: { key }, body: of, signal: stopping.signal }))
      } catch (error) {
        // What is wrong with it is said when it is opened; that there is nothing in it is worth knowing before.
        if (error instanceof CallProblem && error.problem.status === 422) setTold(error.problem.detail)
        else if (!stopping.signal.aborted) setTold(null)
      }
    }
    const wait = setTimeout(() => void ask(), pause)
    return () => {
      clearTimeout(wait)
      stopping.abort()
    }
  }, [asked])
  if (told === null) return null
  if (typeof told === 'string') return <p role="note">{told}</p>
  return <Told of={told} />
}

function Told({ of }: { of: OutputOf<typeof previewRun> }) {
  const missing = of.data.filter(({ needed, left }) => needed > left)
  return (
    <div role="note" style={{ marginBlockEnd: 12 }}>
      <p>
        {counted(of.items, 'item')}, {minutesText(of.minutes)} of work
        {of.team && of.team.minutes > 0 && `; the team has ${minutesText(of.team.minutes)} on these days`}.
        {of.team && of.team.minutes === 0 && <b> The team has no hours on these days.</b>}
        {of.team && of.team.minutes > 0 && of.team.none.length > 0 && ` No hours: ${of.team.none.join(', ')}.`}
      </p>
      {of.leftOutCount > 0 && (
        <p>
          {counted(of.leftOutCount, 'case')} left out, not testable yet:{' '}
          <NamedKeys of={of.leftOut} all={of.leftOutCount} />.
        </p>
      )}
      <Unapproved of={of.unapproved} all={of.unapprovedCount} />
      {missing.map(({ table, environment, needed, left }) => (
        <p key={`${table} ${environment}`}>
          <b>{table}</b> in {environment}: {needed} needed, {left} left.
        </p>
      ))}
    </div>
  )
}
