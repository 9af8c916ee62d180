import { useEffect, useState } from 'react'
import { createDefect, draftDefectFrom, linkDefect } from '#core/defects/contract.ts'
import { severities } from '#core/defects/state.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import type { DeskAttempt } from '#core/runs/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './LogDefect.module.css'

interface Props {
  /** The attempt the defect comes from, started if need be; left out, the defect stands on its own. */
  readonly begin?: () => Promise<DeskAttempt | null>
  readonly row?: number
  readonly step?: number | null
  readonly onClose: () => void
  readonly onDone: (ref: string) => void
}
type Draft = OutputOf<typeof draftDefectFrom> & { readonly attempt: number }

/** A failing step becomes a defect in one act: all that is known is filled in; the person adds what happened and a severity. */
export function LogDefect({ begin, row = 1, step = null, onClose, onDone }: Props) {
  const { key } = useHere()
  const { attempt: send, busy } = useWrite(createDefect)
  const linking = useWrite(linkDefect)
  const [draft, setDraft] = useState<Draft | null>(null)
  const [title, setTitle] = useState('')
  const [text, setText] = useState('')
  const [severity, setSeverity] = useState<(typeof severities)[number]>('Major')
  useEffect(() => {
    if (!begin) return
    void begin().then(async (attempt) => {
      if (!attempt) return onClose()
      try {
        const drafted = await call(draftDefectFrom, {
          params: { key },
          query: { attempt: attempt.id, row, ...(step !== null && { step }) },
        })
        setDraft({ ...drafted, attempt: attempt.id })
        setTitle(drafted.title)
        setText(drafted.text.replace(/<[^>]*>/g, ''))
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
        onClose()
      }
    })
  }, [])
  const from = draft ? { attempt: draft.attempt, row, step } : null
  const store = async () => {
    const made = await send({
      params: { key },
      body: { title, text: text.trim() === '' ? '' : `<p>${escapeText(text)}</p>`, severity, from },
    })
    if (!made) return
    notify(`${made.key} is reported${from ? ', linked to its step, case and requirement' : ''}.`)
    onClose()
    onDone(made.key)
  }
  const link = async (ref: string) => {
    if (!from || !(await linking.attempt({ params: { key, ref }, body: from }))) return
    notify(`${ref} is linked to this step.`)
    onClose()
    onDone(ref)
  }
  return (
    <Dialog title="New defect" onClose={onClose} wide={begin !== undefined}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void store()
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && event.ctrlKey) void store()
        }}
      >
        {draft && draft.like.length > 0 && (
          <div className={css['like']}>
            <b>May be one of these already:</b>
            {draft.like.map((each) => (
              <p key={each.key}>
                <span className="key">{each.key}</span> {each.title} <span className="quiet">{each.state}</span>{' '}
                <Button look="word" onClick={() => void link(each.key)}>
                  link it instead
                </Button>
              </p>
            ))}
          </div>
        )}
        <Field label="Title">
          {(id) => (
            <TextInput id={id} value={title} autoFocus={!begin} onChange={(event) => setTitle(event.target.value)} />
          )}
        </Field>
        <Field label="What happened">
          {(id) => (
            <textarea
              id={id}
              rows={3}
              data-first={begin ? '' : undefined}
              spellCheck
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Field>
        <fieldset className={css['severity']}>
          <legend>Severity</legend>
          {severities.map((each) => (
            <label key={each}>
              <input type="radio" name="severity" checked={severity === each} onChange={() => setSeverity(each)} />{' '}
              {each}
            </label>
          ))}
        </fieldset>
        {draft && (
          <details open className={css['filled']}>
            <summary>Filled in from the step</summary>
            <p>
              {[draft.build, draft.environment, draft.requirement, draft.component].filter((part) => part).join(' · ')}
            </p>
            <pre>{draft.steps}</pre>
          </details>
        )}
        <p className={css['foot']}>
          <span className="quiet">
            <kbd>Ctrl</kbd> <kbd>Enter</kbd> reports it
          </span>
          <Button look="main" type="submit" disabled={busy || title.trim() === '' || (begin !== undefined && !draft)}>
            {busy ? 'Reporting…' : 'Report it'}
          </Button>
        </p>
      </form>
    </Dialog>
  )
}
