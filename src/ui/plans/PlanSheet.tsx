import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { minutesText } from '#core/lib/figures.ts'
import { type PlanSheet, readPlan, updatePlan } from '#core/plans/contract.ts'
import { type PlanCriteria, tallyWords } from '#core/plans/criteria-contract.ts'
import { type PlanPart, planParts, planStates, questions } from '#core/plans/state.ts'
import type { Served } from '#core/lib/question.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import { CarryPart } from './CarryPart.tsx'
import { EnoughPart, useCriteria } from './EnoughPart.tsx'
import css from './Plan.module.css'
import { PlanNews } from './PlanNews.tsx'
import { PrintPlan } from './PrintPlan.tsx'
import { VersionPart } from './VersionPart.tsx'
import { PutUp, SignedState } from './Versions.tsx'
import { WhatPart } from './WhatPart.tsx'
import { WhenPart } from './WhenPart.tsx'
import { WherePart } from './WherePart.tsx'
import { WhyPart } from './WhyPart.tsx'

interface Props {
  readonly about: string
  readonly served: Served<PlanSheet> | null
  readonly onClose: () => void
}

type PlanEdit = BodyOf<typeof updatePlan>
export interface PartProps {
  readonly of: PlanSheet
  /** May one write in it here? */
  readonly may: boolean
  readonly edit: (edit: PlanEdit) => Promise<boolean>
}

export function PlanSheetView({ about, served, onClose }: Props) {
  const { key } = useHere()
  const { data, error } = useAnswer(readPlan, { params: { key, ref: about } }, { served })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Plan of={data} onClose={onClose} /> : null
}

const isPart = (text: string | null): text is PlanPart => planParts.some((part) => part === text)
/** The first question needs no word in the address. */
const show = (part: PlanPart) =>
  go({ params: { part: part === 'why' ? null : part, carry: null, version: null, with: null } })

/** A plan as the answers to five questions, each with an address. */
function Plan({ of, onClose }: { of: PlanSheet; onClose: () => void }) {
  const { key, project } = useHere()
  const params = useParams('part', 'carry', 'version')
  const asked = params.get('part')
  const version = Number(params.get('version') ?? 0)
  const carries = params.get('carry') === 'yes' && version === 0
  const part = isPart(asked) ? asked : 'why'
  const edit = useEdit(updatePlan, { key, ref: of.key }, of)
  const [opening, setOpening] = useState(false)
  const [asking, setAsking] = useState(false)
  const may = project.role === 'lead' && of.frozen === null && of.state !== 'Closed'
  useKeys([
    ...planParts.map((each, at) => ({
      id: `question-${each}`,
      keys: String(at + 1),
      label: at === 0 ? 'the questions, 1 to 5' : questions[each].toLowerCase(),
      quiet: at > 0,
      run: () => show(each),
    })),
    ...(part === 'enough' ? [] : [{ id: 'open-run', keys: 'o', label: 'open a run', run: () => setOpening(true) }]),
    { id: 'carry-over', keys: 'y', label: 'carry over', quiet: true, run: () => carryOver() },
    ...(may ? [{ id: 'put-up', keys: 'v', label: 'ask for a review', run: () => setAsking(true) }] : []),
  ])
  return (
    <article className={css['plan']} aria-label={`${of.key} ${of.title}`}>
      <Side
        of={of}
        part={part}
        elsewhere={carries || version > 0}
        may={may}
        edit={edit}
        onClose={onClose}
        onRun={() => setOpening(true)}
      />
      <div className={css['body']}>
        {version > 0 ? (
          <VersionPart of={of} version={version} />
        ) : carries ? (
          <CarryPart of={of} may={project.role === 'lead'} />
        ) : (
          <Part part={part} of={of} may={may} edit={edit} />
        )}
        {part === 'why' && !carries && version === 0 && <History about={of.key} />}
      </div>
      {asking && <PutUp of={of} onClose={() => setAsking(false)} />}
      {opening && <RunOf of={of} onClose={() => setOpening(false)} />}
    </article>
  )
}

function RunOf({ of, onClose }: { of: PlanSheet; onClose: () => void }) {
  return (
    <NewRun
      plan={{
        id: of.id,
        title: of.title,
        releaseId: of.releaseId,
        environments: of.environmentList.map(({ id }) => id),
        asks: of.asks.length > 0,
      }}
      early={useEarly(of.key)}
      onClose={onClose}
    />
  )
}

/** Entry criteria that do not hold, each with its figure. */
function useEarly(ref: string): string[] {
  const criteria = useCriteria(ref).data?.criteria ?? []
  return criteria
    .filter(({ side, outcome }) => side === 'entry' && (outcome === 'not met' || outcome === 'undecidable'))
    .map(({ words, figureText }) => `${words} (${figureText})`)
}

function Part({ part, ...props }: PartProps & { part: PlanPart }) {
  switch (part) {
    case 'why':
      return <WhyPart {...props} />
    case 'what':
      return <WhatPart {...props} />
    case 'where':
      return <WherePart {...props} />
    case 'when':
      return <WhenPart {...props} />
    case 'enough':
      return <EnoughPart of={props.of} may={props.may} />
  }
}

interface SideProps extends PartProps {
  readonly part: PlanPart
  /** Something else than one of the questions is shown. */
  readonly elsewhere: boolean
  readonly onClose: () => void
  readonly onRun: () => void
}

function Side({ of, part, elsewhere, may, edit, onClose, onRun }: SideProps) {
  const { key, project } = useHere()
  const criteria = useCriteria(of.key).data
  const notes: Readonly<Record<PlanPart, string>> = {
    why: whyNote(of),
    what: whatNote(of),
    where: whereNote(of),
    when: whenNote(of),
    enough: criteria ? enoughNote(criteria.exit) : '…',
  }
  return (
    <aside className={css['side']}>
      <h1>{may ? <EditText label="Title" value={of.title} onStore={(title) => void edit({ title })} /> : of.title}</h1>
      <p className={css['said']}>
        <span className="key">{of.key}</span> is{' '}
        <Choice
          label="State"
          value={of.state}
          options={statesFor(of)}
          disabled={project.role !== 'lead'}
          onChoose={(state) => void edit({ state })}
        />
        , for <b>Release {of.release}</b>
        {of.iteration && (
          <>
            , <b>{of.iteration}</b>
          </>
        )}
      </p>
      <nav className={css['questions']} aria-label="The questions of the plan">
        {planParts.map((each) => (
          <a
            key={each}
            href={`/p/${key}/${of.key}${each === 'why' ? '' : `?part=${each}`}`}
            aria-current={each === part && !elsewhere ? 'page' : undefined}
            onClick={(event) => {
              if (event.ctrlKey || event.metaKey || event.shiftKey) return
              event.preventDefault()
              show(each)
            }}
          >
            <b>{questions[each]}</b>
            <span>{notes[each]}</span>
          </a>
        ))}
      </nav>
      <div className={css['signed']}>
        <SignedState of={of} />
      </div>
      <Acts of={of} onRun={onRun} onClose={onClose} />
      <PlanNews of={of} onPart={show} />
    </aside>
  )
}

function Acts({ of, onRun, onClose }: { of: PlanSheet; onRun: () => void; onClose: () => void }) {
  const { key, project } = useHere()
  return (
    <p className={css['line']}>
      {project.role === 'lead' && <Button onClick={onRun}>Open a run</Button>}
      <Button look="word" onClick={() => location.assign(`/p/${key}/runs/line?plan=${of.key}`)}>
        Cut line
      </Button>
      <Button look="word" onClick={() => location.assign(`/p/${key}/runs/again?plan=${of.key}`)}>
        what again
      </Button>
      <Button look="word" onClick={carryOver}>
        carry over
      </Button>
      <PrintPlan of={of} />
      <Button look="word" onClick={onClose}>
        all plans
      </Button>
    </p>
  )
}

const carryOver = () => go({ params: { carry: 'yes', version: null, with: null } })

/** Where it can go by hand: it is in review and signed off by what people answer. */
const statesFor = ({ state }: PlanSheet) =>
  planStates.filter((each) => each === state || each === 'Drafting' || each === 'Closed')

const counts = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

const whyNote = ({ risks, objective }: PlanSheet): string =>
  risks.length > 0 ? counts(risks.length, 'risk') : objective === '' ? 'nothing said yet' : 'objective'

function whatNote({ suites, cases, branches }: PlanSheet): string {
  const out = branches.filter(({ inside }) => !inside)
  return `${counts(suites, 'suite')}, ${counts(cases, 'case')}${out.length > 0 ? `; out: ${out.map(({ title }) => title).join(', ')}` : ''}`
}

const enoughNote = (exit: PlanCriteria['exit']): string => (exit.of > 0 ? tallyWords(exit) : 'no criterion yet')

const whereNote = ({ environmentList }: PlanSheet): string =>
  environmentList.length === 0 ? 'in any environment' : counts(environmentList.length, 'environment')

function whenNote({ people, dueOn }: PlanSheet): string {
  const due = dueOn === null ? 'no due day' : `until ${dayText(dueOn)}`
  const minutes = people.reduce((sum, each) => sum + (each.minutes ?? 0), 0)
  return people.length === 0
    ? due
    : `${people.length === 1 ? '1 person' : `${people.length} people`}, ${minutesText(minutes)} ${due}`
}
