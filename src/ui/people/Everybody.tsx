import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { listPeople, type PersonLine, type PersonState, personStates } from '#core/people/people-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Table } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { Access } from './Access.tsx'
import { Invite } from './Invite.tsx'
import css from './People.module.css'
import { PersonMark } from './PersonMark.tsx'

const stateWords: Readonly<Record<PersonState, string>> = { invited: 'invited', active: 'active', ended: 'no access' }
const pageOf = 100

/** All people of the installation, found by words and state, with what each may do and has open. */
export function Everybody() {
  const [text, setText] = useState('')
  const [state, setState] = useState<PersonState | ''>('')
  const [from, setFrom] = useState(0)
  const [open, setOpen] = useState<'invite' | string | null>(null)
  const query = { limit: pageOf, cursor: from, ...(text.trim() !== '' && { text }), ...(state !== '' && { state }) }
  const { data, settled } = useAnswer(listPeople, { query }, { keep: true })
  const chosen = data?.rows.find(({ id }) => id === open)
  return (
    <>
      <div className={css['bar']}>
        <Button look="main" onClick={() => setOpen('invite')}>
          Bring people in…
        </Button>
        <TextInput
          type="search"
          aria-label="Find people"
          placeholder="Name or e-mail"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
            setFrom(0)
          }}
        />
        <Choice
          label="State"
          value={state}
          options={[
            { value: '', label: 'everybody' },
            ...personStates.map((each) => ({ value: each, label: stateWords[each] })),
          ]}
          onChoose={(value) => {
            setState(value)
            setFrom(0)
          }}
        />
        {data && <span className="quiet">{counted(data.total, 'person', 'people')}</span>}
      </div>
      {data?.rows.length === 0 && <p className="quiet">Nobody here is like that.</p>}
      <Table
        label="People of this installation"
        settled={settled}
        head={['Person', 'State', 'Roles', 'Groups', 'Last here', 'Open']}
      >
        {data?.rows.map((each) => (
          <PersonRow key={each.id} of={each} onOpen={() => setOpen(each.id)} />
        ))}
      </Table>
      {data && data.total > pageOf && <Paging from={from} next={data.next} onGo={setFrom} />}
      {open === 'invite' && <Invite into={null} onClose={() => setOpen(null)} />}
      {chosen && <Access of={chosen} onClose={() => setOpen(null)} />}
    </>
  )
}

const Paging = ({ from, next, onGo }: { from: number; next: number | null; onGo: (from: number) => void }) => (
  <p className={css['bar']}>
    <Button disabled={from === 0} onClick={() => onGo(Math.max(0, from - pageOf))}>
      Before
    </Button>
    <Button disabled={next === null} onClick={() => onGo(next ?? 0)}>
      After
    </Button>
  </p>
)

const rolesText = ({ administrator, roles }: PersonLine): string =>
  [...(administrator ? ['administrator'] : []), ...roles.map(({ project, role }) => `${role} in ${project}`)].join(', ')

function PersonRow({ of, onOpen }: { of: PersonLine; onOpen: () => void }) {
  const open = of.open.reduce((sum, { n }) => sum + n, 0)
  return (
    <tr>
      <td>
        <span className={css['who']}>
          <PersonMark of={of} />
          <span>
            <Button look="word" onClick={onOpen}>
              {of.name}
            </Button>
            <small>{of.email}</small>
          </span>
        </span>
      </td>
      <td>
        <span className={css['state']} data-state={of.state}>
          {stateWords[of.state]}
        </span>
        {of.secondFactor && <small className="quiet"> with a second factor</small>}
      </td>
      <td>{rolesText(of) || <span className="quiet">none</span>}</td>
      <td>{of.groups.join(', ')}</td>
      <td className="quiet">{of.lastIn === null ? 'never' : ago(of.lastIn)}</td>
      <td>{open > 0 ? open : ''}</td>
    </tr>
  )
}
