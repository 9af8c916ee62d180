import { useState } from 'react'
import { signIn } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { RovantMark } from '#ui/shell/RouteBar.tsx'
import css from './SignIn.module.css'

interface Props {
  readonly to: string
  /** The demo's people; none in an installation of one's own. */
  readonly sample: {
    readonly password: string
    readonly people: readonly { readonly name: string; readonly email: string; readonly roles: string }[]
  } | null
}

interface Entry {
  readonly email: string
  readonly password: string
}

function useEntering(to: string) {
  const [problem, setProblem] = useState<string | undefined>()
  const [busy, setBusy] = useState(false)
  const enter = async (entry: Entry) => {
    setBusy(true)
    setProblem(undefined)
    try {
      await call(signIn, { body: entry })
      location.assign(to)
    } catch (error) {
      setProblem(sentenceOf(error))
      setBusy(false)
    }
  }
  return { problem, busy, enter: (entry: Entry) => void enter(entry) }
}
type Entering = ReturnType<typeof useEntering>

/** Signs a person in and leads back to where they wanted to go. */
export function SignInPage({ to, sample }: Props) {
  const entering = useEntering(to)
  return (
    <main className={css['page']}>
      <section className={css['lead']}>
        <p className={css['mark']}>
          <RovantMark /> Rovant
        </p>
        <h1>What do we know about this product, and how fresh is that knowledge?</h1>
        <ol className={css['line']} aria-label="The thread from requirement to defect">
          <li>requirement</li>
          <li>case</li>
          <li>result</li>
          <li>defect</li>
        </ol>
      </section>
      <section className={css['form']} aria-label="Sign in">
        <h2>Sign in</h2>
        <SignInForm {...entering} />
        {sample && <Sample of={sample} {...entering} />}
      </section>
    </main>
  )
}

function SignInForm({ problem, busy, enter }: Entering) {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  return (
    <Form onSend={() => enter({ email, password })}>
      <Field label="E-mail">
        {(id) => (
          <TextInput
            id={id}
            type="email"
            autoComplete="username"
            required
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        )}
      </Field>
      <Field label="Password" problem={problem}>
        {(id) => (
          <TextInput
            id={id}
            type="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        )}
      </Field>
      <Button look="main" type="submit" disabled={busy}>
        {busy ? 'Signing in…' : 'Sign in'}
      </Button>
    </Form>
  )
}

const Sample = ({ of: { people, password }, busy, enter }: Entering & { of: NonNullable<Props['sample']> }) => (
  <div className={css['sample']}>
    <h3>Or as one of the sample people</h3>
    <ul>
      {people.map(({ name, email, roles }) => (
        <li key={email}>
          <button type="button" disabled={busy} onClick={() => enter({ email, password })}>
            <b>{name}</b>
            <span className="quiet">{roles}</span>
          </button>
        </li>
      ))}
    </ul>
    <p className="quiet">
      Their password is <code>{password}</code>.
    </p>
  </div>
)
