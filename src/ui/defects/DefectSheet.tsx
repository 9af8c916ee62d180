import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { type DefectSheet, readDefect, updateDefect } from '#core/defects/contract.ts'
import { severities } from '#core/defects/state.ts'
import type { Project } from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice, type Option } from '#ui/kit/Choice.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { ComponentFact, OwnerFact, Part, SheetEnd, TitleHead } from '#ui/shell/SheetParts.tsx'
import { RunOf, runOfDefect } from '#ui/runs/RunOf.tsx'
import { DefectThread, linksBy, useResultAddress } from './DefectThread.tsx'
import css from '#ui/shell/sheet.module.css'

export function DefectSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<DefectSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readDefect, { params: { key, ref: about } }, { served, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data && data.key === about ? <Sheet of={data} /> : null
}

type Edit = BodyOf<typeof updateDefect>
type Move = (state: DefectSheet['state']) => void

function Sheet({ of }: { of: DefectSheet }) {
  const { key } = useHere()
  const [fixing, setFixing] = useState(false)
  const set = useEdit(updateDefect, { key, ref: of.key }, of)
  const store = (edit: Edit) => void set(edit)
  const move: Move = (state) =>
    state === 'Ready to retest' && of.fixedInId === null ? setFixing(true) : store({ state })
  return (
    <>
      <DefectThread of={of} />
      <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
        <TitleHead title={of.title} onStore={(title) => store({ title })} />
        <Facts of={of} onSet={store} onMove={move} />
        <NextStates of={of} onMove={move} />
        <p>
          <RunOf seed={runOfDefect(of)} word="open a run of its cases" />
        </p>
        {fixing && (
          <Repair
            onBuild={(fixedInId) => void set({ state: 'Ready to retest', fixedInId }).then(() => setFixing(false))}
          />
        )}
        <Part title="What happened">
          <RichText
            label="what happened"
            html={of.text}
            placeholder="What happened, in your own words?"
            place={`${of.key}.text`}
            onStore={(text) => set({ text })}
          />
        </Part>
        <StepsUpToIt steps={of.steps} />
        <Evidence of={of.evidence} />
        <MetIn of={of} />
        <States of={of.states} />
        <SheetEnd about={of.key} />
      </article>
    </>
  )
}

/** Builds to choose from, the newest first. */
const buildOptions = (project: Project): Option[] =>
  [...project.builds].reverse().map(({ id, name }) => ({ value: String(id), label: name }))

function Facts({ of, onSet, onMove }: { of: DefectSheet; onSet: (edit: Edit) => void; onMove: Move }) {
  return (
    <p className={css['facts']}>
      <Choice
        label="State"
        value={of.state}
        options={[of.state, ...of.next]}
        onChoose={(state) => {
          const next = of.next.find((each) => each === state)
          if (next) onMove(next)
        }}
      />
      ,{' '}
      <Choice
        label="Severity"
        value={of.severity}
        options={severities}
        tone={of.severity === 'Critical' ? 'risk' : undefined}
        onChoose={(severity) => onSet({ severity })}
      />
      , priority{' '}
      <Choice
        label="Priority"
        value={String(of.priority)}
        options={['1', '2', '3', '4', '5']}
        onChoose={(priority) => onSet({ priority: Number(priority) })}
      />
      ; found in <Build label="Found in" id={of.foundInId} onSet={(foundInId) => onSet({ foundInId })} />
      {of.environment && (
        <>
          {' '}
          on <b>{of.environment}</b>
        </>
      )}
      ; fixed in <Build label="Fixed in" id={of.fixedInId} onSet={(fixedInId) => onSet({ fixedInId })} />
      <OwnerFact id={of.ownerId} onSet={(ownerId) => onSet({ ownerId })} />
      <ComponentFact value={of.component} onSet={(component) => onSet({ component })} />; reported {ago(of.at)}
      {of.reporter && <> by {of.reporter}</>}
    </p>
  )
}

function Build({ label, id, onSet }: { label: string; id: number | null; onSet: (id: number | null) => void }) {
  const { project } = useHere()
  return (
    <Choice
      label={label}
      value={String(id ?? '')}
      options={[{ value: '', label: 'no build' }, ...buildOptions(project)]}
      onChoose={(value) => onSet(value === '' ? null : Number(value))}
    />
  )
}

const NextStates = ({ of, onMove }: { of: DefectSheet; onMove: Move }) => (
  <p className={css['row']}>
    {of.next.map((state) => (
      <Button key={state} look={state === 'Ready to retest' ? 'main' : 'plain'} onClick={() => onMove(state)}>
        {state}
      </Button>
    ))}
  </p>
)

/** What is ready to retest was repaired in some build, or nobody knows which results it makes stale. */
function Repair({ onBuild }: { onBuild: (id: number) => void }) {
  const { project } = useHere()
  return (
    <p role="group" aria-label="Fixed in which build" className={css['facts']}>
      Ready to retest, fixed in{' '}
      <Choice
        label="Build of the repair"
        look="box"
        value=""
        options={[{ value: '', label: 'choose the build…' }, ...buildOptions(project)]}
        onChoose={(value) => {
          if (value !== '') onBuild(Number(value))
        }}
      />{' '}
      <span>results gained before it turn stale</span>
    </p>
  )
}

const StepsUpToIt = ({ steps }: { steps: string }) =>
  steps === '' ? null : (
    <Part title="Steps up to it">
      <ol>
        {steps.split('\n').map((line, index) => (
          <li key={index}>{line}</li>
        ))}
      </ol>
    </Part>
  )

const Evidence = ({ of }: { of: DefectSheet['evidence'] }) =>
  of.length === 0 ? null : (
    <Part title="Evidence">
      <p className={css['row']}>
        {of.map(({ id, url, name, mime }) => (
          <a key={id} href={url} target="_blank" rel="noreferrer">
            {mime.startsWith('image/') ? <img className={css['picture']} src={url} alt={name} /> : name}
          </a>
        ))}
      </p>
    </Part>
  )

function MetIn({ of }: { of: DefectSheet }) {
  const resultAt = useResultAddress()
  const results = linksBy(of.links, (link) => link.attempt)
  return (
    <Part title="Met in">
      {results.length === 0 && <p className="quiet">No result is linked: nobody can tell where it was met.</p>}
      <ul className={css['rows']}>
        {results.map((link) => (
          <li key={link.id}>
            <Mark verdict={link.attemptVerdict ?? 'Not run'} />
            <span className="key">{link.case}</span>
            <a href={resultAt(link)}>
              {link.caseTitle}
              {link.stepNumber !== null && `, step ${link.stepNumber}`}
            </a>
            <span className={css['note']}>
              {link.attemptBuild} · {link.environment}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  )
}

const States = ({ of }: { of: DefectSheet['states'] }) => (
  <Part title="States">
    <ul className={css['rows']}>
      {of.map((state, index) => (
        <li key={index}>
          <span />
          <span />
          <span>
            {state.state}
            {state.fixedIn && `, fixed in ${state.fixedIn}`}
          </span>
          <span className={css['note']}>
            {state.person} {ago(state.at)}
          </span>
        </li>
      ))}
    </ul>
  </Part>
)
