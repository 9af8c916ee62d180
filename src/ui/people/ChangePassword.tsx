import { useState } from 'react'
import { leastPassword } from '#core/people/contract.ts'
import { changePassword } from '#core/people/own-contract.ts'
import { call, CallProblem, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import css from './People.module.css'

/** What the server says of a field, or of the whole where it names none. */
export const problemOf = (error: unknown, field: string): string =>
  error instanceof CallProblem
    ? (error.problem.field?.find((each) => each.field === field)?.message ?? error.problem.detail)
    : sentenceOf(error)

/** A new password, by the one there is. */
export function ChangePassword() {
  const [problem, setProblem] = useState<{ field: 'password' | 'next'; told: string } | null>(null)
  const [busy, setBusy] = useState(false)
  const change = async (form: HTMLFormElement) => {
    const of = new FormData(form)
    const text = (name: string) => String(of.get(name) ?? '')
    setBusy(true)
    setProblem(null)
    try {
      await call(changePassword, { body: { password: text('password'), next: text('next') } })
      form.reset()
      notify('Your password is changed; your other sign-ins have ended.')
    } catch (error) {
      const next = error instanceof CallProblem && error.problem.field?.some(({ field }) => field === 'next')
      const common = error instanceof CallProblem && error.problem.detail.startsWith('Many people')
      setProblem({
        field: next || common ? 'next' : 'password',
        told: common ? sentenceOf(error) : problemOf(error, next ? 'next' : 'password'),
      })
    }
    setBusy(false)
  }
  return (
    <section aria-label="Password">
      <h2>Password</h2>
      <p className="quiet">
        {leastPassword} characters or more, of any kind: some words in a row are better than a short riddle. What many
        people use is refused.
      </p>
      <Form className={css['fields']} onSend={(form) => void change(form)}>
        <Field label="The one you have" problem={problem?.field === 'password' ? problem.told : undefined}>
          {(id) => <TextInput id={id} name="password" type="password" autoComplete="current-password" required />}
        </Field>
        <Field label="A new one" problem={problem?.field === 'next' ? problem.told : undefined}>
          {(id) => <TextInput id={id} name="next" type="password" autoComplete="new-password" required />}
        </Field>
        <Button type="submit" disabled={busy}>
          Change it
        </Button>
      </Form>
    </section>
  )
}
