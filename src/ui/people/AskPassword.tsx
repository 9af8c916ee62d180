import { useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { problemOf } from './ChangePassword.tsx'

/** Asks for one’s password before something is done by which one comes in; `onDo` throws what the server says. */
export function AskPassword({
  title,
  explains,
  action,
  onDo,
  onClose,
}: {
  title: string
  explains: string
  action: string
  onDo: (password: string) => Promise<void>
  onClose: () => void
}) {
  const [password, setPassword] = useState('')
  const [problem, setProblem] = useState<string | undefined>()
  const [busy, setBusy] = useState(false)
  const go = async () => {
    setBusy(true)
    try {
      await onDo(password)
    } catch (error) {
      setProblem(problemOf(error, 'password'))
      setBusy(false)
    }
  }
  return (
    <Dialog title={title} onClose={onClose}>
      <PickForm onDo={() => void go()}>
        <p>{explains}</p>
        <Field label="Your password" problem={problem}>
          {(id) => (
            <TextInput
              id={id}
              type="password"
              autoComplete="current-password"
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          )}
        </Field>
        <PickFoot>
          <Button look="main" type="submit" disabled={busy || password === ''}>
            {action}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}
