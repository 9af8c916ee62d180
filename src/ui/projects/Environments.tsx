import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { BodyOf, OutputOf } from '#core/lib/contract.ts'
import { createEnvironment, type Project } from '#core/projects/contract.ts'
import {
  changeOutage,
  doubtOutage,
  type EnvironmentRow,
  listEnvironments,
  removeEnvironment,
  removeOutage,
  setFactors,
  updateEnvironment,
} from '#core/projects/environments-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { momentText, now } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { RowActs, Setting, Table } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { ago } from '#ui/shell/people.ts'
import { AddLine, tell } from './AddLine.tsx'
import { InstalledDialog } from './InstalledDialog.tsx'
import { InstalledList } from './InstalledList.tsx'
import { OutageDialog } from './OutageDialog.tsx'
import css from './SetUp.module.css'
import { TextSet } from './TextSet.tsx'

type Listed = OutputOf<typeof listEnvironments>

/** `Gecko, phone`: a new environment stands for values of the factors in their order. */
const valuesIn = (name: string, factors: readonly string[]): Record<string, string> =>
  Object.fromEntries(
    name
      .split(',')
      .map((part) => part.trim())
      .flatMap((value, at) =>
        value === '' ? [] : [[factors[at] ?? ['engine', 'device'][at] ?? `factor ${at + 1}`, value]],
      ),
  )

/** Where it is tested: what each environment stands for, who owns it, and when it was not to be used. */
export function Environments({ of: project }: { of: Project }) {
  const { attempt } = useWrite(createEnvironment)
  const { data } = useAnswer(listEnvironments, { params: { key: project.key } }, { keep: true })
  const [out, setOut] = useState<EnvironmentRow | null>(null)
  const [saying, setSaying] = useState<EnvironmentRow | null>(null)
  if (!data) return null
  const lead = project.role === 'lead'
  const factors = Object.keys(data.values)
  const add = async (name: string) =>
    tell(
      await attempt({ params: { key: project.key }, body: { name, values: valuesIn(name, factors) } }),
      `${name} is added.`,
    )
  return (
    <>
      {lead && <AddLine label="A new environment, such as “Gecko, phone”" action="Add" onAdd={add} />}
      {data.rows.length === 0 && (
        <p className="quiet">None yet: every result counts for any environment. Add those that matter.</p>
      )}
      {data.rows.length > 0 && (
        <Table
          label="Environments"
          head={['Environment', ...factors, 'Seats', 'Owner', 'Address', 'Installed', 'Now', '']}
        >
          {data.rows.map((row) => (
            <Row
              key={row.id}
              of={row}
              factors={factors}
              project={project}
              onOut={() => setOut(row)}
              onSay={() => setSaying(row)}
            />
          ))}
        </Table>
      )}
      <Factors of={data} lead={lead} />
      <InstalledList may={project.role !== 'viewer'} />
      <Outages of={data} may={project.role !== 'viewer'} lead={lead} />
      {saying && <InstalledDialog environment={saying} entry={null} onClose={() => setSaying(null)} />}
      {out && <OutageDialog of={out} onClose={() => setOut(null)} />}
    </>
  )
}

interface RowProps {
  readonly of: EnvironmentRow
  readonly factors: readonly string[]
  readonly project: Project
  readonly onOut: () => void
  readonly onSay: () => void
}

function Row({ of, factors, project, onOut, onSay }: RowProps) {
  const store = useUndoable(updateEnvironment, { key: project.key, id: of.id })
  const lead = project.role === 'lead'
  const set = (body: BodyOf<typeof updateEnvironment>, back: BodyOf<typeof updateEnvironment>) =>
    void store(body, `${body.name ?? of.name} is changed.`, back)
  const setValue = (factor: string, value: string) => {
    const { [factor]: _, ...rest } = of.values
    set({ values: value === '' ? rest : { ...rest, [factor]: value } }, { values: of.values })
  }
  const text = (label: string, value: string, onStore: (value: string) => void, placeholder = '–') =>
    lead ? (
      <EditText label={`${label} of ${of.name}`} value={value} placeholder={placeholder} onStore={onStore} />
    ) : (
      value
    )
  const going = of.outages.find((outage) => isGoing(outage))
  return (
    <tr>
      <td>
        {text('Name', of.name, (name) => set({ name }, { name: of.name }))}
        {of.notes !== '' && <small className={css['note']}>{of.notes}</small>}
        {of.notAllowed !== null && <small className={css['wrong']}>not allowed: {of.notAllowed}</small>}
      </td>
      {factors.map((factor) => (
        <td key={factor} className={css['value']}>
          {text(factor, of.values[factor] ?? '', (value) => setValue(factor, value))}
        </td>
      ))}
      <td>
        {text('Seats', of.seats === null ? '' : String(of.seats), (seats) => setSeats(seats, set, of), 'no limit')}
      </td>
      <td>
        <Owner of={of} project={project} onSet={set} />
      </td>
      <td className={css['address']}>
        {text('Address', of.address, (address) => set({ address }, { address: of.address }), 'none')}
      </td>
      <td>
        <Stands of={of} />
      </td>
      <td>{going ? <b className={css['wrong']}>{going.reason}</b> : <span className="quiet">in use</span>}</td>
      <td>
        <RowActs>
          {project.role !== 'viewer' && (
            <Button look="word" onClick={onSay}>
              installed…<span className="hidden">, what stands on {of.name}</span>
            </Button>
          )}
          {project.role !== 'viewer' && !going && (
            <Button look="word" onClick={onOut}>
              out of use…<span className="hidden"> {of.name}</span>
            </Button>
          )}
          {lead && <TakeAway of={of} />}
        </RowActs>
      </td>
    </tr>
  )
}

/** What stands there now, and since when. */
const Stands = ({ of: { installed } }: { of: EnvironmentRow }) =>
  installed === null ? (
    <span className="quiet">not known</span>
  ) : (
    <span className={css['installed']} title={installed.by === null ? 'said by a pipeline' : `said by ${installed.by}`}>
      <span className="key">{installed.build}</span>
      <small className={css['note']}>{ago(installed.since)}</small>
    </span>
  )

type Set = (body: BodyOf<typeof updateEnvironment>, back: BodyOf<typeof updateEnvironment>) => void

function Owner({ of, project, onSet: set }: { of: EnvironmentRow; project: Project; onSet: Set }) {
  if (project.role !== 'lead') return of.owner?.name ?? ''
  return (
    <Choice
      label={`Owner of ${of.name}`}
      value={of.owner?.id ?? ''}
      options={[
        { value: '', label: 'nobody' },
        ...project.people.filter(({ ended }) => !ended).map(({ id, name }) => ({ value: id, label: name })),
      ]}
      onChoose={(id) => set({ owner: id === '' ? null : id }, { owner: of.owner?.id ?? null })}
    />
  )
}

const isGoing = ({ fromAt, untilAt }: EnvironmentRow['outages'][number]): boolean =>
  fromAt <= now() && (untilAt === null || untilAt > now())

function setSeats(text: string, set: Set, of: EnvironmentRow): void {
  const seats = text === '' ? null : Number(text)
  if (seats !== null && (!Number.isInteger(seats) || seats < 1))
    return notify('Seats are a whole number from 1, or nothing for no limit; nothing was stored.', { tone: 'problem' })
  set({ seats }, { seats: of.seats })
}

function TakeAway({ of }: { of: EnvironmentRow }) {
  const { key } = useHere()
  const { attempt } = useWrite(removeEnvironment)
  const params = { key, id: of.id }
  const remove = async () => {
    if ((await attempt({ params, query: {} })) === null) return
    const asked = of.plans > 0 ? `; ${counted(of.plans, 'plan')} asked for it` : ''
    notify(`${of.name} is taken away${asked}. Its results stay.`, {
      undo: () => void attempt({ params, query: { undo: 'yes' } }),
    })
  }
  return (
    <Button look="word" onClick={() => void remove()}>
      take away<span className="hidden"> {of.name}</span>
    </Button>
  )
}

function Factors({ of, lead }: { of: Listed; lead: boolean }) {
  const { key } = useHere()
  const store = useUndoable(setFactors, { key })
  const set = (body: BodyOf<typeof setFactors>, back: BodyOf<typeof setFactors>) =>
    store(body, 'The factors are stored.', back)
  return (
    <>
      <Setting
        name="Factors and values"
        explains="A factor a line, with its values. What environments stand for beside counts as well."
      >
        <TextSet
          label="Factors and values"
          placeholder={'engine: Chromium, Gecko, WebKit\ndevice: desk, phone, tablet'}
          value={of.factors}
          may={lead}
          onStore={(factors) => set({ factors }, { factors: of.factors })}
        />
      </Setting>
      <Setting
        name="Not allowed"
        explains="Combinations that nobody uses or that cannot be had, in words as at the drafting table. An environment that stands for one is asked for by no plan."
      >
        <TextSet
          label="Combinations that are not allowed"
          placeholder={'never engine Gecko with device tablet\nwhen engine is WebKit, database is Otter'}
          value={of.factorRules}
          may={lead}
          onStore={(factorRules) => set({ factorRules }, { factorRules: of.factorRules })}
        />
      </Setting>
    </>
  )
}

/** Every outage, the newest first. */
function Outages({ of, may, lead }: { of: Listed; may: boolean; lead: boolean }) {
  const all = of.rows
    .flatMap((row) => row.outages.map((outage) => ({ ...outage, environment: row })))
    .sort((a, b) => b.fromAt - a.fromAt)
  if (all.length === 0) return null
  return (
    <section className={css['one']}>
      <h2>Outages</h2>
      <Table label="Outages" head={['Environment', 'From', 'Until', 'Why', 'Attempts meanwhile', '']}>
        {all.map((each) => (
          <tr key={each.id}>
            <td>{each.environment.name}</td>
            <td>{momentText(each.fromAt)}</td>
            <td>{each.untilAt === null ? 'goes on' : momentText(each.untilAt)}</td>
            <td>
              {each.reason} {each.by && <span className="quiet">({each.by})</span>}
            </td>
            <td>
              {each.attempts}
              {each.doubted > 0 && `, ${each.doubted === each.attempts ? 'all' : each.doubted} doubted`}
            </td>
            <td>{may && <OutageActs of={each} lead={lead} />}</td>
          </tr>
        ))}
      </Table>
    </section>
  )
}

/** Doubts all that was executed meanwhile, or believes it again. */
function Doubt({ of }: { of: OutageOf }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(doubtOutage)
  const doubts = of.doubted < of.attempts
  const params = { key, id: of.id }
  const act = async () => {
    const done = await attempt({ params, body: { doubt: doubts } })
    if (!done) return
    const what = counted(done.attempts, 'attempt')
    notify(done.stopped ?? (doubts ? `${what} doubted: kept, and no longer current.` : `${what} believed again.`), {
      undo: () => void attempt({ params, body: { doubt: !doubts } }),
    })
  }
  return (
    <Button look="word" disabled={busy} onClick={() => void act()}>
      {doubts ? 'doubt them' : 'believe them'}
      <span className="hidden">: attempts made on {of.environment.name} in this outage</span>
    </Button>
  )
}

type OutageOf = EnvironmentRow['outages'][number] & { readonly environment: EnvironmentRow }

function OutageActs({ of, lead }: { of: OutageOf; lead: boolean }) {
  const { key } = useHere()
  const change = useUndoable(changeOutage, { key, id: of.id })
  const { attempt } = useWrite(removeOutage)
  const params = { key, id: of.id }
  const remove = async () => {
    if ((await attempt({ params, query: {} })) === null) return
    notify('The outage is taken back: nothing is marked by it any more.', {
      undo: () => void attempt({ params, query: { undo: 'yes' } }),
    })
  }
  return (
    <RowActs>
      {lead && of.attempts > 0 && <Doubt of={of} />}
      {of.untilAt === null && (
        <Button
          look="word"
          onClick={() =>
            void change(
              { untilAt: Date.now() },
              `${of.environment.name} can be used again; what was held there is free.`,
              {
                untilAt: null,
              },
            )
          }
        >
          it is over<span className="hidden">: {of.environment.name}</span>
        </Button>
      )}
      <Button look="word" onClick={() => void remove()}>
        take back<span className="hidden"> the outage of {of.environment.name}</span>
      </Button>
    </RowActs>
  )
}
