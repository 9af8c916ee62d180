import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { type FinalVerdict, finalVerdicts, type OwnVerdict, signs, tints } from '#core/lib/verdict.ts'
import type { Project } from '#core/projects/contract.ts'
import {
  addReason,
  addVerdict,
  copyVerdict,
  orderVerdicts,
  retireReason,
  updateVerdict,
} from '#core/projects/words-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { RowActs, Table } from '#ui/kit/Settings.tsx'
import { Ticks } from '#ui/plans/Ticks.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { AddLine } from './AddLine.tsx'
import css from './SetUp.module.css'

const means: Readonly<Record<FinalVerdict, string>> = {
  Passed: 'Everything was as expected; it counts for what is passing.',
  Failed: 'Something was not as expected; a defect can be reported from it.',
  Blocked: 'It could not be executed to its end; it counts as not passing, and waits.',
  Skipped: 'It was left out on purpose; it counts as not executed.',
  Inconclusive: 'It was executed, and nobody can say; it counts as not passing.',
}
const ofWhat = { items: 'items', steps: 'steps', both: 'items and steps' } as const
type OfWhat = keyof typeof ofWhat
const whatOf = ({ forItems, forSteps }: Pick<OwnVerdict, 'forItems' | 'forSteps'>): OfWhat =>
  forItems && forSteps ? 'both' : forItems ? 'items' : 'steps'
const flagsOf = (what: OfWhat) => ({ forItems: what !== 'steps', forSteps: what !== 'items' })
const whatOptions = (Object.keys(ofWhat) as OfWhat[]).map((value) => ({ value, label: ofWhat[value] }))

/** The verdicts there are, the project’s own with what each counts as, and the reasons that may be given for them. */
export function VerdictsPart({ of }: { of: Project }) {
  const lead = of.role === 'lead'
  return (
    <>
      <Table label="Verdicts" head={['Verdict', 'Counts as', 'What it says', 'Of', '']}>
        {finalVerdicts.map((verdict) => (
          <tr key={verdict}>
            <td>{verdict}</td>
            <td>
              <Mark verdict={verdict} label={false} /> <span className="hidden">itself</span>
            </td>
            <td className="quiet">{means[verdict]}</td>
            <td className="quiet">items and steps</td>
            <td />
          </tr>
        ))}
        {of.verdictKinds.map((kind, at) => (
          <OwnRow key={kind.id} of={of} kind={kind} at={at} lead={lead} />
        ))}
      </Table>
      {lead && <NewVerdict of={of} />}
      <h2 className={css['second']}>Reasons</h2>
      <p className="quiet">
        A policy may ask for one of them beside the verdict; a retired one stays where it was given.
      </p>
      <Table label="Reasons" head={['For', 'Reasons', '']}>
        {finalVerdicts
          .filter((verdict) => verdict !== 'Passed')
          .map((verdict) => (
            <ReasonsRow key={verdict} of={of} verdict={verdict} lead={lead} />
          ))}
      </Table>
    </>
  )
}

/** What a lead does with an own verdict, each with its way back. */
function useOwnVerdict(of: Project, kind: OwnVerdict, at: number) {
  const store = useUndoable(updateVerdict, { key: of.key, id: kind.id })
  const order = useUndoable(orderVerdicts, { key: of.key })
  const retired = kind.retiredAt !== null
  const change = (body: BodyOf<typeof updateVerdict>) =>
    void store(body, `${kind.word} is changed.`, {
      forItems: kind.forItems,
      forSteps: kind.forSteps,
      sign: kind.sign,
      tint: kind.tint,
    })
  const retire = () =>
    void store(
      { retired: !retired },
      retired ? `${kind.word} is in use again.` : `${kind.word} is retired; what was said with it stays.`,
      { retired },
    )
  const up = () => {
    const ids = of.verdictKinds.map(({ id }) => id)
    const moved = ids.map((id, place) => (place === at - 1 ? kind.id : place === at ? (ids[at - 1] ?? id) : id))
    void order({ ids: moved }, `${kind.word} stands one place higher.`, { ids })
  }
  return { change, retire, up, retired }
}

function OwnRow({ of, kind, at, lead }: { of: Project; kind: OwnVerdict; at: number; lead: boolean }) {
  const { change, retire, up, retired } = useOwnVerdict(of, kind, at)
  return (
    <tr>
      <td className={retired ? 'quiet' : undefined}>
        {kind.word}
        {retired && ', retired'}
      </td>
      <td>
        <Mark verdict={kind.countsAs} own={kind} label={false} /> {kind.countsAs}
        {!kind.final && <span className="quiet">, not final</span>}
      </td>
      <td>
        {lead && !retired ? (
          <Drawing of={kind} onChange={change} />
        ) : (
          <span className="quiet">A word of this project.</span>
        )}
      </td>
      <td>
        {lead && !retired ? (
          <Choice
            label={`What ${kind.word} is said of`}
            value={whatOf(kind)}
            options={whatOptions}
            onChoose={(what) => change(flagsOf(what))}
          />
        ) : (
          <span className="quiet">{ofWhat[whatOf(kind)]}</span>
        )}
      </td>
      <td>
        {lead && (
          <RowActs>
            {at > 0 && (
              <Button look="word" onClick={up}>
                up<span className="hidden">: {kind.word}</span>
              </Button>
            )}
            {!retired && <AlsoIn of={of} kind={kind} />}
            <Button look="word" onClick={retire}>
              {retired ? 'use again' : 'retire'}
              <span className="hidden">: {kind.word}</span>
            </Button>
          </RowActs>
        )}
      </td>
    </tr>
  )
}

/** Has the same verdict in other projects too. */
function AlsoIn({ of, kind }: { of: Project; kind: OwnVerdict }) {
  const { me } = useHere()
  const { attempt } = useWrite(copyVerdict)
  const [open, setOpen] = useState(false)
  const [ticked, setTicked] = useState<string[]>([])
  const others = me.projects.filter(({ key, role }) => key !== of.key && role === 'lead')
  if (others.length === 0) return null
  const add = async () => {
    const done = await attempt({ params: { key: of.key, id: kind.id }, body: { projects: ticked } })
    if (!done) return
    const left = done.left.map(({ project, why }) => ` Not in ${project}: ${why}`).join('')
    notify(
      done.added.length === 0
        ? `Nothing was added.${left}`
        : `${kind.word} can be given in ${done.added.join(', ')} too.${left}`,
      done.left.length > 0 ? { tone: 'problem' } : {},
    )
    setOpen(false)
  }
  return (
    <Pop
      label={
        <>
          also in<span className="hidden"> other projects: {kind.word}</span>
        </>
      }
      title={`${kind.word} in other projects`}
      open={open}
      onOpen={setOpen}
    >
      <Ticks
        legend={`Have “${kind.word}” in`}
        all={others.map(({ key, name }) => ({ id: key, name, note: key }))}
        ticked={ticked}
        onTick={setTicked}
      />
      <Button look="main" disabled={ticked.length === 0} onClick={() => void add()}>
        Add it there
      </Button>
    </Pop>
  )
}

/** Which sign it has beside the mark of what it counts as, and in which tint. */
const Drawing = ({
  of,
  onChange,
}: {
  of: Pick<OwnVerdict, 'word' | 'sign' | 'tint'>
  onChange: (to: Partial<Pick<OwnVerdict, 'sign' | 'tint'>>) => void
}) => (
  <span className="quiet">
    with a{' '}
    <Choice label={`Tint of ${of.word}`} value={of.tint} options={tints} onChoose={(tint) => onChange({ tint })} />{' '}
    <Choice label={`Sign of ${of.word}`} value={of.sign} options={signs} onChoose={(sign) => onChange({ sign })} />
  </span>
)

const fresh: BodyOf<typeof addVerdict> = {
  word: '',
  countsAs: 'Failed',
  final: true,
  forItems: true,
  forSteps: true,
  sign: 'dot',
  tint: 'blue',
}

/** A word, what it counts as for good, and how it is drawn. */
function NewVerdict({ of }: { of: Project }) {
  const { attempt } = useWrite(addVerdict)
  const [draft, setDraft] = useState(fresh)
  const set = (to: Partial<typeof draft>) => setDraft({ ...draft, ...to })
  const add = async () => {
    if (draft.word.trim() === '' || !(await attempt({ params: { key: of.key }, body: draft }))) return
    notify(`${draft.word.trim()} can be given from now on; its key stands at the desk.`)
    setDraft(fresh)
  }
  return (
    <Form className={css['newField']} onSend={() => void add()}>
      <TextInput
        aria-label="Word of a new verdict"
        placeholder="A verdict of your own"
        maxLength={40}
        value={draft.word}
        onChange={(event) => set({ word: event.target.value })}
      />
      <span>
        counts as{' '}
        <Choice
          label="Counts as"
          value={draft.countsAs}
          options={finalVerdicts}
          onChoose={(countsAs) => set({ countsAs })}
        />
        ,{' '}
        <Choice
          label="Does it end the matter?"
          value={draft.final ? 'final' : 'open'}
          options={[
            { value: 'final', label: 'and ends the matter' },
            { value: 'open', label: 'and is not final: it goes on' },
          ]}
          onChoose={(final) => set({ final: final === 'final' })}
        />
        , of{' '}
        <Choice
          label="What it is said of"
          value={whatOf(draft)}
          options={whatOptions}
          onChoose={(what) => set(flagsOf(what))}
        />
        , <Mark verdict={draft.countsAs} own={draft} label={false} />{' '}
        <Drawing of={{ ...draft, word: 'the new verdict' }} onChange={set} />
      </span>
      <Button type="submit" disabled={draft.word.trim() === ''}>
        Add it
      </Button>
    </Form>
  )
}

function ReasonsRow({ of, verdict, lead }: { of: Project; verdict: FinalVerdict; lead: boolean }) {
  const { attempt: add } = useWrite(addReason)
  const own = of.reasons.filter((each) => each.verdict === verdict)
  return (
    <tr>
      <td>
        <Mark verdict={verdict} label={false} /> {verdict}
      </td>
      <td>
        {own.length === 0 && <span className="quiet">None yet.</span>}
        <ul className={css['reasons']}>
          {own.map((reason) => (
            <li key={reason.id}>
              <ReasonWord of={of} reason={reason} lead={lead} />
            </li>
          ))}
        </ul>
      </td>
      <td>
        {lead && (
          <AddLine
            label={`A reason for ${verdict}`}
            example="A reason"
            action="Add"
            onAdd={async (word) => (await add({ params: { key: of.key }, body: { verdict, word } })) !== null}
          />
        )}
      </td>
    </tr>
  )
}

function ReasonWord({ of, reason, lead }: { of: Project; reason: Project['reasons'][number]; lead: boolean }) {
  const store = useUndoable(retireReason, { key: of.key, id: reason.id })
  const retired = reason.retiredAt !== null
  const turn = () =>
    void store({ retired: !retired }, `“${reason.word}” is ${retired ? 'in use again' : 'retired'}.`, { retired })
  return (
    <>
      <span className={retired ? 'quiet' : undefined}>
        {reason.word}
        {retired && ' (retired)'}
      </span>{' '}
      {lead && (
        <Button look="word" onClick={turn}>
          {retired ? 'use again' : 'retire'}
          <span className="hidden">: {reason.word}</span>
        </Button>
      )}
    </>
  )
}
