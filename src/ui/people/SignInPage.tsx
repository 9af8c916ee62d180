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
  /** What was tried before, by a form the browser itself sent. */
  readonly email?: string | undefined
  readonly refused?: string | undefined
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

function useEntering(to: string, refused: string | undefined) {
  const [problem, setProblem] = useState(refused)
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
export function SignInPage({ to, sample, email = '', refused }: Props) {
  const entering = useEntering(to, refused)
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
        <SignInForm {...entering} email={email} />
        {sample && <Sample of={sample} {...entering} />}
      </section>
    </main>
  )
}

const textIn = (form: HTMLFormElement, name: string): string => {
  const value = new FormData(form).get(name)
  return typeof value === 'string' ? value : ''
}

/** The fields are the browser's own: what is typed before the scripts are there stays, and is sent by the browser if need be. */
const SignInForm = ({ problem, busy, enter, email }: Entering & { email: string }) => (
  <Form method="post" onSend={(form) => enter({ email: textIn(form, 'email'), password: textIn(form, 'password') })}>
    <Field label="E-mail">
      {(id) => <TextInput id={id} name="email" type="email" autoComplete="username" required defaultValue={email} />}
    </Field>
    <Field label="Password" problem={problem}>
      {(id) => <TextInput id={id} name="password" type="password" autoComplete="current-password" required />}
    </Field>
    <Button look="main" type="submit" disabled={busy}>
      {busy ? 'Signing in…' : 'Sign in'}
    </Button>
  </Form>
)

const Sample = ({ of: { people, password }, busy, enter }: Entering & { of: NonNullable<Props['sample']> }) => (
  <div className={css['sample']}>
    <h3>Or as one of the sample people</h3>
    <form
      method="post"
      onSubmit={(event) => {
        event.preventDefault()
        const chosen = event.nativeEvent instanceof SubmitEvent ? event.nativeEvent.submitter : null
        if (chosen instanceof HTMLButtonElement) enter({ email: chosen.value, password })
      }}
    >
      <input type="hidden" name="password" value={password} />
      <ul>
        {people.map(({ name, email, roles }) => (
          <li key={email}>
            <button type="submit" name="email" value={email} disabled={busy}>
              <b>{name}</b>
              <span className="quiet">{roles}</span>
            </button>
          </li>
        ))}
      </ul>
    </form>
    <p className="quiet">
      Their password is <code>{password}</code>.
    </p>
  </div>
)
