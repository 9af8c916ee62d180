import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { fetchRequirements } from '#core/requirements/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

type Found = OutputOf<typeof fetchRequirements>

/** So many keys are named; the rest is counted. */
const mostNamed = 4
const madeText = ({ made }: Found): string =>
  `${counted(made.length, 'requirement is', 'requirements are')} fetched: ${made.slice(0, mostNamed).join(', ')}${made.length > mostNamed ? ' …' : ''}.`

function bringText(found: Found | null, fresh: number): string {
  if (found === null) return 'Bring in'
  return fresh === 0 ? 'Nothing new' : `Bring ${fresh} in`
}

/** Brings issues of the connected tracker in as requirements; those that are here already are shown and left alone. */
export function FetchDialog({ onClose }: { onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(fetchRequirements)
  const [query, setQuery] = useState('')
  const [found, setFound] = useState<Found | null>(null)
  const fresh = found?.rows.filter(({ here }) => here === null).length ?? 0
  const look = async () => setFound(await attempt({ params: { key }, body: { query, dry: true } }))
  const bring = async () => {
    const done = await attempt({ params: { key }, body: { query } })
    if (!done) return
    notify(madeText(done))
    onClose()
  }
  return (
    <Dialog title="Fetch from the tracker" onClose={onClose}>
      <PickForm onDo={() => void look()}>
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
        {found && <Issues of={found.rows} />}
        {found?.found === 0 && <p className="quiet">The tracker has no such issue.</p>}
        <PickFoot>
          <Button type="submit" disabled={busy}>
            {busy ? 'Asking…' : 'Look'}
          </Button>
          <Button look="main" disabled={fresh === 0 || busy} onClick={() => void bring()}>
            {bringText(found, fresh)}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

const Issues = ({ of }: { of: Found['rows'] }) => (
  <ul>
    {of.map(({ ref, title, here }) => (
      <li key={ref}>
        <label style={{ gridTemplateColumns: '90px minmax(0, 1fr) auto' }}>
          <span className="key quiet">{ref}</span>
          <span>{title}</span>
          <span className="quiet">{here ?? 'new'}</span>
        </label>
      </li>
    ))}
  </ul>
)
