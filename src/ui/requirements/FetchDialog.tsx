import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { fetchRequirements } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import pick from '#ui/kit/Pick.module.css'

/** Brings issues of the connected tracker in as requirements; those that are here already are shown and left alone. */
export function FetchDialog({ onClose }: { onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(fetchRequirements)
  const [query, setQuery] = useState('')
  const [found, setFound] = useState<OutputOf<typeof fetchRequirements> | null>(null)
  const fresh = found?.rows.filter(({ here }) => here === null).length ?? 0
  const bring = async () => {
    const done = await attempt({ params: { key }, body: { query } })
    if (!done) return
    notify(
      `${done.made.length} ${done.made.length === 1 ? 'requirement is' : 'requirements are'} fetched: ${done.made.slice(0, 4).join(', ')}${done.made.length > 4 ? ' …' : ''}.`,
    )
    onClose()
  }
  return (
    <Dialog title="Fetch from the tracker" onClose={onClose}>
      <form
        className={pick['pick']}
        onSubmit={(event) => {
          event.preventDefault()
          void attempt({ params: { key }, body: { query, dry: true } }).then(setFound)
        }}
      >
        <Field label="Words in the issues (empty: all)">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={query}
              onChange={(event) => {
                setQuery(event.target.value)
                setFound(null)
              }}
            />
          )}
        </Field>
        {found && (
          <ul>
            {found.rows.map((row) => (
              <li key={row.ref}>
                <label style={{ gridTemplateColumns: '90px minmax(0, 1fr) auto' }}>
                  <span className="key quiet">{row.ref}</span>
                  <span>{row.title}</span>
                  <span className="quiet">{row.here ?? 'new'}</span>
                </label>
              </li>
            ))}
          </ul>
        )}
        {found?.found === 0 && <p className="quiet">The tracker has no such issue.</p>}
        <p className={pick['foot']}>
          <Button type="submit" disabled={busy}>
            {busy ? 'Asking…' : 'Look'}
          </Button>
          <Button look="main" disabled={fresh === 0 || busy} onClick={() => void bring()}>
            {found === null ? 'Bring in' : fresh === 0 ? 'Nothing new' : `Bring ${fresh} in`}
          </Button>
        </p>
      </form>
    </Dialog>
  )
}
