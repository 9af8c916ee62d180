import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { replaceText } from '#core/formats/contract.ts'
import { type ReplaceField, replaceFields } from '#core/cases/replace.ts'
import { useUndoAct } from '#ui/formats/useUndoAct.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './ReplaceDialog.module.css'

/** Finds a text in many cases, shows every place as it would read, and replaces all of them in one act that can be taken back. */
export function ReplaceDialog({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(replaceText)
  const takeBack = useUndoAct('Taken back')
  const [find, setFind] = useState('')
  const [put, setPut] = useState('')
  const [matchCase, setMatchCase] = useState(false)
  const [wholeWords, setWholeWords] = useState(true)
  const [fields, setFields] = useState<readonly ReplaceField[]>(replaceFields)
  const [shown, setShown] = useState<OutputOf<typeof replaceText> | null>(null)
  const ask = (dry: boolean, seen: number) =>
    attempt({
      params: { key },
      body: { find, put, matchCase, wholeWords, fields: [...fields], ids: [...ids], dry, seen },
    })
  const look = async () => setShown(await ask(true, 0))
  const change = (set: () => void) => {
    set()
    setShown(null)
  }
  const replace = async () => {
    const done = await ask(false, shown?.places ?? 0)
    const act = done?.act ?? null
    if (!done || act === null) return
    notify(`Replaced in ${done.places} places of ${done.cases} cases.`, { undo: () => void takeBack(act) })
    onClose()
  }
  return (
    <Dialog
      title={ids.length > 0 ? `Find and replace in ${ids.length} cases` : 'Find and replace in all cases'}
      onClose={onClose}
      wide
    >
      <form
        className={css['form']}
        onSubmit={(event) => {
          event.preventDefault()
          if (find !== '') void look()
        }}
      >
        <Field label="Find">
          {(id) => <TextInput id={id} value={find} onChange={(event) => change(() => setFind(event.target.value))} />}
        </Field>
        <Field label="Put instead">
          {(id) => <TextInput id={id} value={put} onChange={(event) => change(() => setPut(event.target.value))} />}
        </Field>
        <Button type="submit" disabled={find === '' || fields.length === 0 || busy}>
          Show the places
        </Button>
      </form>
      <p className={css['choices']}>
        <label>
          <input
            type="checkbox"
            checked={wholeWords}
            onChange={(event) => change(() => setWholeWords(event.target.checked))}
          />{' '}
          whole words
        </label>
        <label>
          <input
            type="checkbox"
            checked={matchCase}
            onChange={(event) => change(() => setMatchCase(event.target.checked))}
          />{' '}
          as capitalised
        </label>
        <span className="quiet">in</span>
        {replaceFields.map((field) => (
          <label key={field}>
            <input
              type="checkbox"
              checked={fields.includes(field)}
              onChange={(event) =>
                change(() =>
                  setFields(event.target.checked ? [...fields, field] : fields.filter((each) => each !== field)),
                )
              }
            />{' '}
            {field}
          </label>
        ))}
      </p>
      {shown && (
        <>
          <p role="status">
            {shown.places === 0 ? (
              'It stands nowhere in these cases.'
            ) : (
              <>
                <b>
                  {shown.places} {shown.places === 1 ? 'place' : 'places'}
                </b>{' '}
                in {shown.cases} {shown.cases === 1 ? 'case' : 'cases'}
                {shown.found.length < shown.cases && `; the first ${shown.found.length} are shown`}.
              </>
            )}
          </p>
          <ul className={css['found']} tabIndex={0} aria-label="Places">
            {shown.found.map((own) => (
              <li key={own.key}>
                <p>
                  <span className="key quiet">{own.key}</span> {own.title}
                </p>
                <ul>
                  {own.places.map((place, index) => (
                    <li key={index}>
                      <span className="quiet">
                        {place.step === null ? place.field : `step ${place.step + 1}, ${place.field}`}
                      </span>
                      <del>{place.before}</del>
                      <ins>{place.after}</ins>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
          {shown.places > 0 && (
            <p className={css['act']}>
              <Button
                look="main"
                disabled={busy}
                onClick={() => void replace()}
              >{`Replace in ${shown.places} ${shown.places === 1 ? 'place' : 'places'}`}</Button>
            </p>
          )}
        </>
      )}
    </Dialog>
  )
}
