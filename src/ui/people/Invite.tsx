import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { type Role, roles } from '#core/lib/rights.ts'
import { type Invited, inviteMembers } from '#core/people/members-contract.ts'
import { listGroups, invitePeople } from '#core/people/people-contract.ts'
import { peopleIn, type PeopleList } from '#core/people/people-list.ts'
import type { Project } from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field } from '#ui/kit/Field.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { ToldOnce } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './People.module.css'

/** Brings people into a project, or, without one, into the installation with what is chosen for all of them. */
export function Invite({ into, onClose }: { into: Project | null; onClose: () => void }) {
  const [text, setText, keeping] = useKept('invite', '')
  const [made, setMade] = useState<readonly Invited[] | null>(null)
  const list = peopleIn(text)
  const end = (rows: readonly Invited[]) => {
    keeping.done()
    setMade(rows)
  }
  return (
    <Dialog title={made ? 'They are in' : 'Bring people in'} onClose={onClose} kept={keeping} wide>
      {made ? (
        <Made of={made} onClose={onClose} />
      ) : (
        <>
          <Lines text={text} onText={setText} list={list} />
          {into ? <IntoProject into={into} list={list} onEnd={end} /> : <IntoInstallation list={list} onEnd={end} />}
        </>
      )}
    </Dialog>
  )
}

function Lines({ text, onText, list }: { text: string; onText: (text: string) => void; list: PeopleList }) {
  return (
    <>
      <Field
        label="A person a line, as pasted from a mail, a list or a CSV: name and e-mail, and a role if you like"
        hint={
          list.people.length === 0
            ? 'Mira Kell <mira@tarnsey.example>   or   Mira Kell; mira@tarnsey.example; tester'
            : `${counted(list.people.length, 'person', 'people')}: ${list.people
                .slice(0, 6)
                .map(({ name, role }) => (role ? `${name} (${role})` : name))
                .join(', ')}${list.people.length > 6 ? ' …' : ''}`
        }
      >
        {(id) => (
          <textarea
            id={id}
            className={css['lines']}
            data-first
            value={text}
            onChange={(event) => onText(event.target.value)}
          />
        )}
      </Field>
      {list.problems.length > 0 && (
        <ul className={css['problems']} role="alert">
          {list.problems.slice(0, 5).map(({ line, text: told, why }) => (
            <li key={line}>
              Line {line}, “{told.slice(0, 60)}”: {why}; it is left out.
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

const roleOptions = roles.map((role) => ({ value: role, label: role }))

interface Bringing {
  readonly list: PeopleList
  readonly onEnd: (rows: readonly Invited[]) => void
}

function IntoProject({ into, list, onEnd }: Bringing & { into: Project }) {
  const [role, setRole] = useState<Role>('tester')
  const { attempt, busy } = useWrite(inviteMembers)
  const invite = async () => {
    const people = list.people.map((each) => ({ name: each.name, email: each.email, role: each.role ?? role }))
    const done = await attempt({ params: { key: into.key }, body: { people } })
    if (done) onEnd(done.rows)
  }
  return (
    <PickForm onDo={() => void invite()}>
      <p>
        Whoever has no role in their line is{' '}
        <Choice label="Role of those without one" value={role} options={roleOptions} onChoose={setRole} /> in{' '}
        {into.name}.
      </p>
      <Foot busy={busy} n={list.people.length} />
    </PickForm>
  )
}

function IntoInstallation({ list, onEnd }: Bringing) {
  const { me } = useHere()
  const { data: groups } = useAnswer(listGroups, {})
  const [role, setRole] = useState<Role>('tester')
  const [projects, setProjects] = useState<readonly string[]>([])
  const [chosen, setChosen] = useState<readonly number[]>([])
  const { attempt, busy } = useWrite(invitePeople)
  const invite = async () => {
    // A role in a line is that of the person; the rest get the one chosen for all.
    const rows: Invited[] = []
    for (const as of [...new Set(list.people.map((each) => each.role ?? role))]) {
      const people = list.people
        .filter((each) => (each.role ?? role) === as)
        .map(({ name, email }) => ({ name, email }))
      const done = await attempt({
        body: { people, projects: projects.map((key) => ({ key, role: as })), groups: [...chosen] },
      })
      if (!done) return
      rows.push(...done.rows)
    }
    onEnd(rows)
  }
  return (
    <PickForm onDo={() => void invite()}>
      <p>
        They are <Choice label="Role in the projects" value={role} options={roleOptions} onChoose={setRole} /> in
      </p>
      <Ticks
        all={me.projects.map(({ key, name }) => ({ value: key, label: name }))}
        chosen={projects}
        onChoose={setProjects}
      />
      {groups && groups.rows.length > 0 && (
        <>
          <p>and of the groups</p>
          <Ticks
            all={groups.rows.map(({ id, name }) => ({ value: id, label: name }))}
            chosen={chosen}
            onChoose={setChosen}
          />
        </>
      )}
      <Foot busy={busy} n={list.people.length} />
    </PickForm>
  )
}

/** Some of a few, ticked. */
function Ticks<T extends string | number>({
  all,
  chosen,
  onChoose,
}: {
  all: readonly { readonly value: T; readonly label: string }[]
  chosen: readonly T[]
  onChoose: (chosen: T[]) => void
}) {
  const toggle = (value: T, on: boolean) => onChoose(on ? [...chosen, value] : chosen.filter((each) => each !== value))
  return (
    <p className={css['inline']}>
      {all.map(({ value, label }) => (
        <label key={value}>
          <input
            type="checkbox"
            checked={chosen.includes(value)}
            onChange={(event) => toggle(value, event.target.checked)}
          />{' '}
          {label}
        </label>
      ))}
    </p>
  )
}

const Foot = ({ busy, n }: { busy: boolean; n: number }) => (
  <PickFoot>
    <Button look="main" type="submit" disabled={busy || n === 0}>
      {n === 0 ? 'Bring in' : `Bring ${counted(n, 'person', 'people')} in`}
    </Button>
  </PickFoot>
)

/** A link as it is handed over: with the address of this installation before it. */
export const wholeLink = (link: string): string => (link.startsWith('/') ? `${location.origin}${link}` : link)

function Made({ of, onClose }: { of: readonly Invited[]; onClose: () => void }) {
  const links = of.filter(({ link }) => link !== null)
  const mailed = of.filter((each) => each.mailed)
  const known = of.filter(({ was }) => was === 'known')
  return (
    <>
      {mailed.length > 0 && (
        <p>
          {mailed.map(({ name }) => name).join(', ')} {mailed.length === 1 ? 'was' : 'were'} sent a link by mail; it
          works once, for seven days.
        </p>
      )}
      {known.length > 0 && (
        <p>
          {known.map(({ name }) => name).join(', ')} {known.length === 1 ? 'was' : 'were'} known here already.
        </p>
      )}
      {links.length > 0 && (
        <>
          <p>
            No mail was sent to these. Hand each their own link over; it works once, for seven days, and is not shown
            again.
          </p>
          <ul className={css['links']}>
            {links.map(({ person, name, link }) => (
              <li key={person}>
                <b>{name}</b>
                <ToldOnce label={`Link for ${name}`}>{wholeLink(link ?? '')}</ToldOnce>
              </li>
            ))}
          </ul>
        </>
      )}
      <PickFoot>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </PickFoot>
    </>
  )
}
