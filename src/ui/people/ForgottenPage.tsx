import { useState } from 'react'
import { askNewPassword } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import css from './SignIn.module.css'

/** Asks for a link by which a new password can be chosen. */
export function ForgottenPage() {
  const [told, setTold] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | undefined>()
  const [email, setEmail] = useState('')
  const ask = async () => {
    setProblem(undefined)
    try {
      setTold((await call(askNewPassword, { body: { email } })).told)
    } catch (error) {
      setProblem(sentenceOf(error))
    }
  }
  return (
    <main className={css['alone']}>
      <h1>A new password</h1>
      {told === null ? (
        <Form onSend={() => void ask()}>
          <Field label="Your e-mail" problem={problem}>
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
          <Button look="main" type="submit">
            Send me a link
          </Button>
        </Form>
      ) : (
        <p role="status">{told}</p>
      )}
      <p>
        <a href="/sign-in">To the sign-in</a>
      </p>
    </main>
  )
}
