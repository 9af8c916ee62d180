import { useState } from 'react'
import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import { listGroups } from '#core/people/people-contract.ts'
import { readSignOn, updateSignOn } from '#core/people/sign-on-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Setting } from '#ui/kit/Settings.tsx'
import { YesNo } from '#ui/kit/YesNo.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import css from './People.module.css'

type SignOn = OutputOf<typeof readSignOn>

/** A provider outside that says who people are. */
export function SignOnSetUp() {
  const { data } = useAnswer(readSignOn, {})
  const { attempt, busy } = useWrite(updateSignOn)
  if (!data) return null
  const store = async (body: BodyOf<typeof updateSignOn>, told: string) => {
    if (await attempt({ body })) notify(told)
  }
  return (
    <>
      <Setting
        name="Single sign-on"
        explains={
          data.issuer === ''
            ? 'People can sign in by a provider of OpenID Connect, who is matched by the e-mail address it has verified. The provider leads back to the address beside.'
            : 'Who signs in is matched by the e-mail address the provider has verified.'
        }
      >
        {data.issuer === '' ? (
          <Connect of={data} busy={busy} onStore={store} />
        ) : (
          <Connected of={data} onStore={store} />
        )}
        <span className="quiet">
          leads back to <span className="key">{data.back}</span>
        </span>
      </Setting>
      {data.issuer !== '' && (
        <>
          <OnlyWay of={data} onStore={store} />
          <Outside of={data} onStore={store} />
        </>
      )}
    </>
  )
}

interface Props {
  readonly of: SignOn
  readonly onStore: (body: BodyOf<typeof updateSignOn>, told: string) => Promise<void>
}

function Connect({ busy, onStore }: Props & { busy: boolean }) {
  const [of, setOf] = useState({ name: '', issuer: '', clientId: '', secret: '' })
  const field = (name: keyof typeof of, label: string, type = 'text') => (
    <TextInput
      type={type}
      aria-label={label}
      placeholder={label}
      value={of[name]}
      onChange={(event) => setOf({ ...of, [name]: event.target.value })}
    />
  )
  return (
    <Form className={css['inline']} onSend={() => void onStore(of, `People can sign in by ${of.name} from now on.`)}>
      {field('name', 'Name people know it by')}
      {field('issuer', 'Address of the provider (issuer)')}
      {field('clientId', 'Client id')}
      {field('secret', 'Client secret', 'password')}
      <Button type="submit" disabled={busy || of.issuer.trim() === '' || of.clientId.trim() === ''}>
        Connect
      </Button>
    </Form>
  )
}

const Connected = ({ of, onStore }: Props) => (
  <>
    <EditText label="Name of the provider" value={of.name} onStore={(name) => void onStore({ name }, 'Stored.')} />
    <span className="key">{of.issuer}</span>
    {!of.secret && <mark data-tone="warn">its secret has to be given again</mark>}
    <EditText
      label="Client secret"
      value=""
      placeholder="change the secret"
      onStore={(secret) => void onStore({ secret }, 'The secret is changed.')}
    />
    <Button look="word" onClick={() => void onStore({ issuer: '' }, 'Nobody signs in by a provider any more.')}>
      disconnect
    </Button>
  </>
)

const OnlyWay = ({ of, onStore }: Props) => (
  <Setting
    name="The only way in"
    explains="Passwords are then for administrators alone, so that a provider that is down shuts nobody out for good."
  >
    <YesNo
      label="The only way in"
      is={of.only}
      no="passwords work too"
      yes="by the provider alone"
      onChoose={(only) => void onStore({ only }, only ? `People sign in by ${of.name} alone.` : 'Passwords work too.')}
    />
  </Setting>
)

/** Which group outside is which of ours. */
function Outside({ of, onStore }: Props) {
  const { data: groups } = useAnswer(listGroups, {})
  const [outside, setOutside] = useState('')
  const [group, setGroup] = useState('')
  const nameOf = (id: number) => groups?.rows.find((each) => each.id === id)?.name ?? 'a group that is gone'
  const set = (next: SignOn['groups'], told: string) => onStore({ groups: next }, told)
  const add = async () => {
    await set([...of.groups, { outside, group: Number(group) }], `Who is in ${outside} is in ${nameOf(Number(group))}.`)
    setOutside('')
  }
  return (
    <Setting
      name="Groups outside"
      explains="Who is in a group outside is in one of ours from their next sign-in on, with the roles it gives, and no longer once they are not. Somebody nobody brought in comes in only by such a group."
    >
      <ul className={css['absences']}>
        {of.groups.map((each) => (
          <li key={`${each.outside} ${each.group}`}>
            <span>
              <span className="key">{each.outside}</span> is {nameOf(each.group)}
            </span>
            <Button
              look="word"
              onClick={() =>
                void set(
                  of.groups.filter((other) => other !== each),
                  `${each.outside} gives nothing any more.`,
                )
              }
            >
              take out<span className="hidden"> {each.outside}</span>
            </Button>
          </li>
        ))}
      </ul>
      <Form className={css['inline']} onSend={() => void add()}>
        <TextInput
          aria-label="Group outside"
          placeholder="a group outside"
          value={outside}
          onChange={(event) => setOutside(event.target.value)}
        />
        is
        <Choice
          label="Group here"
          value={group}
          options={[
            { value: '', label: 'a group here' },
            ...(groups?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
          ]}
          onChoose={setGroup}
        />
        <Button type="submit" disabled={outside.trim() === '' || group === ''}>
          Add
        </Button>
      </Form>
    </Setting>
  )
}
