import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { RunRow } from '#core/runs/contract.ts'
import { endRuns } from '#core/runs/shape-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import type { Ticked } from '#ui/list/ListPage.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useCopying } from './useCopying.ts'
import { TagsOfRuns } from './RunTags.tsx'
import { useDeletingRuns } from './useDeletingRuns.ts'

/** What can be done with ticked runs. */
export function ManyRuns({ ids, clear }: Ticked<RunRow>) {
  const { project } = useHere()
  const end = useEnding(clear)
  if (project.role !== 'lead') return null
  return (
    <>
      <Pop label="close" title="Close runs">
        <Ending words={`Close ${counted(ids.length, 'run')}`} onEnd={(reason) => end(ids, 'Closed', reason)} />
      </Pop>
      <Pop label="end early" title="End runs early">
        <Ending
          words={`End ${counted(ids.length, 'run')} early`}
          asked
          onEnd={(reason) => end(ids, 'Aborted', reason)}
        />
      </Pop>
      <Button look="word" onClick={() => void end(ids, 'Open', '')}>
        open
      </Button>
      <Pop label="tags" title="Tags of runs">
        <TagsOfRuns ids={ids} />
      </Pop>
      <Copying ids={ids} clear={clear} />
      <Deleting ids={ids} clear={clear} />
    </>
  )
}

function Copying({ ids, clear }: Pick<Ticked<RunRow>, 'ids' | 'clear'>) {
  const copy = useCopying()
  return (
    <Button look="word" onClick={() => void copy(ids).then(clear)}>
      copy
    </Button>
  )
}

type State = RunRow['state']
const became: Readonly<Record<State, string>> = {
  Planned: 'planned again',
  Open: 'open',
  Closed: 'closed',
  Aborted: 'ended early',
}

function useEnding(clear: () => void) {
  const { key } = useHere()
  const { attempt } = useWrite(endRuns)
  const params = { key }
  return async (ids: readonly number[], state: State, reason: string) => {
    const done = await attempt({ params, body: { ids: [...ids], state, reason } })
    if (!done) return
    const [first] = done.left
    const left = first ? ` ${counted(done.left.length, 'run')} left as before: ${first.why}` : ''
    notify(`${counted(done.changed, 'run')} ${became[state]}.${left}`, {
      ...(first && { tone: 'problem' as const }),
      ...(done.changed > 0 && {
        undo: () => {
          for (const part of done.undo) void attempt({ params, body: part })
        },
      }),
    })
    clear()
  }
}

function Ending({
  words,
  asked = false,
  onEnd,
}: {
  words: string
  asked?: boolean
  onEnd: (reason: string) => Promise<void>
}) {
  const [reason, setReason] = useState('')
  const may = !asked || reason.trim() !== ''
  return (
    <Form
      onSend={async () => {
        if (may) await onEnd(reason.trim())
      }}
    >
      <Field
        label={asked ? 'For what reason?' : 'For what reason? (may stay empty)'}
        hint="What is open stays as it is."
      >
        {(id) => (
          <TextInput id={id} maxLength={500} value={reason} onChange={(event) => setReason(event.target.value)} />
        )}
      </Field>
      <Button look="main" type="submit" disabled={!may}>
        {words}
      </Button>
    </Form>
  )
}

function Deleting({ ids, clear }: Pick<Ticked<RunRow>, 'ids' | 'clear'>) {
  const deleting = useDeletingRuns()
  const remove = async () => {
    if (await deleting(ids, counted(ids.length, 'run'))) clear()
  }
  return (
    <Pop label="delete" title="Delete runs">
      <p style={{ maxInlineSize: 320, marginBlockEnd: 10 }}>
        They go out of every list; what was executed in them stays in history and counts.
      </p>
      <Button look="danger" onClick={() => void remove()}>
        Delete {counted(ids.length, 'run')}
      </Button>
    </Pop>
  )
}
