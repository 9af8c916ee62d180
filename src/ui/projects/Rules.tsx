import { type Project, updateProject } from '#core/projects/contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { dealingWays, dealingWords } from '#core/projects/dealing-ways.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Setting } from '#ui/kit/Settings.tsx'
import { YesNo } from '#ui/kit/YesNo.tsx'
import { History } from '#ui/shell/History.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'

type Edit = BodyOf<typeof updateProject>

/** Stores an edit of the project and offers the way back. */
function useRules(project: Project) {
  const store = useUndoable(updateProject, { key: project.key })
  return async (edit: Edit, told: string): Promise<void> => {
    const before: Edit = Object.fromEntries(Object.keys(edit).map((name) => [name, project[name as keyof Edit]]))
    await store(edit, told, before)
  }
}

/** How the project works; a lead changes it, everybody reads it. */
export function Rules({ of: project }: { of: Project }) {
  const store = useRules(project)
  const lead = project.role === 'lead'
  const flag = (
    name: 'approvalRequired' | 'reasonAsked' | 'secondFactorAsked',
    label: string,
    yes: string,
    no: string,
  ) => (
    <YesNo
      label={label}
      disabled={!lead}
      is={project[name]}
      no={no}
      yes={yes}
      onChoose={(is) => void store({ [name]: is }, `${label}: ${is ? yes : no}.`)}
    />
  )
  return (
    <>
      {!lead && <p className="quiet">A lead can change what stands here.</p>}
      <Name of={project} lead={lead} onStore={store} />
      <Setting
        name="Age of a result"
        explains="After so many days a result is too old to be believed: it is drawn hatched, and leaves what is confidently passing."
      >
        <Days of={project} lead={lead} onStore={store} />
      </Setting>
      <Setting
        name="Approval"
        explains="Where it is asked for, only approved versions of cases are executed, and nobody approves what they wrote."
      >
        {flag('approvalRequired', 'Approval', 'approved versions only', 'the newest version')}
      </Setting>
      <NewRuns of={project} lead={lead} onStore={store} />
      <Setting name="Reason of a version" explains="Whether somebody who cuts a version of a case says why.">
        {flag('reasonAsked', 'Reason of a version', 'is asked for', 'is not asked for')}
      </Setting>
      <Setting
        name="Second factor"
        explains="Where it is asked for, whoever signs in without one comes as far as their own page, where they can set one up. Tokens go on working."
      >
        {flag('secondFactorAsked', 'Second factor', 'is asked for', 'is not asked for')}
      </Setting>
      <Setting
        name="Time zone"
        explains="Days begin and end by it: Today, due dates, the calendar. It is set when a project is started."
      >
        <span>{project.timeZone}</span>
      </Setting>
      <History about={project.key} />
    </>
  )
}

interface RuleProps {
  readonly of: Project
  readonly lead: boolean
  readonly onStore: (edit: Edit, told: string) => Promise<void>
}

const NewRuns = ({ of, lead, onStore }: RuleProps) => (
  <Setting
    name="Items of a new run"
    explains="Whoever opens a run can say otherwise. Those who know something have done it before, have found defects there, or have a skill that its component or a tag names."
  >
    <Choice
      label="Items of a new run"
      value={of.dealing}
      disabled={!lead}
      options={dealingWays.map((way) => ({ value: way, label: dealingWords[way] }))}
      onChoose={(dealing) => void onStore({ dealing }, `Items of a new run: ${dealingWords[dealing]}.`)}
    />
  </Setting>
)

const Name = ({ of, lead, onStore }: RuleProps) => (
  <Setting name="Name" explains={`People know the project by it; its key ${of.key} never changes.`}>
    <EditText
      label="Name of the project"
      value={of.name}
      disabled={!lead}
      onStore={(name) => {
        if (name !== '') void onStore({ name }, `The project is called ${name}.`)
      }}
    />
  </Setting>
)

function Days({ of, lead, onStore }: RuleProps) {
  const store = (text: string) => {
    const days = Number(text)
    if (!Number.isFinite(days) || days < 1 || days > 1000)
      notify(`“${text}” is no number of days from 1 to 1000; the old one stays.`, { tone: 'problem' })
    else void onStore({ freshnessDays: days }, `A result is too old after ${days} days; every figure follows.`)
  }
  return (
    <span>
      too old after{' '}
      <EditText
        label="Days after which a result is too old"
        value={String(of.freshnessDays)}
        disabled={!lead}
        onStore={store}
      />{' '}
      days
    </span>
  )
}
