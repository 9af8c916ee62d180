import { type ReactNode, useState } from 'react'
import { automations, importances } from '#core/cases/case.ts'
import { type CaseRow, type CaseSet, deleteCases } from '#core/cases/contract.ts'
import { minutesIn } from '#core/lib/figures.ts'
import type { CustomField } from '#core/projects/custom.ts'
import { listSuites } from '#core/plans/suite-contract.ts'
import { duplicateCases, sendCases, takeBackCases } from '#core/reuse/copy-contract.ts'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import type { Ticked } from '#ui/list/ListPage.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { useLinking } from '#ui/shell/links.ts'
import { howMany, type Many } from '#ui/shell/many.ts'
import { ManyFields } from '#ui/shell/ManyFields.tsx'
import { peopleOptions } from '#ui/shell/people.ts'
import { ofTicked, SuiteOf } from '#ui/plans/NewSuite.tsx'
import { RunOf, runOfCases } from '#ui/runs/RunOf.tsx'
import { usePinning } from '#ui/plans/pinning.ts'
import css from './ManyCases.module.css'
import { targetChoices } from '#ui/shell/target.ts'
import { fromIn } from './testable-from.ts'

interface Props {
  readonly ticked: Ticked<CaseRow>
  readonly many: Many<CaseSet>
  readonly fields: readonly CustomField[]
  readonly folders: readonly { readonly id: number; readonly name: string }[]
  readonly onReplace: () => void
  readonly onDelete: () => void
}

/** What can be done with ticked cases. */
export function ManyCases({ ticked, many, fields, folders, onReplace, onDelete }: Props) {
  const { ids, clear } = ticked
  const { project } = useHere()
  const set = (to: CaseSet) => void many.set(ids, to)
  const link = useLinking()
  const duplicate = useDuplicating()
  return (
    <>
      <SetTo label="Importance" options={importances} onSet={(importance) => set({ importance })} />
      <SetTo label="Owner" options={peopleOptions(project)} onSet={(ownerId) => set({ ownerId: ownerId || null })} />
      <SetTo
        label="Folder"
        options={folders.map(({ id, name }) => ({ value: String(id), label: name }))}
        onSet={(folder) => set({ folderId: Number(folder) })}
      />
      <SetTo label="Automation" options={automations} onSet={(automation) => set({ automation })} />
      <SetTo
        label="Testable from"
        options={targetChoices(project, 'their requirements')}
        onSet={(value) => set(fromIn(value))}
      />
      <Pop label="type, component, estimate" title="Type, component and estimate">
        <TypedFields onSet={set} />
      </Pop>
      <ManyFields fields={fields} onEdit={(edit) => void many.edit(ids, edit)} />
      <Pop label="pin to a suite" title="Pin to a suite">
        <PinTo ids={ids} />
      </Pop>
      <SuiteOf seed={ofTicked(ids)} />
      <RunOf seed={runOfCases(ids)} />
      <Pop label="link" title="Link to a requirement">
        <LinkBox to="requirement" onLink={async (to) => void (await link({ requirements: to, caseIds: [...ids] }))} />
      </Pop>
      <ExportMenu what="cases" ids={ids} />
      <Word onClick={onReplace}>find and replace</Word>
      <Word onClick={() => void duplicate(ids)}>duplicate</Word>
      <Pop label="to another project" title="To another project">
        <SendTo ids={ids} onSent={clear} />
      </Pop>
      <Word
        onClick={() => {
          set({ retired: true })
          clear()
        }}
      >
        retire
      </Word>
      <Word
        onClick={() => {
          onDelete()
          clear()
        }}
      >
        delete
      </Word>
    </>
  )
}

const Word = ({ onClick, children }: { onClick: () => void; children: string }) => (
  <Button look="word" onClick={onClick}>
    {children}
  </Button>
)

function useDuplicating() {
  const { key } = useHere()
  const duplicating = useWrite(duplicateCases)
  const removing = useWrite(deleteCases)
  return async (ids: readonly number[]) => {
    const done = await duplicating.attempt({ params: { key }, body: { ids: [...ids] } })
    if (!done) return
    notify(
      `${howMany(done.keys.length, ids.length, 'case')} copied, ${done.keys[0] ?? ''} to ${done.keys.at(-1) ?? ''}.`,
      {
        undo: () => void removing.attempt({ params: { key }, body: { ids: done.ids } }),
      },
    )
  }
}

/** A line of a form with one field and its button. */
function LineForm({ onSend, children }: { onSend: () => void; children: ReactNode }) {
  return (
    <Form className={css['line']} onSend={onSend}>
      {children}
    </Form>
  )
}

function PinTo({ ids }: { ids: readonly number[] }) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 500 } })
  const pin = usePinning()
  const open = (data?.rows ?? []).filter(({ state }) => state !== 'Closed')
  return (
    <div className={css['pins']}>
      {open.map((suite) => (
        <Button key={suite.key} look="word" onClick={() => void pin(suite, ids)}>
          {suite.title} <span className="quiet">{suite.cases}</span>
        </Button>
      ))}
      {open.length === 0 && <p className="quiet">There is no suite that is open; make one of these.</p>}
    </div>
  )
}

type TypedField = 'type' | 'component' | 'estimate'
const typedFields: readonly {
  readonly name: TypedField
  readonly label: string
  readonly fits: (text: string) => boolean
  readonly set: (text: string) => CaseSet
}[] = [
  { name: 'type', label: 'Type', fits: (text) => text !== '', set: (type) => ({ type }) },
  { name: 'component', label: 'Component', fits: () => true, set: (component) => ({ component }) },
  {
    name: 'estimate',
    label: 'Estimate in minutes',
    fits: (text) => minutesIn(text) !== undefined,
    set: (text) => ({ estimate: minutesIn(text) ?? null }),
  },
]

/** Fields that are typed, for all ticked rows; an empty estimate is open. */
function TypedFields({ onSet }: { onSet: (set: CaseSet) => void }) {
  const [draft, setDraft] = useState<Readonly<Record<TypedField, string>>>({ type: '', component: '', estimate: '' })
  return (
    <div className={css['typed']}>
      {typedFields.map(({ name, label, fits, set }) => {
        const text = draft[name].trim()
        return (
          <LineForm key={name} onSend={() => (fits(text) ? onSet(set(text)) : undefined)}>
            <TextInput
              aria-label={label}
              placeholder={label}
              value={draft[name]}
              onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
            />
            <Button type="submit" disabled={!fits(text)}>
              Set
            </Button>
          </LineForm>
        )
      })}
    </div>
  )
}

function SendTo({ ids, onSent }: { ids: readonly number[]; onSent: () => void }) {
  const { key, me } = useHere()
  const { attempt, busy } = useWrite(sendCases)
  const takingBack = useWrite(takeBackCases)
  const others = me.projects.filter((project) => project.key !== key && project.role !== 'viewer')
  const [to, setTo] = useState(others[0]?.key ?? '')
  const send = async (move: boolean) => {
    const done = await attempt({ params: { key }, body: { ids: [...ids], project: to, move } })
    if (!done) return
    const upTo = done.keys.length > 1 ? ` to ${done.keys.at(-1) ?? ''}` : ''
    const left = done.left.length > 0 ? ` Not taken along: ${done.left.join('; ')}.` : ''
    const told = `${howMany(done.keys.length, ids.length, 'case')} ${move ? 'moved' : 'copied'} to ${to}`
    const back = { copies: done.ids, moved: move ? [...ids] : [], project: to }
    notify(`${told}, as ${done.keys[0] ?? ''}${upTo}.${left}`, {
      undo: () => void takingBack.attempt({ params: { key }, body: back }),
    })
    if (move) onSent()
  }
  if (others.length === 0) return <p className="quiet">There is no other project in which you may write.</p>
  return (
    <div className={css['send']}>
      <Choice
        label="Project"
        value={to}
        options={others.map((project) => ({ value: project.key, label: project.name }))}
        onChoose={setTo}
      />
      <Button disabled={busy} onClick={() => void send(false)}>
        Copy
      </Button>
      <Button disabled={busy} onClick={() => void send(true)}>
        Move
      </Button>
    </div>
  )
}
