import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import {
  readSuiteChanges,
  readSuiteRequirements,
  type SuiteChangesTold,
  type SuiteSheet,
} from '#core/plans/suite-contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { fullMomentText, now } from '#ui/kit/moment.ts'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { ago } from '#ui/shell/people.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Part } from '#ui/shell/SheetParts.tsx'
import sheet from '#ui/shell/sheet.module.css'
import css from './Plans.module.css'
import { sourceLabels } from '#core/plans/source-words.ts'

const day = 86_400_000

/** What came in, went out and was rewritten since the last run, or since a day. */
export function SuiteNews({ of }: { of: SuiteSheet }) {
  const { key } = useHere()
  const [since, setSince] = useState('')
  const query = since === '' ? {} : { since: Number(since) }
  const { data } = useAnswer(readSuiteChanges, { params: { key, ref: of.key }, query }, { keep: true })
  // The same instants as long as the sheet is open: each would be a question of its own.
  const [began] = useState(now)
  const [last] = of.runs
  const options = [
    { value: '', label: last ? `${last.key} began, ${ago(last.at)}` : 'a week ago' },
    ...[1, 7, 30, 90].map((days) => ({
      value: String(began - days * day),
      label: days === 1 ? 'yesterday' : `${days} days ago`,
    })),
    ...of.versions.map((each) => ({
      value: String(each.at),
      label: `version ${each.version} of ${each.key}, ${ago(each.at)}`,
    })),
    ...of.runs.slice(1, 6).map((run) => ({ value: String(run.at), label: `${run.key} began, ${ago(run.at)}` })),
  ]
  return (
    <Part title="Changed since" act={<Choice label="Since" value={since} options={options} onChoose={setSince} />}>
      {data && <Told of={data} label={sourceLabels(of.sources)} />}
    </Part>
  )
}

function Told({ of, label }: { of: SuiteChangesTold; label: (id: number) => string }) {
  const nothing = of.came.length + of.went.length + of.rewritten.length === 0
  if (nothing) return <p className="quiet">Nothing since {fullMomentText(of.since)}.</p>
  return (
    <>
      <Rows title="came in" rows={of.came} label={label} />
      <Rows title="went out" rows={of.went} label={label} />
      <Rows title="rewritten" rows={of.rewritten} label={label} />
    </>
  )
}

const most = 50

function Rows({
  title,
  rows,
  label,
}: {
  title: string
  rows: SuiteChangesTold['came']
  label: (id: number) => string
}) {
  const { key } = useHere()
  if (rows.length === 0) return null
  return (
    <Unfold summary={`${counted(rows.length, 'case')} ${title}`} className={css['news']}>
      <ul className={css['members']}>
        {rows.slice(0, most).map(({ id, key: ref, title: name, at, by, sources }) => (
          <li key={id}>
            <span />
            <span className="key">{ref}</span>
            <a href={`/p/${key}/${ref}`}>{name}</a>
            <span className={sheet['note']}>{title === 'rewritten' ? '' : sources.map(label).join(', ')}</span>
            <span className={sheet['note']}>
              {by ?? ''} {ago(at)}
            </span>
          </li>
        ))}
      </ul>
      {rows.length > most && <p className="quiet">and {rows.length - most} more</p>}
    </Unfold>
  )
}

/** Requirements its cases prove, and those of its plans that no suite of these proves. */
export function SuiteRequirements({ of }: { of: SuiteSheet }) {
  const { key } = useHere()
  const { data } = useAnswer(readSuiteRequirements, { params: { key, ref: of.key } }, { keep: true })
  if (!data) return null
  const { proved, missing } = data
  return (
    <Part title="Requirements">
      {proved.length === 0 && <p className="quiet">Its cases prove none.</p>}
      {proved.length > 0 && (
        <Unfold summary={`${counted(proved.length, 'requirement')} proved by it`} className={css['news']}>
          <ul className={css['members']}>
            {proved.map(({ id, key: ref, title, cases }) => (
              <li key={id}>
                <span />
                <span className="key">{ref}</span>
                <a href={`/p/${key}/${ref}`}>{title}</a>
                <span />
                <span className={sheet['note']}>{counted(cases, 'case')}</span>
              </li>
            ))}
          </ul>
        </Unfold>
      )}
      {missing.length > 0 && (
        <Unfold
          summary={`${counted(missing.length, 'requirement')} of its plans that no suite of them proves`}
          className={css['news']}
        >
          <ul className={css['members']}>
            {missing.map(({ id, key: ref, title, risk }) => (
              <li key={id}>
                <span />
                <span className="key">{ref}</span>
                <a href={`/p/${key}/${ref}`}>{title}</a>
                <span />
                <span className={sheet['note']}>risk {risk ?? 'not given'}</span>
              </li>
            ))}
          </ul>
        </Unfold>
      )}
    </Part>
  )
}
