import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { readTracker, setTracker } from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './SetUp.module.css'

type Tracker = OutputOf<typeof readTracker>

/** The outside tracker of the project. Its token goes in and is never shown. */
export function TrackerSetUp({ lead }: { lead: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(readTracker, { params: { key } })
  const [editing, setEditing] = useState(false)
  if (!data) return null
  return (
    <section className={css['one']}>
      {editing ? (
        <Connection of={data} onEnd={() => setEditing(false)} />
      ) : (
        <p>
          <Connected of={data} /> {lead && <Acts of={data} onEdit={() => setEditing(true)} />}
        </p>
      )}
    </section>
  )
}

const Connected = ({ of: { url, name, token } }: { of: Tracker }) =>
  url === '' ? (
    <span className="quiet">
      This project is connected to none; requirements can be fetched from one that answers as docs/api.md says.
    </span>
  ) : (
    <>
      <b>{name}</b> at <span className="key">{url}</span>
      {token ? ', with a token' : ', without a token'}
    </>
  )

function Acts({ of, onEdit }: { of: Tracker; onEdit: () => void }) {
  const { key } = useHere()
  const { attempt } = useWrite(setTracker)
  return (
    <>
      <Button look="word" onClick={onEdit}>
        {of.url === '' ? 'connect one' : 'change'}
      </Button>{' '}
      {of.url !== '' && (
        <Button look="word" onClick={() => void attempt({ params: { key }, body: { name: '', url: '' } })}>
          disconnect
        </Button>
      )}
    </>
  )
}

function Connection({ of, onEnd }: { of: Tracker; onEnd: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(setTracker)
  const [name, setName] = useState(of.name)
  const [url, setUrl] = useState(of.url)
  const [token, setToken] = useState('')
  const store = async () => {
    if (await attempt({ params: { key }, body: { name, url, ...(token !== '' && { token }) } })) onEnd()
  }
  return (
    <Form className={css['newField']} onSend={() => void store()}>
      <TextInput
        aria-label="Name of the tracker"
        placeholder="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <TextInput
        aria-label="Address of the tracker"
        placeholder="https://…"
        value={url}
        onChange={(event) => setUrl(event.target.value)}
      />
      <TextInput
        aria-label="Token"
        type="password"
        placeholder={of.token ? 'token (kept when empty)' : 'token'}
        value={token}
        onChange={(event) => setToken(event.target.value)}
      />
      <Button type="submit" disabled={busy || name.trim() === '' || url.trim() === ''}>
        Connect
      </Button>
      <Button look="word" onClick={onEnd}>
        leave it
      </Button>
    </Form>
  )
}
