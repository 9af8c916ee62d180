import { commaList } from '#core/lib/comma-list.ts'
import { useState } from 'react'
import { minutesText } from '#core/lib/figures.ts'
import { type Role, roles } from '#core/lib/rights.ts'
import { inviteMembers, removeMember, updateMember } from '#core/people/members-contract.ts'
import type { Project } from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { RowActs, Table } from '#ui/kit/Settings.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'
import { HandOver } from './HandOver.tsx'
import { Invite } from './Invite.tsx'
import css from './People.module.css'
import { PersonMark } from './PersonMark.tsx'

type Member = Project['people'][number]

/** The people of a project: roles, hours and skills where they stand, and a way to bring more in. */
export function ProjectPeople({ of }: { of: Project }) {
  const [open, setOpen] = useState<'invite' | Member | null>(null)
  const lead = of.role === 'lead'
  const total = of.people.reduce((sum, { minutesPerDay, ended }) => sum + (ended ? 0 : minutesPerDay), 0)
  return (
    <>
      <p className={css['bar']}>
        {lead && (
          <Button look="main" onClick={() => setOpen('invite')}>
            Bring people in…
          </Button>
        )}
        <span className="quiet">
          {of.people.length} people give {minutesText(total)} on a day on which nobody is away.
        </span>
      </p>
      <Table
        label="People of the project"
        head={[
          'Person',
          'Role',
          'A day',
          'Skills',
          <span key="acts" className="hidden">
            Acts
          </span>,
        ]}
      >
        {of.people.map((each) => (
          <MemberRow key={each.id} project={of} of={each} onHandOver={() => setOpen(each)} />
        ))}
      </Table>
      {open === 'invite' && <Invite into={of} onClose={() => setOpen(null)} />}
      {open !== null && open !== 'invite' && <HandOver of={open} project={of} onClose={() => setOpen(null)} />}
    </>
  )
}

function MemberRow({ project, of, onHandOver }: { project: Project; of: Member; onHandOver: () => void }) {
  const store = useUndoable(updateMember, { key: project.key, person: of.id })
  const lead = project.role === 'lead'
  const setRole = (role: Role) => store({ role }, `${of.name} is ${role} now.`, { role: of.role })
  const setSkills = (text: string) =>
    store({ skills: commaList(text) }, `What ${of.name} is good at is stored.`, { skills: [...of.skills] })
  return (
    <tr>
      <td>
        <span className={css['who']}>
          <PersonMark of={of} />
          <span>
            <a href={`/p/${project.key}/people/${of.id}`}>{of.name}</a>
            {of.ended && <small>has no access any more</small>}
          </span>
        </span>
      </td>
      <td>
        {lead ? (
          <Choice
            label={`Role of ${of.name}`}
            value={of.role}
            options={roles}
            onChoose={(role) => void setRole(role)}
          />
        ) : (
          of.role
        )}
      </td>
      <td>{minutesText(of.minutesPerDay)}</td>
      <td>
        {lead ? (
          <EditText
            label={`Skills of ${of.name}`}
            placeholder="none"
            value={of.skills.join(', ')}
            onStore={(text) => void setSkills(text)}
          />
        ) : (
          of.skills.join(', ')
        )}
      </td>
      <td>{lead && <MemberActs of={of} project={project} onHandOver={onHandOver} />}</td>
    </tr>
  )
}

function MemberActs({ of, project, onHandOver }: { of: Member; project: Project; onHandOver: () => void }) {
  const removing = useWrite(removeMember)
  const setting = useWrite(updateMember)
  const inviting = useWrite(inviteMembers)
  const params = { key: project.key, person: of.id }
  const back = async () => {
    const { name, email, role, skills, sharePercent } = of
    const people = [{ name, email, role }]
    if (await inviting.attempt({ params: { key: project.key }, body: { people } }))
      await setting.attempt({ params, body: { skills, sharePercent } })
  }
  const remove = async () => {
    if (!(await removing.attempt({ params }))) return
    notify(`${of.name} is no longer of this project; what they did stays theirs.`, { undo: () => void back() })
  }
  return (
    <RowActs>
      <Button look="word" onClick={onHandOver}>
        hand over<span className="hidden"> the work of {of.name}</span>
      </Button>
      <Button look="word" disabled={removing.busy} onClick={() => void remove()}>
        take out<span className="hidden"> {of.name}</span>
      </Button>
    </RowActs>
  )
}
