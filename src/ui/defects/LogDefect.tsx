import { useEffect, useState } from 'react'
import { createDefect, draftDefectFrom, linkDefect } from '#core/defects/contract.ts'
import { severities } from '#core/defects/state.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import type { DeskAttempt } from '#core/runs/desk-contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './LogDefect.module.css'

interface Props {
  /** Tells what is typed here from other defects being written. */
  readonly place: string
  /** The attempt the defect comes from, started if need be; left out, the defect stands on its own. */
  readonly begin?: () => Promise<DeskAttempt | null>
  readonly row?: number
  readonly step?: number | null
  readonly onClose: () => void
  readonly onDone: (ref: string) => void
}
type Draft = OutputOf<typeof draftDefectFrom> & { readonly attempt: number }

type Severity = (typeof severities)[number]

interface Typed {
  readonly title: string | null
  readonly text: string | null
  readonly severity: Severity
}
const nothingTyped: Typed = { title: null, text: null, severity: 'Major' }

/** What is known of a failing step, asked once; the dialog closes when there is nothing to begin with. */
function useDrafted({ begin, row = 1, step = null, onClose }: Props): Draft | null {
  const { key } = useHere()
  const [draft, setDraft] = useState<Draft | null>(null)
  const ask = async (started: Promise<DeskAttempt | null>) => {
    const attempt = await started
    if (!attempt) return onClose()
    try {
      const query = { attempt: attempt.id, row, ...(step !== null && { step }) }
      setDraft({ ...(await call(draftDefectFrom, { params: { key }, query })), attempt: attempt.id })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
      onClose()
    }
  }
  useEffect(() => {
    if (begin) void ask(begin())
  }, [])
  return draft
}

function useLogging(props: Props) {
  const { key } = useHere()
  const { place, row = 1, step = null, onClose, onDone } = props
  const { attempt: send, busy } = useWrite(createDefect)
  const linking = useWrite(linkDefect)
  const draft = useDrafted(props)
  const [typed, setTyped, keeping] = useKept(`defect.${place}`, nothingTyped)
  const set = (to: Partial<Typed>) => setTyped({ ...typed, ...to })
  // What a step fills in stands where nothing was typed yet.
  const title = typed.title ?? draft?.title ?? ''
  const text = typed.text ?? draft?.text.replace(/<[^>]*>/g, '') ?? ''
  const { severity } = typed
  const from = draft ? { attempt: draft.attempt, row, step } : null
  const done = (ref: string, words: string) => {
    keeping.done()
    notify(words)
    onClose()
    onDone(ref)
  }
  const store = async () => {
    const html = text.trim() === '' ? '' : `<p>${escapeText(text)}</p>`
    const made = await send({ params: { key }, body: { title, text: html, severity, from } })
    if (made) done(made.key, `${made.key} is reported${from ? ', linked to its step, case and requirement' : ''}.`)
  }
  const link = async (ref: string) => {
    if (from && (await linking.attempt({ params: { key, ref }, body: from })))
      done(ref, `${ref} is linked to this step.`)
  }
  return { title, text, severity, set, keeping, draft, busy, store, link }
}

/** A failing step becomes a defect in one act: all that is known is filled in; the person adds what happened and a severity. */
export function LogDefect(props: Props) {
  const { begin, onClose } = props
  const log = useLogging(props)
  const { draft, busy, title } = log
  return (
    <Dialog title="New defect" onClose={onClose} wide={begin !== undefined} kept={log.keeping}>
      <Form
        onSend={() => void log.store()}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && event.ctrlKey) void log.store()
        }}
      >
        {draft && <Like of={draft.like} onLink={(ref) => void log.link(ref)} />}
        <Field label="Title">
          {(id) => (
            <TextInput
              id={id}
              value={title}
              autoFocus={!begin}
              onChange={(event) => log.set({ title: event.target.value })}
            />
          )}
        </Field>
        <Field label="What happened">
          {(id) => (
            <textarea
              id={id}
              rows={3}
              data-first={begin ? '' : undefined}
              spellCheck
              value={log.text}
              onChange={(event) => log.set({ text: event.target.value })}
            />
          )}
        </Field>
        <SeverityChoice value={log.severity} onChoose={(severity) => log.set({ severity })} />
        {draft && <FilledIn of={draft} />}
        <p className={css['foot']}>
          <span className="quiet">
            <kbd>Ctrl</kbd> <kbd>Enter</kbd> reports it
          </span>
          <Button look="main" type="submit" disabled={busy || title.trim() === '' || (begin !== undefined && !draft)}>
            {busy ? 'Reporting…' : 'Report it'}
          </Button>
        </p>
      </Form>
    </Dialog>
  )
}

const Like = ({ of, onLink }: { of: Draft['like']; onLink: (ref: string) => void }) =>
  of.length === 0 ? null : (
    <div className={css['like']}>
      <b>May be one of these already:</b>
      {of.map(({ key, title, state }) => (
        <p key={key}>
          <span className="key">{key}</span> {title} <span className="quiet">{state}</span>{' '}
          <Button look="word" onClick={() => onLink(key)}>
            link it instead
          </Button>
        </p>
      ))}
    </div>
  )

const SeverityChoice = ({ value, onChoose }: { value: Severity; onChoose: (severity: Severity) => void }) => (
  <fieldset className={css['severity']}>
    <legend>Severity</legend>
    {severities.map((each) => (
      <label key={each}>
        <input type="radio" name="severity" checked={value === each} onChange={() => onChoose(each)} /> {each}
      </label>
    ))}
  </fieldset>
)

const FilledIn = ({ of: { build, environment, requirement, component, steps } }: { of: Draft }) => (
  <details open className={css['filled']}>
    <summary>Filled in from the step</summary>
    <p>{[build, environment, requirement, component].filter((part) => part).join(' · ')}</p>
    <pre>{steps}</pre>
  </details>
)
