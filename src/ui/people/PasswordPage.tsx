import { useEffect, useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { choosePassword, leastPassword, lookAtLink } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { fullMomentText } from '#ui/kit/moment.ts'
import { problemOf } from './ChangePassword.tsx'
import { hearTypedBefore } from '#ui/kit/typed-before.ts'
import css from './SignIn.module.css'

type Found = OutputOf<typeof lookAtLink>

/** Where a one-time link leads: one chooses a password, for the first time or anew. What the link bears stands behind the sign #. */
export function PasswordPage() {
  useEffect(hearTypedBefore, [])
  const [found, setFound] = useState<Found | null>(null)
  const [refused, setRefused] = useState<string | null>(null)
  useEffect(() => {
    const link = location.hash.slice(1)
    call(lookAtLink, { body: { link } }).then(setFound, (error: unknown) =>
      setRefused(link.length < 20 ? 'This address is only a part of a link; open the whole of it.' : sentenceOf(error)),
    )
  }, [])
  return (
    <main className={css['alone']}>
      <h1>{found?.purpose === 'invitation' ? `Welcome, ${found.name}` : 'Choose a new password'}</h1>
      {refused !== null && (
        <>
          <p role="alert">{refused}</p>
          <p>
            <a href="/forgotten">Ask for another link</a> · <a href="/sign-in">To the sign-in</a>
          </p>
        </>
      )}
      {refused === null && found === null && <p className="quiet">Looking at the link…</p>}
      {found && <Choose of={found} />}
    </main>
  )
}

function Choose({ of }: { of: Found }) {
  const [password, setPassword] = useState('')
  const [shown, setShown] = useState(false)
  const [problem, setProblem] = useState<string | undefined>()
  const choose = async () => {
    setProblem(undefined)
    try {
      await call(choosePassword, { body: { link: location.hash.slice(1), password } })
      location.assign('/sign-in')
    } catch (error) {
      setProblem(problemOf(error, 'password'))
    }
  }
  return (
    <Form onSend={() => void choose()}>
      <p>
        You sign in with <b>{of.email}</b>. This link works once, until {fullMomentText(of.endsAt)}.
      </p>
      <Field
        label={`A password of ${leastPassword} characters or more`}
        hint="Of any kind: some words in a row are better than a short riddle."
        problem={problem}
      >
        {(id) => (
          <TextInput
            id={id}
            type={shown ? 'text' : 'password'}
            autoComplete="new-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        )}
      </Field>
      <p>
        <label>
          <input type="checkbox" checked={shown} onChange={(event) => setShown(event.target.checked)} /> show it
        </label>
      </p>
      <Button look="main" type="submit" disabled={password.length < leastPassword}>
        {of.purpose === 'invitation' ? 'Come in' : 'Take this one'}
      </Button>
    </Form>
  )
}
