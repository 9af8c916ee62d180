import { useState } from 'react'
import { counted, minutesIn, minutesText } from '#core/lib/figures.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import { type SourceShown, tryBest } from '#core/plans/suite-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plans.module.css'

interface Props {
  readonly suite: string
  readonly of: SourceShown | null
  readonly onStore: (said: SourceSaid) => Promise<boolean>
  readonly onClose: () => void
}

/** The cases that cover the most risk within some minutes, shown as the minutes are typed. */
export function BestDialog({ suite, of, onStore, onClose }: Props) {
  const { key } = useHere()
  const began = minutesText(of?.minutes ?? 60)
  const [text, setText, keeping] = useKept(`${suite}.best.${of?.id ?? 'new'}`, began)
  const [frozen, setFrozen] = useState(of?.frozen ?? false)
  const minutes = minutesIn(text)
  const requirement = of?.requirement?.id ?? null
  const query = { minutes: minutes ?? 60, ...(requirement !== null && { requirement }) }
  const { data, settled } = useAnswer(tryBest, { params: { key }, query }, { keep: true, enabled: Boolean(minutes) })
  const store = async () => {
    if (!minutes || !(await onStore({ kind: 'best', minutes, requirement, frozen }))) return
    keeping.done()
    onClose()
  }
  return (
    <Dialog title="The best within some minutes" onClose={onClose} kept={keeping} wide>
      <p className="quiet">
        The cases that cover the most risk in the time there is: each requirement’s risk counts once, however many cases
        prove it.
      </p>
      <Form onSend={() => void store()}>
        <Field label="Minutes, or hours such as 1 h 30">
          {(id) => (
            <TextInput id={id} value={text} aria-invalid={!minutes} onChange={(event) => setText(event.target.value)} />
          )}
        </Field>
        <p>
          <label>
            <input type="checkbox" checked={frozen} onChange={(event) => setFrozen(event.target.checked)} /> frozen:
            keep these cases, whatever changes later
          </label>
        </p>
        <div role="status" aria-busy={!settled} className={css['matches']}>
          {data && (
            <>
              <p>
                <b>{counted(data.total, 'case')}</b> <span className="quiet">{minutesText(data.minutes)}</span>
              </p>
              <ul>
                {data.first.slice(0, 12).map(({ id, key: ref, title, why }) => (
                  <li key={id} className={css['best']}>
                    <span className="key quiet">{ref}</span> <span>{title}</span> <span className="quiet">{why}</span>
                  </li>
                ))}
              </ul>
              {data.total > 12 && <p className="quiet">and {data.total - 12} more</p>}
            </>
          )}
        </div>
        <p>
          <Button look="main" type="submit" disabled={!minutes}>
            {of ? 'Store it' : 'Add it'}
          </Button>
        </p>
      </Form>
    </Dialog>
  )
}
