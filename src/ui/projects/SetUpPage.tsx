import { type MouseEvent, type ReactNode, useState } from 'react'
import { type Project, readProject } from '#core/projects/contract.ts'
import { TextInput } from '#ui/kit/Field.tsx'
import { PartHead } from '#ui/kit/Settings.tsx'
import { Everybody } from '#ui/people/Everybody.tsx'
import { Groups } from '#ui/people/Groups.tsx'
import { ProjectPeople } from '#ui/people/ProjectPeople.tsx'
import { RolesPart } from '#ui/people/RolesPart.tsx'
import { SecurityEvents } from '#ui/people/SecurityEvents.tsx'
import { SigningIn } from '#ui/people/SigningIn.tsx'
import { TablesSetUp } from '#ui/reuse/TablesSetUp.tsx'
import { go, usePath } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { Environments } from './Environments.tsx'
import { FieldsSetUp } from './FieldsSetUp.tsx'
import { ReleasesSetUp } from './ReleasesSetUp.tsx'
import { PoliciesPart } from './PoliciesPart.tsx'
import { TimePart } from './TimePart.tsx'
import { Rules } from './Rules.tsx'
import { findParts, type SetUpName, type SetUpPart, setUpParts } from './set-up-parts.ts'
import { StandingSetUp } from './StandingSetUp.tsx'
import { Storage } from './Storage.tsx'
import { TrackerSetUp } from './TrackerSetUp.tsx'
import { VerdictsPart } from './VerdictsPart.tsx'
import css from './SetUp.module.css'

export const SetUpPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <SetUp />
  </Shell>
)

/** The set-up as a place: its parts in a list that can be searched, each with an address. */
function SetUp() {
  const { key, me, project: given } = useHere()
  const { data: project = given } = useAnswer(
    readProject,
    { params: { key } },
    { served: { asked: { params: { key } }, answer: given } },
  )
  const parts = setUpParts.filter(({ of }) => of === 'project' || me.administrator)
  const name = usePath().split('/')[4] ?? ''
  const part = parts.find((each) => each.name === name) ?? parts[0]!
  return (
    <div className={css['page']}>
      <PartList parts={parts} open={part.name} />
      <div className={css['part']}>
        <PartHead title={part.title} explains={part.explains} />
        <div className={css['content']}>{contents[part.name](project)}</div>
      </div>
    </div>
  )
}

const contents: Readonly<Record<SetUpName, (project: Project) => ReactNode>> = {
  rules: (project) => <Rules of={project} />,
  time: (project) => <TimePart of={project} />,
  people: (project) => <ProjectPeople of={project} />,
  roles: () => <RolesPart />,
  releases: (project) => <ReleasesSetUp of={project} />,
  environments: (project) => <Environments of={project} />,
  fields: ({ role }) => <FieldsSetUp lead={role === 'lead'} />,
  verdicts: (project) => <VerdictsPart of={project} />,
  policies: (project) => <PoliciesPart key={project.policyVersion} of={project} />,
  tables: () => <TablesSetUp />,
  tracker: ({ role }) => <TrackerSetUp lead={role === 'lead'} />,
  imports: ({ role }) => <StandingSetUp lead={role === 'lead'} />,
  everybody: () => <Everybody />,
  groups: () => <Groups />,
  'sign-in': () => <SigningIn />,
  storage: () => <Storage />,
  security: () => <SecurityEvents />,
}

function PartList({ parts, open }: { parts: readonly SetUpPart[]; open: string }) {
  const [text, setText] = useState('')
  const found = findParts(parts, text)
  return (
    <nav className={css['parts']} aria-label="Parts of the set-up">
      <h2>Set-up</h2>
      <TextInput
        type="search"
        aria-label="Find a setting"
        placeholder="Find a setting"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setText('')
        }}
      />
      {found.length === 0 && (
        <p className="quiet" role="status">
          No setting has these words.
        </p>
      )}
      {(['project', 'installation'] as const).map((of) => {
        const own = found.filter(({ part }) => part.of === of)
        return (
          own.length > 0 && (
            <div key={of}>
              <h3>{of === 'project' ? 'This project' : 'This installation'}</h3>
              <ul>
                {own.map(({ part, settings }) => (
                  <li key={part.name}>
                    <PartLink part={part} open={open} />
                    {text.trim() !== '' &&
                      settings.map((each) => <p key={each}>{each.split(':')[0]?.split(',')[0]}</p>)}
                  </li>
                ))}
              </ul>
            </div>
          )
        )
      })}
    </nav>
  )
}

function PartLink({ part: { name, title }, open }: { part: SetUpPart; open: string }) {
  const { key } = useHere()
  const path = `/p/${key}/set-up/${name}`
  const follow = (event: MouseEvent) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return
    event.preventDefault()
    go({ path })
  }
  return (
    <a href={path} aria-current={open === name ? 'page' : undefined} onClick={follow}>
      {title}
    </a>
  )
}
