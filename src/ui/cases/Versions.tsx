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

/** Every version with who and why; any two side by side, at an address that can be sent; any one restored. */
export function Versions({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const [all, setAll] = useState(false)
  const restoring = useWrite(restoreVersion)
  const compared = /^(working|\d+)\.\.(working|\d+)$/.exec(params.get('compare') ?? '')
  if (of.versions.length === 0) return null
  const compare = (from: string, to: string) => go({ params: { compare: `${from}..${to}` } }, true)
  const newest = of.versions[0]
  const shown = all ? of.versions : of.versions.slice(0, 6)
  const restore = async (version: CaseSheet['versions'][number]) => {
    const done = await restoring.attempt({ params: { key, ref: of.key }, body: { version: version.id } })
    if (done)
      notify(
        `The working copy says again what ${version.name} says.${done.kept ? ` What it said before is kept as ${done.kept}.` : ''}`,
      )
  }
  return (
    <section className={sheet['part']} id="versions">
      <div className={sheet['partHead']}>
        <h3>Versions</h3>
        {newest &&
          (of.unsaved ? (
            <Button look="word" onClick={() => compare(String(newest.id), 'working')}>
              what is new since {newest.name}
            </Button>
          ) : (
            of.versions[1] && (
              <Button look="word" onClick={() => compare(String(of.versions[1]?.id), String(newest.id))}>
                compare the last two
              </Button>
            )
          ))}
      </div>
      {compared && <Comparison of={of} from={compared[1] ?? ''} to={compared[2] ?? ''} onChoose={compare} />}
      <ul className={css['list']}>
        {shown.map((version, index) => (
          <li key={version.id}>
            <span className="key">{version.name}</span>
            <span>
              {version.state}
              {version.why && <span className="quiet">, {version.why}</span>}
            </span>
            <span className="quiet">
              {shortName(version.by)} {ago(version.at)}
            </span>
            <span className={css['acts']}>
              {of.versions[index + 1] && (
                <Button look="word" onClick={() => compare(String(of.versions[index + 1]?.id), String(version.id))}>
                  compare<span className="hidden"> {version.name} with the one before</span>
                </Button>
              )}
              {project.role !== 'viewer' && (
                <Button look="word" onClick={() => void restore(version)}>
                  restore<span className="hidden"> {version.name}</span>
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {of.versions.length > 6 && (
        <p>
          <Button look="word" onClick={() => setAll(!all)}>
            {all ? 'the newest six' : `all ${of.versions.length}`}
          </Button>
        </p>
      )}
    </section>
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
  const differs = (all: readonly { kind: string }[]) => all.some(({ kind }) => kind !== 'same')
  const data = of.steps.some((step) => step.data.length > 0)
  const rows = JSON.stringify(of.rows.before) !== JSON.stringify(of.rows.after)
  const setting = settingLines(of.setting)
  return (
    <>
      {(differs(of.preconditions) || of.preconditions.length > 0) && (
        <p>
          <span className="quiet">before</span> <Words of={of.preconditions} />
        </p>
      )}
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
          {of.steps.map((step, index) => {
            const what =
              step.before === null
                ? 'added'
                : step.after === null
                  ? 'removed'
                  : [...(step.changed ? ['changed'] : []), ...(step.moved ? [`was ${step.before + 1}`] : [])].join(', ')
            return (
              <tr key={index} data-what={what || undefined}>
                <th scope="row">
                  <b>{(step.after ?? step.before ?? 0) + 1}</b> <span>{what}</span>
                </th>
                <td>
                  <Words of={step.action} />
                </td>
                <td>
                  <Words of={step.expected} />
                </td>
                {data && (
                  <td>
                    <Words of={step.data} />
                  </td>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
      {setting.map((line) => (
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
