import { useState } from 'react'
import { changeCases } from '#core/cases/contract.ts'
import { changeDefects } from '#core/defects/contract.ts'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { handOver, readMember } from '#core/people/members-contract.ts'
import type { Project } from '#core/projects/contract.ts'
import { changeRequirements } from '#core/requirements/contract.ts'
import { changeItems } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'

interface Props {
  readonly of: { readonly id: string; readonly name: string }
  readonly project: Project
  readonly onClose: () => void
}

/** Gives somebody’s open work to somebody else, and says first what that is. */
export function HandOver({ of, project, onClose }: Props) {
  const takers = project.people.filter(({ id, role, ended }) => id !== of.id && role !== 'viewer' && !ended)
  const [to, setTo] = useState(takers[0]?.id ?? '')
  const { data } = useAnswer(readMember, { params: { key: project.key, person: of.id } })
  const { attempt, busy } = useWrite(handOver)
  const back = useGiveBack(project.key)
  const taker = takers.find(({ id }) => id === to)
  const hand = async () => {
    const done = await attempt({ params: { key: project.key, person: of.id }, body: { to } })
    if (!done) return
    onClose()
    notify(
      done.moved === 0
        ? `${of.name} has nothing open here.`
        : `${taker?.name ?? ''} has ${counted(done.moved, 'more thing')} to do.`,
      done.moved === 0 ? {} : { undo: () => void back(done, of.id) },
    )
  }
  return (
    <Dialog title={`Hand over the open work of ${of.name}`} onClose={onClose}>
      <PickForm onDo={() => void hand()}>
        {data && (
          <p>
            Open here: {counted(data.work.itemsTotal, 'item')} to execute, {counted(data.work.defects.length, 'defect')}
            ; owned: {counted(data.work.requirements, 'requirement')}, {counted(data.work.cases, 'case')}. Verdicts they
            gave stay theirs.
          </p>
        )}
        <p>
          All of it goes to{' '}
          <Choice
            label="Who takes it over"
            look="box"
            value={to}
            options={takers.map(({ id, name }) => ({ value: id, label: name }))}
            onChoose={setTo}
          />
        </p>
        <PickFoot>
          <Button look="main" type="submit" disabled={busy || to === ''}>
            Hand over
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

/** The way back of a hand-over: each thing is given again to who had it. */
function useGiveBack(key: string) {
  const items = useWrite(changeItems)
  const requirements = useWrite(changeRequirements)
  const cases = useWrite(changeCases)
  const defects = useWrite(changeDefects)
  return async (done: OutputOf<typeof handOver>, from: string) => {
    for (const { run, ids } of done.items)
      await items.attempt({ params: { key, ref: run }, body: { ids, set: { assigneeId: from } } })
    const params = { key }
    const set = { ownerId: from }
    if (done.requirements.length > 0) await requirements.attempt({ params, body: { ids: done.requirements, set } })
    if (done.cases.length > 0) await cases.attempt({ params, body: { ids: done.cases, set } })
    if (done.defects.length > 0) await defects.attempt({ params, body: { ids: done.defects, set } })
  }
}
