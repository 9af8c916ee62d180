import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { replaceText } from '#core/formats/contract.ts'
import { type ReplaceField, replaceFields } from '#core/cases/replace.ts'
import { useUndoAct } from '#ui/formats/useUndoAct.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './ReplaceDialog.module.css'

type Shown = OutputOf<typeof replaceText>

interface Ask {
  readonly find: string
  readonly put: string
  readonly matchCase: boolean
  readonly wholeWords: boolean
  readonly fields: readonly ReplaceField[]
}
const nothingAsked: Ask = { find: '', put: '', matchCase: false, wholeWords: true, fields: replaceFields }

/** Places are shown for the very question; another question shows none until it is asked. */
function useReplacing(ids: readonly number[], onDone: () => void) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(replaceText)
  const takeBack = useUndoAct('Taken back')
  const [ask, setAsk, keeping] = useKept('replace', nothingAsked)
  const [shown, setShown] = useState<Shown | null>(null)
  const going = useGoing()
  const send = (dry: boolean, seen: number, job?: string) =>
    attempt({ params: { key }, body: { ...ask, fields: [...ask.fields], ids: [...ids], dry, seen }, job })
  const look = async () => {
    if (ask.find !== '') setShown(await send(true, 0))
  }
  const replace = async () => {
    // How far it is, and the way to stop it, stand beside the page: nothing may lie over them. What was asked is kept.
    onDone()
    const done = await going('Replacing …', (job) => send(false, shown?.places ?? 0, job))
    if (!done) return
    const { act } = done
    const but = [
      ...(done.left.length > 0 ? [`Somebody changed ${done.left.slice(0, 5).join(', ')} meanwhile; left alone.`] : []),
      ...(done.stopped === undefined ? [] : [done.stopped]),
    ]
    const told = `Replaced in ${counted(done.places, 'place')} of ${counted(done.cases, 'case')}.`
    notify([told, ...but].join(' '), { undo: act === null ? undefined : () => void takeBack(act) })
    if (act !== null) keeping.done()
  }
  const change = (to: Partial<Ask>) => {
    setAsk({ ...ask, ...to })
    setShown(null)
  }
  return { ask, change, shown, busy, keeping, look: () => void look(), replace: () => void replace() }
}
type Replacing = ReturnType<typeof useReplacing>

/** Finds a text in many cases, shows every place as it would read, and replaces all of them in one act that can be taken back. */
export function ReplaceDialog({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const replacing = useReplacing(ids, onClose)
  const { ask, change, shown, busy } = replacing
  return (
    <Dialog
      title={ids.length > 0 ? `Find and replace in ${ids.length} cases` : 'Find and replace in all cases'}
      onClose={onClose}
      kept={replacing.keeping}
      wide
    >
      <Form className={css['form']} onSend={() => replacing.look()}>
        <Field label="Find">
          {(id) => <TextInput id={id} value={ask.find} onChange={(event) => change({ find: event.target.value })} />}
        </Field>
        <Field label="Put instead">
          {(id) => <TextInput id={id} value={ask.put} onChange={(event) => change({ put: event.target.value })} />}
        </Field>
        <Button type="submit" disabled={ask.find === '' || ask.fields.length === 0 || busy}>
          {busy ? 'Looking …' : 'Show the places'}
        </Button>
      </Form>
      <Choices {...replacing} />
      {shown && <Places of={shown} />}
      {shown && shown.places > 0 && (
        <p className={css['act']}>
          <Button look="main" disabled={busy} onClick={replacing.replace}>
            {`Replace in ${counted(shown.places, 'place')}`}
          </Button>
        </p>
      )}
    </Dialog>
  )
}

const Tick = ({ label, on, onTick }: { label: string; on: boolean; onTick: (on: boolean) => void }) => (
  <label>
    <input type="checkbox" checked={on} onChange={(event) => onTick(event.target.checked)} /> {label}
  </label>
)

const Choices = ({ ask, change }: Replacing) => (
  <p className={css['choices']}>
    <Tick label="whole words" on={ask.wholeWords} onTick={(wholeWords) => change({ wholeWords })} />
    <Tick label="as capitalised" on={ask.matchCase} onTick={(matchCase) => change({ matchCase })} />
    <span className="quiet">in</span>
    {replaceFields.map((field) => (
      <Tick
        key={field}
        label={field}
        on={ask.fields.includes(field)}
        onTick={(on) => change({ fields: on ? [...ask.fields, field] : ask.fields.filter((each) => each !== field) })}
      />
    ))}
  </p>
)

const Places = ({ of }: { of: Shown }) => (
  <>
    <p role="status">
      {of.places === 0 ? (
        'It stands nowhere in these cases.'
      ) : (
        <>
          <b>{counted(of.places, 'place')}</b> in {counted(of.cases, 'case')}
          {of.found.length < of.cases && `; the first ${of.found.length} are shown`}.
        </>
      )}
    </p>
    <ul className={css['found']} tabIndex={0} aria-label="Places">
      {of.found.map((own) => (
        <li key={own.key}>
          <p>
            <span className="key quiet">{own.key}</span> {own.title}
          </p>
          <ul>
            {own.places.map((place, index) => (
              <Place key={index} of={place} />
            ))}
          </ul>
        </li>
      ))}
    </ul>
  </>
)

const Place = ({ of: { step, field, before, after } }: { of: Shown['found'][number]['places'][number] }) => (
  <li>
    <span className="quiet">{step === null ? field : `step ${step + 1}, ${field}`}</span>
    <del>{before}</del>
    <ins>{after}</ins>
  </li>
)
