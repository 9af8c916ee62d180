import { useState } from 'react'
import { signIn, signInWithCode } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { RovantMark } from '#ui/shell/RouteBar.tsx'
import css from './SignIn.module.css'

interface Props {
  readonly to: string
  /** What was tried before, by a form the browser itself sent. */
  readonly email?: string | undefined
  readonly refused?: string | undefined
  /** The password was right; a code of the second factor is asked for. */
  readonly codeAsked?: boolean | undefined
  /** The provider outside people may sign in by, or must. */
  readonly signOn?: { readonly name: string; readonly only: boolean } | null
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

function useEntering(to: string, { refused, codeAsked = false }: Pick<Props, 'refused' | 'codeAsked'>) {
  const [problem, setProblem] = useState(refused)
  const [busy, setBusy] = useState(false)
  const [step, setStep] = useState<'password' | 'code'>(codeAsked ? 'code' : 'password')
  const attempt = async (come: () => Promise<boolean>) => {
    setBusy(true)
    setProblem(undefined)
    try {
      if (await come()) location.assign(to)
      else {
        setStep('code')
        setBusy(false)
      }
    } catch (error) {
      setProblem(sentenceOf(error))
      setBusy(false)
    }
  }
  return {
    problem,
    busy,
    step,
    enter: (entry: Entry) => void attempt(async () => !('code' in (await call(signIn, { body: entry })))),
    enterCode: (code: string) =>
      void attempt(async () => {
        await call(signInWithCode, { body: { code } })
        return true
      }),
    again: () => setStep('password'),
  }
}
type Entering = ReturnType<typeof useEntering>

/** Signs a person in and leads back to where they wanted to go. */
export function SignInPage({ to, sample, email = '', refused, codeAsked, signOn = null }: Props) {
  const entering = useEntering(to, { refused, codeAsked })
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
        {signOn && <ByProvider name={signOn.name} to={to} refused={signOn.only ? entering.problem : undefined} />}
        {entering.step === 'code' ? (
          <CodeForm {...entering} to={to} />
        ) : signOn?.only ? (
          <Unfold summary="Administrators: by password">
            <SignInForm {...entering} email={email} />
          </Unfold>
        ) : (
          <SignInForm {...entering} email={email} />
        )}
        {sample && entering.step === 'password' && <Sample of={sample} {...entering} />}
      </section>
    </main>
  )
}

const ByProvider = ({ name, to, refused }: { name: string; to: string; refused: string | undefined }) => (
  <div className={css['provider']}>
    <a href={`/sso/begin?to=${encodeURIComponent(to)}`}>Sign in with {name}</a>
    {refused && <p role="alert">{refused}</p>}
  </div>
)

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
    <p className={css['beside']}>
      <a href="/forgotten">Forgotten your password?</a>
    </p>
  </Form>
)

/** The second step, for who comes in with a second factor. */
const CodeForm = ({ problem, busy, enterCode, again, to }: Entering & { to: string }) => (
  <Form
    method="post"
    action={`/sign-in?step=code&to=${encodeURIComponent(to)}`}
    onSend={(form) => enterCode(textIn(form, 'code'))}
  >
    <Field
      label="The code your authenticator shows"
      hint="Or one of your recovery codes; each works once."
      problem={problem}
    >
      {(id) => <TextInput id={id} name="code" inputMode="numeric" autoComplete="one-time-code" required autoFocus />}
    </Field>
    <Button look="main" type="submit" disabled={busy}>
      {busy ? 'Signing in…' : 'Sign in'}
    </Button>{' '}
    <Button look="word" onClick={again}>
      begin again
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
