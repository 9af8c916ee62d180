import { useEffect, useState } from 'react'
import { setUpFirst } from '#core/installation/contract.ts'
import { leastPassword } from '#core/people/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { hearTypedBefore } from '#ui/kit/typed-before.ts'
import css from './SignIn.module.css'

/** Sets up the first administrator with the code from the console, and the first project. */
export function FirstPage() {
  useEffect(hearTypedBefore, [])
  const [of, setOf] = useState({ code: '', name: '', email: '', password: '', projectKey: '', projectName: '' })
  const [problem, setProblem] = useState<string | undefined>()
  const store = async () => {
    try {
      await call(setUpFirst, { body: of })
      location.assign('/sign-in')
    } catch (error) {
      setProblem(sentenceOf(error))
    }
  }
  const field = (name: keyof typeof of, label: string, type = 'text') => (
    <Field label={label}>
      {(id) => (
        <TextInput
          id={id}
          type={type}
          required
          value={of[name]}
          onChange={(event) => setOf({ ...of, [name]: event.target.value })}
        />
      )}
    </Field>
  )
  return (
    <main className={css['form']} style={{ marginInline: 'auto' }}>
      <h1>Set up Rovant</h1>
      <Form onSend={() => void store()}>
        {field('code', 'One-time code from the console')}
        {field('name', 'Your name')}
        {field('email', 'Your e-mail', 'email')}
        {field('password', `A password of ${leastPassword} characters or more`, 'password')}
        {field('projectKey', 'Key of the first project, such as FERRY')}
        {field('projectName', 'Its name')}
        {problem && (
          <p role="alert" style={{ color: 'var(--danger)' }}>
            {problem}
          </p>
        )}
        <Button look="main" type="submit">
          Set up
        </Button>
      </Form>
    </main>
  )
}
