import { useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import type { Me } from '#core/people/contract.ts'
import { endToken, listTokens, makeToken } from '#core/people/own-contract.ts'
import { type TokenScope, tokenScopes } from '#core/people/token.ts'
import { call } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { fullMomentText } from '#ui/kit/moment.ts'
import { RowActs, Table, ToldOnce } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { AskPassword } from './AskPassword.tsx'
import css from './People.module.css'

const scopeWords: Readonly<Record<TokenScope, string>> = {
  read: 'to read',
  results: 'to send results',
  write: 'to do all that you may',
}

/** Keys by which programs do something in one’s name. */
export function Tokens({ me }: { me: Me }) {
  const { data } = useAnswer(listTokens, {})
  const ending = useWrite(endToken)
  if (!data) return null
  return (
    <section aria-label="Tokens">
      <h2>Tokens for programs</h2>
      <p className="quiet">With one, a program asks this server in your name. Give it no more than it needs.</p>
      {data.rows.length > 0 && (
        <Table
          label="Tokens"
          head={[
            'Name',
            'For',
            'Project',
            'Last used',
            'Ends',
            <span key="acts" className="hidden">
              Acts
            </span>,
          ]}
        >
          {data.rows.map(({ id, name, scope, project, lastUsedAt, endsAt }) => (
            <tr key={id}>
              <td>{name}</td>
              <td>{scopeWords[scope]}</td>
              <td>{project ?? 'all of yours'}</td>
              <td className="quiet">{lastUsedAt === null ? 'never' : ago(lastUsedAt)}</td>
              <td className="quiet">{endsAt === null ? 'never' : fullMomentText(endsAt)}</td>
              <td>
                <RowActs>
                  <Button look="word" onClick={() => void ending.attempt({ params: { token: id } })}>
                    revoke<span className="hidden"> {name}</span>
                  </Button>
                </RowActs>
              </td>
            </tr>
          ))}
        </Table>
      )}
      <NewToken me={me} />
    </section>
  )
}

const lasts = [
  { value: '30', label: 'ends after 30 days' },
  { value: '90', label: 'ends after 90 days' },
  { value: '365', label: 'ends after a year' },
  { value: '', label: 'never ends' },
]

function NewToken({ me }: { me: Me }) {
  const client = useQueryClient()
  const [of, setOf] = useState({ name: '', scope: 'read' as TokenScope, project: '', days: '90' })
  const [asking, setAsking] = useState(false)
  const [made, setMade] = useState<string | null>(null)
  const make = async (password: string) => {
    const { name, scope, project, days } = of
    const body = { password, name, scope, project: project || null, days: days === '' ? null : Number(days) }
    const { token } = await call(makeToken, { body })
    setMade(token)
    setAsking(false)
    setOf({ ...of, name: '' })
    await client.invalidateQueries()
  }
  return (
    <>
      <Form className={css['inline']} onSend={() => setAsking(true)}>
        <TextInput
          aria-label="Name of a new token"
          placeholder="A new token, such as “nightly”"
          value={of.name}
          onChange={(event) => setOf({ ...of, name: event.target.value })}
        />
        <Choice
          label="What it may be used for"
          value={of.scope}
          options={tokenScopes.map((scope) => ({ value: scope, label: scopeWords[scope] }))}
          onChoose={(scope) => setOf({ ...of, scope })}
        />
        <Choice
          label="Project it works for"
          value={of.project}
          options={[
            { value: '', label: 'in all projects of yours' },
            ...me.projects.map(({ key, name }) => ({ value: key, label: `in ${name}` })),
          ]}
          onChoose={(project) => setOf({ ...of, project })}
        />
        <Choice label="How long it works" value={of.days} options={lasts} onChoose={(days) => setOf({ ...of, days })} />
        <Button type="submit" disabled={of.name.trim() === ''}>
          Make it…
        </Button>
      </Form>
      {made !== null && <Made token={made} />}
      {asking && (
        <AskPassword
          title={`The token “${of.name.trim()}”`}
          explains="Whoever has it can do in your name what it is for."
          action="Make it"
          onDo={make}
          onClose={() => setAsking(false)}
        />
      )}
    </>
  )
}

const Made = ({ token }: { token: string }) => (
  <>
    <p>This is the token. Put it where it is needed now: it is not shown again.</p>
    <ToldOnce label="Token">{token}</ToldOnce>
  </>
)
