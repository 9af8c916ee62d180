import { type ReactNode, useState } from 'react'
import { findAnything } from '#core/finding/contract.ts'
import { keyShape } from '#core/lib/shapes.ts'
import { readRequirement } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

interface Props {
  readonly title: string
  readonly action: string
  /** The requirement whose cases are offered before anything is typed. */
  readonly requirement: string
  readonly children: ReactNode
  readonly onClose: () => void
  readonly onChoose: (key: string) => Promise<void>
}

/** Asks for a case: one of the requirement's, or any by its key or by words. */
export function CaseDialog({ title, action, requirement, children, onClose, onChoose }: Props) {
  const { key } = useHere()
  const [typed, setTyped] = useState('')
  const words = typed.trim()
  const asKey = words.toUpperCase()
  const good = keyShape('case').safeParse(asKey).success
  const { data: sheet } = useAnswer(readRequirement, { params: { key, ref: requirement }, query: {} })
  const { data: found } = useAnswer(
    findAnything,
    { params: { key }, query: { q: words, limit: 12 } },
    { enabled: words !== '', keep: true },
  )
  const rows =
    words === ''
      ? (sheet?.linked ?? []).map((each) => ({ ref: each.key, title: each.title }))
      : (found?.rows ?? []).filter(({ kind }) => kind === 'case')
  return (
    <Dialog title={title} onClose={onClose}>
      <PickForm
        onDo={() => {
          if (good) void onChoose(asKey)
        }}
      >
        <p className="quiet">{children}</p>
        <Field label="Case">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={typed}
              placeholder="a key such as TC-12, or words"
              onChange={({ target }) => setTyped(target.value)}
            />
          )}
        </Field>
        <ul aria-label={words === '' ? `Cases of ${requirement}` : 'Cases found'}>
          {rows.map((row) => (
            <li key={row.ref}>
              <button type="button" onClick={() => void onChoose(row.ref)}>
                <span className="key quiet">{row.ref}</span> <span>{row.title}</span>
              </button>
            </li>
          ))}
        </ul>
        {words !== '' && found && rows.length === 0 && !good && <p className="quiet">No case is called so.</p>}
        <PickFoot>
          <Button look="main" type="submit" disabled={!good}>
            {action}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}
