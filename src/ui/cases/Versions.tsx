import { useState } from 'react'
import { type CaseComparison, type CaseSheet, compareCase, restoreVersion } from '#core/cases/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { go, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'
import css from './Versions.module.css'

/** So many are shown until all are asked for. */
const fewest = 6
type Version = CaseSheet['versions'][number]
type Compare = (from: string, to: string) => void

/** Every version with who and why; any two side by side, at an address that can be sent; any one restored. */
export function Versions({ of }: { of: CaseSheet }) {
  const { params } = useAddress()
  const [all, setAll] = useState(false)
  const compared = /^(working|\d+)\.\.(working|\d+)$/.exec(params.get('compare') ?? '')
  if (of.versions.length === 0) return null
  const compare: Compare = (from, to) => go({ params: { compare: `${from}..${to}` } }, true)
  return (
    <section className={sheet['part']} id="versions">
      <div className={sheet['partHead']}>
        <h3>Versions</h3>
        <Newest of={of} onCompare={compare} />
      </div>
      {compared && <Comparison of={of} from={compared[1] ?? ''} to={compared[2] ?? ''} onChoose={compare} />}
      <ul className={css['list']}>
        {(all ? of.versions : of.versions.slice(0, fewest)).map((version, index) => (
          <VersionRow key={version.id} of={of} version={version} before={of.versions[index + 1]} onCompare={compare} />
        ))}
      </ul>
      {of.versions.length > fewest && (
        <p>
          <Button look="word" onClick={() => setAll(!all)}>
            {all ? 'the newest six' : `all ${of.versions.length}`}
          </Button>
        </p>
      )}
    </section>
  )
}

/** The comparison that is asked for most: what nobody has cut a version of yet, else what the newest one changed. */
function Newest({ of: { versions, unsaved }, onCompare }: { of: CaseSheet; onCompare: Compare }) {
  const [newest, before] = versions
  if (newest && unsaved)
    return (
      <Button look="word" onClick={() => onCompare(String(newest.id), 'working')}>
        what is new since {newest.name}
      </Button>
    )
  if (!newest || !before) return null
  return (
    <Button look="word" onClick={() => onCompare(String(before.id), String(newest.id))}>
      compare the last two
    </Button>
  )
}

function VersionRow({
  of,
  version,
  before,
  onCompare,
}: {
  of: CaseSheet
  version: Version
  before: Version | undefined
  onCompare: Compare
}) {
  const { key, project } = useHere()
  const restoring = useWrite(restoreVersion)
  const restore = async () => {
    const done = await restoring.attempt({ params: { key, ref: of.key }, body: { version: version.id } })
    if (!done) return
    const kept = done.kept ? ` What it said before is kept as ${done.kept}.` : ''
    notify(`The working copy says again what ${version.name} says.${kept}`)
  }
  return (
    <li>
      <span className="key">{version.name}</span>
      <span>
        {version.state}
        {version.why && <span className="quiet">, {version.why}</span>}
      </span>
      <span className="quiet">
        {shortName(version.by)} {ago(version.at)}
      </span>
      <span className={css['acts']}>
        {before && (
          <Button look="word" onClick={() => onCompare(String(before.id), String(version.id))}>
            compare<span className="hidden"> {version.name} with the one before</span>
          </Button>
        )}
        {project.role !== 'viewer' && (
          <Button look="word" onClick={() => void restore()}>
            restore<span className="hidden"> {version.name}</span>
          </Button>
        )}
      </span>
    </li>
  )
}

function Comparison({
  of,
  from,
  to,
  onChoose,
}: {
  of: CaseSheet
  from: string
  to: string
  onChoose: (from: string, to: string) => void
}) {
  const { key } = useHere()
  const which = (text: string) => (text === 'working' ? ('working' as const) : Number(text))
  const { data, error } = useAnswer(
    compareCase,
    { params: { key, ref: of.key }, query: { from: which(from), to: which(to) } },
    { keep: true },
  )
  const options = [
    { value: 'working', label: 'working copy' },
    ...of.versions.map(({ id, name }) => ({ value: String(id), label: name })),
  ]
  return (
    <div className={css['comparison']} role="region" aria-label="Comparison of two versions">
      <p>
        From <Choice label="Older version" value={from} options={options} onChoose={(value) => onChoose(value, to)} />{' '}
        to <Choice label="Newer version" value={to} options={options} onChoose={(value) => onChoose(from, value)} />
        {data && <>: {summary(data)}</>}{' '}
        <Button look="word" onClick={() => go({ params: { compare: null } }, true)}>
          close
        </Button>
      </p>
      {error && !data && <p role="alert">{error.message}</p>}
      {data && <Changes of={data} />}
    </div>
  )
}

function summary({ steps, same }: CaseComparison): string {
  if (same) return 'nothing differs.'
  const count = (word: string, n: number) => (n === 0 ? [] : [`${n} ${n === 1 ? 'step' : 'steps'} ${word}`])
  const parts = [
    ...count('changed', steps.filter(({ changed }) => changed).length),
    ...count('added', steps.filter(({ before }) => before === null).length),
    ...count('removed', steps.filter(({ after }) => after === null).length),
    ...count('moved', steps.filter(({ moved }) => moved).length),
  ]
  return `${parts.length === 0 ? 'the steps are the same' : parts.join(', ')}.`
}

export function Changes({ of }: { of: Omit<CaseComparison, 'from' | 'to'> }) {
  const rows = JSON.stringify(of.rows.before) !== JSON.stringify(of.rows.after)
  return (
    <>
      {of.preconditions.length > 0 && (
        <p>
          <span className="quiet">before</span> <Words of={of.preconditions} />
        </p>
      )}
      <ChangedSteps of={of.steps} />
      {settingLines(of.setting).map((line) => (
        <p key={line} className="quiet">
          {line}
        </p>
      ))}
      {rows && (
        <p className="quiet">
          Data rows: {of.rows.before.length} before, {of.rows.after.length} now.
        </p>
      )}
    </>
  )
}

type ChangedStep = CaseComparison['steps'][number]

/** What became of a step, in words; nothing when it is as it was. */
function changeText({ before, after, changed, moved }: ChangedStep): string {
  if (before === null) return 'added'
  if (after === null) return 'removed'
  return [...(changed ? ['changed'] : []), ...(moved ? [`was ${before + 1}`] : [])].join(', ')
}

function ChangedSteps({ of }: { of: readonly ChangedStep[] }) {
  const data = of.some((step) => step.data.length > 0)
  return (
    <table className={css['steps']}>
      <thead>
        <tr>
          <th>
            <span className="hidden">Place and change</span>
          </th>
          <th>Action</th>
          <th>Expected</th>
          {data && <th>Data</th>}
        </tr>
      </thead>
      <tbody>
        {of.map((step, index) => {
          const what = changeText(step)
          return (
            <tr key={index} data-what={what || undefined}>
              <th scope="row">
                <b>{(step.after ?? step.before ?? 0) + 1}</b> <span>{what}</span>
              </th>
              {[step.action, step.expected, ...(data ? [step.data] : [])].map((words, column) => (
                <td key={column}>
                  <Words of={words} />
                </td>
              ))}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** What changed in what the case needs around it, a line each. */
function settingLines({ before, after }: CaseComparison['setting']): string[] {
  const line = (what: string, from: string, to: string) =>
    from === to ? [] : [`${what}: ${from || 'nothing'} before, ${to || 'nothing'} now.`]
  return [
    ...line('Runs after', before.needs.join(', '), after.needs.join(', ')),
    ...line('Environment', before.environment, after.environment),
    ...line('Data table', before.table, after.table),
  ]
}
