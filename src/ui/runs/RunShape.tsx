import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { listRuns, type RunSheet } from '#core/runs/contract.ts'
import { mergeRuns, splitRun, splitWays, unmergeRuns } from '#core/runs/shape-contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { NewRun } from './NewRun.tsx'
import css from './RunSheet.module.css'
import { slotsOfRun } from './slots-of-run.ts'
import { attemptsStay, useDeletingRuns } from './useDeletingRuns.ts'

/** What can be made of a whole run: another like it, several, one with others, nothing. */
export function RunShape({ of, onClose }: { of: RunSheet; onClose: () => void }) {
  const { project } = useHere()
  if (project.role !== 'lead') return null
  const goes = !hasEnded(of.state)
  return (
    <div className={css['shape']}>
      {goes && (
        <Button look="word" onClick={() => go({ params: { add: 'yes' } })}>
          add cases
        </Button>
      )}
      <Copy of={of} />
      {goes && <SplitBy of={of} />}
      {goes && <MergeWith of={of} />}
      <Delete of={of} onClose={onClose} />
    </div>
  )
}

type Slots = readonly { case: number; environment: number }[]

function Copy({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const [slots, setSlots] = useState<Slots | null>(null)
  const open = () =>
    slotsOfRun(key, of.key).then(setSlots, (error: unknown) => notify(sentenceOf(error), { tone: 'problem' }))
  return (
    <>
      <Button look="word" onClick={() => void open()}>
        copy
      </Button>
      {slots && (
        <NewRun
          plan={null}
          known={{ title: `${of.title}, again`, build: of.buildId, releaseId: of.releaseId }}
          slots={slots}
          onClose={() => setSlots(null)}
        />
      )}
    </>
  )
}

function SplitBy({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const splitting = useWrite(splitRun)
  const merging = useWrite(mergeRuns)
  const params = { key, ref: of.key }
  const split = async (by: (typeof splitWays)[number]) => {
    const done = await splitting.attempt({ params, body: { by } })
    if (!done) return
    const from = done.runs.map((run) => run.key)
    notify(`${counted(done.runs.length, 'run')} made of it: ${from.join(', ')}; the largest part stays here.`, {
      undo: () => void merging.attempt({ params, body: { from, remove: true } }),
    })
  }
  return (
    <SetTo
      label="Split by"
      options={splitWays.map((way) => ({ value: way, label: way }))}
      onSet={(by) => void split(by)}
    />
  )
}

const goesOn = JSON.stringify({ field: 'state', op: 'is', values: ['Open', 'Planned'] })

function MergeWith({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const { data } = useAnswer(listRuns, { params: { key }, query: { filter: goesOn, limit: 200, count: 'no' } })
  const merging = useWrite(mergeRuns)
  const back = useWrite(unmergeRuns)
  const params = { key, ref: of.key }
  const others = (data?.rows ?? []).filter((run) => run.key !== of.key)
  if (others.length === 0) return null
  const merge = async (from: string) => {
    const done = await merging.attempt({ params, body: { from: [from] } })
    if (!done) return
    const twins = done.twins > 0 ? ` ${counted(done.twins, 'item')} in both stay in ${from}.` : ''
    notify(`${counted(done.moved, 'item')} of ${from} came in; it is closed.${twins}`, {
      undo: () => void back.attempt({ params, body: { parts: done.undo } }),
    })
  }
  return (
    <SetTo
      label="Take in"
      words="take in another run"
      options={others.map((run) => ({ value: run.key, label: `${run.key} ${run.title}` }))}
      onSet={(run) => void merge(run)}
    />
  )
}

/** Asks, and names what stays. */
function Delete({ of, onClose }: { of: RunSheet; onClose: () => void }) {
  const deleting = useDeletingRuns()
  const remove = async () => {
    if (await deleting([of.id], `${of.key} is`)) onClose()
  }
  return (
    <Pop label="delete" title={`Delete ${of.key}`}>
      <p style={{ maxInlineSize: 320, marginBlockEnd: 10 }}>
        {of.key} goes out of every list. {attemptsStay(of.attempts)}
      </p>
      <Button look="danger" onClick={() => void remove()}>
        Delete {of.key}
      </Button>
    </Pop>
  )
}
