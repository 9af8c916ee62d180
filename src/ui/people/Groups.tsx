import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { type Role, roles } from '#core/lib/rights.ts'
import {
  createGroup,
  deleteGroup,
  type Group,
  listGroups,
  listPeople,
  updateGroup,
} from '#core/people/people-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RowActs, Setting, Table } from '#ui/kit/Settings.tsx'
import { AddLine, tell } from '#ui/projects/AddLine.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import css from './People.module.css'

/** Groups of people, with the roles each gives. */
export function Groups() {
  const { data } = useAnswer(listGroups, {})
  const making = useWrite(createGroup)
  const [open, setOpen] = useState<number | null>(null)
  const group = data?.rows.find(({ id }) => id === open)
  const add = async (name: string) => tell(await making.attempt({ body: { name } }), `The group ${name} is made.`)
  return (
    <>
      <AddLine label="A new group, such as “Night crew”" action="Add" onAdd={add} />
      {data?.rows.length === 0 && (
        <p className="quiet">None yet. With a group, several people get a role in several projects by one act.</p>
      )}
      {data && data.rows.length > 0 && (
        <Table
          label="Groups"
          head={[
            'Group',
            'People',
            'Gives',
            <span key="acts" className="hidden">
              Acts
            </span>,
          ]}
        >
          {data.rows.map((each) => (
            <GroupRow key={each.id} of={each} onOpen={() => setOpen(each.id)} />
          ))}
        </Table>
      )}
      {group && <GroupDialog of={group} onClose={() => setOpen(null)} />}
    </>
  )
}

const givesText = ({ roles: given }: Group): string =>
  given.map(({ project, role }) => `${role} in ${project}`).join(', ')

function GroupRow({ of, onOpen }: { of: Group; onOpen: () => void }) {
  const removing = useWrite(deleteGroup)
  const making = useWrite(createGroup)
  const setting = useWrite(updateGroup)
  const back = async () => {
    const made = await making.attempt({ body: { name: of.name } })
    const body = { people: of.people.map(({ id }) => id), roles: of.roles }
    if (made) await setting.attempt({ params: { group: made.id }, body })
  }
  const remove = async () => {
    if (await removing.attempt({ params: { group: of.id } }))
      notify(`The group ${of.name} is taken away, and what it gave.`, { undo: () => void back() })
  }
  return (
    <tr>
      <td>
        <Button look="word" onClick={onOpen}>
          {of.name}
        </Button>
      </td>
      <td>{of.people.map(({ name }) => name).join(', ') || <span className="quiet">nobody</span>}</td>
      <td>{givesText(of) || <span className="quiet">nothing</span>}</td>
      <td>
        <RowActs>
          <Button look="word" onClick={() => void remove()}>
            take away<span className="hidden"> {of.name}</span>
          </Button>
        </RowActs>
      </td>
    </tr>
  )
}

function GroupDialog({ of, onClose }: { of: Group; onClose: () => void }) {
  const { me } = useHere()
  const storing = useUndoable(updateGroup, { group: of.id })
  const before = { people: of.people.map(({ id }) => id), roles: of.roles, name: of.name }
  const store = (body: BodyOf<typeof updateGroup>, told: string) => storing(body, told, before)
  const give = (project: string, role: Role | '') =>
    void store(
      {
        roles: [...of.roles.filter((each) => each.project !== project), ...(role === '' ? [] : [{ project, role }])],
      },
      role === '' ? `${of.name} gives nothing in ${project} any more.` : `${of.name} gives ${role} in ${project}.`,
    )
  return (
    <Dialog title={of.name} onClose={onClose} wide>
      <Setting name="Name" explains="People know the group by it.">
        <EditText label="Name of the group" value={of.name} onStore={(name) => void store({ name }, 'Stored.')} />
      </Setting>
      <Setting name="Gives" explains="Everybody in the group has at least this role in the project.">
        {me.projects.map(({ key, name }) => (
          <span key={key}>
            {name}:{' '}
            <Choice
              label={`Role in ${name}`}
              value={of.roles.find(({ project }) => project === key)?.role ?? ''}
              options={[{ value: '', label: 'nothing' }, ...roles.map((role) => ({ value: role, label: role }))]}
              onChoose={(value) => give(key, value)}
            />
          </span>
        ))}
      </Setting>
      <Members of={of} onStore={(people, told) => void store({ people }, told)} />
    </Dialog>
  )
}

/** Who is in, each with a way out; others are found by their name and put in. */
function Members({ of, onStore }: { of: Group; onStore: (people: string[], told: string) => void }) {
  const [text, setText] = useState('')
  const { data } = useAnswer(listPeople, { query: { text, limit: 8 } }, { enabled: text.trim() !== '' })
  const ids = of.people.map(({ id }) => id)
  const found =
    text.trim() === '' ? [] : (data?.rows ?? []).filter(({ id, state }) => !ids.includes(id) && state !== 'ended')
  return (
    <Setting name="People" explains={counted(of.people.length, 'person', 'people')}>
      <ul className={css['absences']}>
        {of.people.map(({ id, name }) => (
          <li key={id}>
            {name}
            <Button
              look="word"
              onClick={() =>
                onStore(
                  ids.filter((each) => each !== id),
                  `${name} is no longer in ${of.name}.`,
                )
              }
            >
              take out<span className="hidden"> {name}</span>
            </Button>
          </li>
        ))}
      </ul>
      <TextInput
        type="search"
        aria-label="Put somebody in"
        placeholder="Put somebody in: a name"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <ul>
        {found.map(({ id, name }) => (
          <li key={id}>
            <Button
              look="word"
              onClick={() => {
                setText('')
                onStore([...ids, id], `${name} is in ${of.name}.`)
              }}
            >
              {name}
            </Button>
          </li>
        ))}
      </ul>
    </Setting>
  )
}
