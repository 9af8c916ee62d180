import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import type { Served } from '#core/lib/question.ts'
import { readSuite, type SuiteSheet, updateSuite } from '#core/plans/suite-contract.ts'
import { suiteStates } from '#core/plans/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Named, Part, TitleHead } from '#ui/shell/SheetParts.tsx'
import css from '#ui/shell/sheet.module.css'
import { RunOf, runOfSuite } from '#ui/runs/RunOf.tsx'
import { Members } from './Members.tsx'
import { Sources } from './Sources.tsx'
import { SuiteNews, SuiteRequirements } from './SuiteNews.tsx'

export function SuiteSheetView({
  about,
  served,
  onClose,
}: {
  about: string
  served: Served<SuiteSheet> | null
  onClose: () => void
}) {
  const { key } = useHere()
  const { data, error } = useAnswer(readSuite, { params: { key, ref: about } }, { served, keep: true })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Sheet of={data} /> : null
}

type Edit = BodyOf<typeof updateSuite>

function Sheet({ of }: { of: SuiteSheet }) {
  const { key, project } = useHere()
  const edit = useEdit(updateSuite, { key, ref: of.key }, of)
  const [closing, setClosing] = useState(false)
  const set = (body: Edit) => void edit(body)
  const may = project.role !== 'viewer' && of.state !== 'Closed'
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <TitleHead title={of.title} onStore={(title) => set({ title })} />
      <p className={css['facts']}>
        <span className="key">{of.key}</span> is{' '}
        <Choice
          label="State"
          value={of.state}
          options={suiteStates}
          onChoose={(state) => (state === 'Closed' ? setClosing(true) : set({ state }))}
        />
        {of.plans.length > 0 && (
          <>
            ; asked for by <Named refs={of.plans.map((plan) => ({ key: plan.key, text: plan.title }))} />
          </>
        )}
        {of.within.length > 0 && (
          <>
            ; part of <Named refs={of.within.map((suite) => ({ key: suite.key, text: suite.title }))} />
          </>
        )}
        {project.role === 'lead' && ' · '}
        <RunOf seed={runOfSuite(of)} />
      </p>
      {of.state === 'Closed' && (
        <p className={css['banner']} role="status">
          <b>Closed{of.closedReason === '' ? '' : `: ${of.closedReason}`}.</b> Nothing in it can be changed until its
          state is another.
        </p>
      )}
      <RichText
        label="objective"
        html={of.objective}
        placeholder="What does this suite find out?"
        place={`${of.key}.objective`}
        onStore={(objective) => edit({ objective })}
      />
      <Sources of={of} may={may} />
      <Members of={of} may={may} onOrder={(orderedBy) => set({ orderedBy })} />
      <SuiteNews of={of} />
      <SuiteRequirements of={of} />
      <Runs of={of} />
      <History about={of.key} />
      {closing && (
        <CloseIt
          onClose={() => setClosing(false)}
          onStore={async (closedReason) => {
            if (await edit({ state: 'Closed', closedReason })) setClosing(false)
          }}
        />
      )}
    </article>
  )
}

/** Closing asks why: whoever finds the suite locked should not have to ask around. */
export function CloseIt({ onClose, onStore }: { onClose: () => void; onStore: (reason: string) => Promise<void> }) {
  const [reason, setReason] = useState('')
  return (
    <Dialog title="Close the suite" onClose={onClose}>
      <p className="quiet">It stays readable, and counts where plans ask for it; nothing in it can be changed.</p>
      <Form onSend={() => void onStore(reason.trim())}>
        <Field label="Why">
          {(id) => (
            <TextInput id={id} value={reason} maxLength={500} onChange={(event) => setReason(event.target.value)} />
          )}
        </Field>
        <Button look="main" type="submit">
          Close it
        </Button>
      </Form>
    </Dialog>
  )
}

function Runs({ of }: { of: SuiteSheet }) {
  const { key } = useHere()
  if (of.runs.length === 0) return null
  return (
    <Part title="Runs made of it">
      <ul className={css['rows']}>
        {of.runs.map((run) => (
          <li key={run.key}>
            <span />
            <span className="key">{run.key}</span>
            <a href={`/p/${key}/${run.key}`}>{run.title}</a>
            <span className={css['note']}>{run.state}</span>
          </li>
        ))}
      </ul>
    </Part>
  )
}
