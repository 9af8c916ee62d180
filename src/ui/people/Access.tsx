import { useState } from 'react'
import type { Project } from '#core/projects/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { type Role, roles } from '#core/lib/rights.ts'
import {
  dropFactorOf,
  endSignInsOf,
  makeLink,
  type PersonLine,
  setRole,
  updatePerson,
} from '#core/people/people-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Setting, ToldOnce } from '#ui/kit/Settings.tsx'
import { YesNo } from '#ui/kit/YesNo.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { wholeLink } from './Invite.tsx'

/** What an administrator may do with somebody: their name and address, their roles, how they come in, and the end of it. */
export function Access({ of, onClose }: { of: PersonLine; onClose: () => void }) {
  const store = useUndoable(updatePerson, { person: of.id })
  return (
    <Dialog title={of.name} onClose={onClose} wide>
      <Setting name="Name and address" explains="They sign in by the address. It is theirs alone.">
        <EditText
          label="Name"
          value={of.name}
          onStore={(name) => void store({ name }, `They are called ${name}.`, { name: of.name })}
        />
        <EditText
          label="E-mail"
          value={of.email}
          onStore={(email) => void store({ email }, `${of.name} signs in by ${email}.`, { email: of.email })}
        />
      </Setting>
      <Setting
        name="Administrator"
        explains="May do all that a lead may, in every project, and keep the installation. One at least there must be."
      >
        <YesNo
          label="Administrator"
          is={of.administrator}
          onChoose={(administrator) =>
            void store({ administrator }, `${of.name} is ${administrator ? 'an' : 'no'} administrator.`, {
              administrator: of.administrator,
            })
          }
        />
      </Setting>
      <Roles of={of} />
      <ComingIn of={of} />
      <End of={of} onStore={(ended, told) => store({ ended }, told, { ended: !ended })} />
    </Dialog>
  )
}

function Roles({ of }: { of: PersonLine }) {
  const { me } = useHere()
  return (
    <Setting name="Roles" explains="Given to them alone; what a group gives comes on top, and the higher one counts.">
      {me.projects.map((project) => (
        <RoleIn key={project.key} of={of} project={project} />
      ))}
    </Setting>
  )
}

function RoleIn({ of, project: { key, name } }: { of: PersonLine; project: Pick<Project, 'key' | 'name'> }) {
  const store = useUndoable(setRole, { person: of.id, key })
  const given = of.roles.find(({ project }) => project === key)?.given ?? ''
  const roleOf = (value: Role | '') => ({ role: value === '' ? null : value })
  return (
    <span>
      {name}:{' '}
      <Choice
        label={`Role in ${name}`}
        value={given}
        options={[{ value: '', label: 'none' }, ...roles.map((role) => ({ value: role, label: role }))]}
        onChoose={(value) =>
          void store(
            roleOf(value),
            value === '' ? `${of.name} is given no role in ${name}.` : `${of.name} is ${value} in ${name}.`,
            roleOf(given),
          )
        }
      />
      <ByGroup of={of} project={key} />
    </span>
  )
}

/** What their groups make of it. */
function ByGroup({ of, project }: { of: PersonLine; project: string }) {
  const own = of.roles.find((each) => each.project === project)
  return own && own.role !== own.given ? <span className="quiet">, {own.role} by a group</span> : null
}

function ComingIn({ of }: { of: PersonLine }) {
  const [link, setLink] = useState<string | null>(null)
  const making = useWrite(makeLink)
  const ending = useWrite(endSignInsOf)
  const dropping = useWrite(dropFactorOf)
  const params = { person: of.id }
  const make = async () => {
    const made = await making.attempt({ params })
    if (!made) return
    if (made.mailed) notify(`${of.name} was sent a link by mail.`)
    setLink(made.link)
  }
  const end = async () => {
    const done = await ending.attempt({ params })
    if (done) notify(`${counted(done.ended, 'sign-in')} of ${of.name} ended.`)
  }
  if (of.state === 'ended') return null
  return (
    <Setting
      name="How they come in"
      explains={
        of.state === 'invited'
          ? 'They were invited and have not come yet. A new link ends the one before.'
          : 'A link lets them choose a new password, and ends their sign-ins when they do. It works once.'
      }
    >
      <Button disabled={making.busy} onClick={() => void make()}>
        {of.state === 'invited' ? 'New invitation' : 'Link for a new password'}
      </Button>
      <Button disabled={ending.busy} onClick={() => void end()}>
        End all sign-ins
      </Button>
      {of.secondFactor && (
        <Button disabled={dropping.busy} onClick={() => void dropping.attempt({ params })}>
          Take the second factor away
        </Button>
      )}
      {link !== null && <ToldOnce label="Link to hand over">{wholeLink(link)}</ToldOnce>}
    </Setting>
  )
}

function End({ of, onStore }: { of: PersonLine; onStore: (ended: boolean, told: string) => Promise<unknown> }) {
  const open = of.open.filter(({ n }) => n > 0)
  if (of.state === 'ended')
    return (
      <Setting name="Access" explains="Ended. All they did is there, in their name.">
        <Button onClick={() => void onStore(false, `${of.name} may come in again.`)}>Let them in again</Button>
      </Setting>
    )
  return (
    <Setting
      name="Access"
      explains={
        open.length === 0
          ? 'When it ends, sign-ins, tokens and links end at once; nothing they did is lost.'
          : `They have ${open.map(({ project, n }) => `${counted(n, 'thing')} open in ${project}`).join(', ')}. Hand that over first, among the people of the project; it stays theirs otherwise.`
      }
    >
      {open.map(({ project }) => (
        <a key={project} href={`/p/${project}/people/${of.id}`}>
          their work in {project}
        </a>
      ))}
      <Button look="danger" onClick={() => void onStore(true, `The access of ${of.name} has ended.`)}>
        End access
      </Button>
    </Setting>
  )
}
