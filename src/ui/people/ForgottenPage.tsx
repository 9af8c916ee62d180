import { useState } from 'react'
import { askNewPassword } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import css from './SignIn.module.css'

interface Props {
  /** What was asked before, by a form the browser itself sent, and what came of it. */
  readonly email?: string | undefined
  readonly already?: string | undefined
  readonly refused?: string | undefined
}

/** Asks for a link by which a new password can be chosen; the field is the browser's own, as on the sign-in page. */
export function ForgottenPage({ email = '', already, refused }: Props) {
  const [told, setTold] = useState(already)
  const [problem, setProblem] = useState(refused)
  const ask = async (form: HTMLFormElement) => {
    setProblem(undefined)
    try {
      const typed = new FormData(form).get('email')
      setTold((await call(askNewPassword, { body: { email: typeof typed === 'string' ? typed : '' } })).told)
    } catch (error) {
      setProblem(sentenceOf(error))
    }
  }
  return (
    <main className={css['alone']}>
      <h1>A new password</h1>
      {told === undefined ? (
        <Form method="post" onSend={(form) => void ask(form)}>
          <Field label="Your e-mail" problem={problem}>
            {(id) => (
              <TextInput id={id} name="email" type="email" autoComplete="username" required defaultValue={email} />
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
