import { create } from 'qrcode'
import { useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import {
  beginSecondFactor,
  confirmSecondFactor,
  dropSecondFactor,
  newRecoveryCodes,
  readSecondFactor,
} from '#core/people/own-contract.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Setting, ToldOnce } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { AskPassword } from './AskPassword.tsx'
import { problemOf } from './ChangePassword.tsx'
import css from './People.module.css'

type Begun = OutputOf<typeof beginSecondFactor>
type Open = 'begin' | 'drop' | 'codes' | null

/** A code beside the password: set up, recovery codes, taken away. */
export function SecondFactor() {
  const client = useQueryClient()
  const { data } = useAnswer(readSecondFactor, {})
  const [open, setOpen] = useState<Open>(null)
  const [begun, setBegun] = useState<Begun | null>(null)
  const [codes, setCodes] = useState<readonly string[] | null>(null)
  if (!data) return null
  const acts = {
    begin: async (password: string) => setBegun(await call(beginSecondFactor, { body: { password } })),
    drop: async (password: string) => {
      await call(dropSecondFactor, { body: { password } })
      notify('You come in by your password alone.')
    },
    codes: async (password: string) => setCodes((await call(newRecoveryCodes, { body: { password } })).codes),
  }
  const act = async (which: Exclude<Open, null>, password: string) => {
    await acts[which](password)
    setOpen(null)
    await client.invalidateQueries()
  }
  return (
    <section aria-label="Second factor">
      <h2>Second factor</h2>
      <Setting
        name={data.on ? 'On' : 'Off'}
        explains={
          data.on
            ? `A code of your authenticator is asked for beside your password. ${counted(data.codesLeft, 'recovery code')} left for when you have no authenticator at hand.`
            : 'With one, a code of an authenticator on your phone is asked for beside your password: who knows your password alone does not come in.'
        }
      >
        {data.on ? (
          <>
            <Button onClick={() => setOpen('codes')}>New recovery codes</Button>
            <Button onClick={() => setOpen('drop')}>Take it away</Button>
          </>
        ) : (
          <Button onClick={() => setOpen('begin')}>Set one up</Button>
        )}
      </Setting>
      {begun && <Confirm of={begun} onDone={() => setBegun(null)} />}
      {open && <AskPassword {...asks[open]} onDo={(password) => act(open, password)} onClose={() => setOpen(null)} />}
      {codes && (
        <Dialog title="New recovery codes" onClose={() => setCodes(null)}>
          <Codes of={codes} />
        </Dialog>
      )}
    </section>
  )
}

const asks = {
  begin: {
    title: 'Set up a second factor',
    explains: 'You need an authenticator: an app that shows six digits, anew every half minute.',
    action: 'Go on',
  },
  drop: {
    title: 'Take the second factor away',
    explains: 'You come in by your password alone then. Your recovery codes no longer work.',
    action: 'Take it away',
  },
  codes: {
    title: 'New recovery codes',
    explains: 'The ones of before no longer work from then on.',
    action: 'Make them',
  },
} as const

const Codes = ({ of }: { of: readonly string[] }) => (
  <>
    <p style={{ marginBlockStart: 10 }}>
      These are recovery codes. Each works once instead of a code. Keep them where you find them without this device;
      they are not shown again.
    </p>
    <div className={css['codes']}>
      <ToldOnce label="Recovery codes">{of.join('\n')}</ToldOnce>
    </div>
  </>
)

/** Counts only once a first code was right: so nobody is shut out by an authenticator that never took the secret. */
function Confirm({ of, onDone }: { of: Begun; onDone: () => void }) {
  const client = useQueryClient()
  const [code, setCode] = useState('')
  const [problem, setProblem] = useState<string | undefined>()
  const confirm = async () => {
    try {
      await call(confirmSecondFactor, { body: { code } })
      notify('Your second factor is on.')
      onDone()
      await client.invalidateQueries()
    } catch (error) {
      setProblem(problemOf(error, 'code'))
    }
  }
  return (
    <div className={css['factor']}>
      <Square text={of.address} />
      <div>
        <p>Read this with your authenticator, or type its secret there:</p>
        <ToldOnce label="Secret">{of.secret}</ToldOnce>
        <Codes of={of.codes} />
        <Form className={css['fields']} onSend={() => void confirm()}>
          <Field label="The code it shows now" problem={problem}>
            {(id) => (
              <TextInput
                id={id}
                inputMode="numeric"
                autoComplete="one-time-code"
                value={code}
                onChange={(event) => setCode(event.target.value)}
              />
            )}
          </Field>
          <Button type="submit" look="main" disabled={code.trim().length !== 6}>
            Turn it on
          </Button>
        </Form>
      </div>
    </div>
  )
}

/** A text as a square that a camera reads (ISO/IEC 18004). */
function Square({ text }: { text: string }) {
  const { data, size } = create(text).modules
  const path = [...data].map((dark, at) => (dark ? `M${at % size} ${Math.floor(at / size)}h1v1h-1z` : '')).join('')
  return (
    <svg viewBox={`0 0 ${size} ${size}`} role="img" aria-label="The secret, for a camera" shapeRendering="crispEdges">
      <path d={path} fill="#000" />
    </svg>
  )
}
