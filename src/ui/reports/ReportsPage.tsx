import type { Served } from '#core/lib/question.ts'
import { lazy } from 'react'
import { type CoverageAnswer, coverageCsv, readCoverage } from '#core/reports/contract.ts'
import { percent, percentText, shareText } from '#core/lib/figures.ts'
import { readDesigned } from '#core/techniques/contract.ts'
import { addressOf } from '#ui/call.ts'
import { Drawn } from '#ui/kit/Drawn.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { CoverageTable } from './CoverageTable.tsx'
import { Gaps } from './Gaps.tsx'
import css from './Reports.module.css'
import { Readiness } from './Readiness.tsx'
import { Stale } from './Stale.tsx'
import { Board } from './Board.tsx'

const RiskField = lazy(async () => ({ default: (await import('./RiskField.tsx')).RiskField }))

export const reportNames = ['coverage', 'readiness', 'risk', 'board', 'gaps', 'stale'] as const
export type ReportName = (typeof reportNames)[number]
const titles: Readonly<Record<ReportName, string>> = {
  coverage: 'Coverage',
  readiness: 'Readiness',
  risk: 'Risk field',
  board: 'Thread board',
  gaps: 'Gaps',
  stale: 'Stale results',
}

export const ReportsPage = ({
  report,
  initial,
  ...shell
}: ShellProps & { report: ReportName; initial: Served<CoverageAnswer> }) => (
  <Shell {...shell}>
    <Reports report={report} initial={initial} />
  </Shell>
)

function Reports({ report, initial }: { report: ReportName; initial: Served<CoverageAnswer> }) {
  const { key } = useHere()
  const { params } = useAddress()
  const scope = scopeIn(params)
  const { data: coverage } = useAnswer(
    readCoverage,
    { params: { key }, query: { ...scope, ids: 'all' } },
    { served: initial, keep: true },
  )
  const to = (name: ReportName) => `/p/${key}/reports${name === 'coverage' ? '' : `/${name}`}${scopeSearch(params)}`
  useKeys(
    reportNames.map((name, index) => ({
      id: `report-${name}`,
      keys: String(index + 1),
      label: titles[name].toLowerCase(),
      run: () => location.assign(to(name)),
    })),
  )
  return (
    <div className={css['reports']}>
      <header className={css['head']}>
        <h1>{titles[report]}</h1>
        <nav aria-label="Reports">
          {reportNames
            .filter((name) => name !== report)
            .map((name) => (
              <a key={name} href={to(name)}>
                {titles[name].toLowerCase()}
              </a>
            ))}
        </nav>
        <a className={css['csv']} href={addressOf(coverageCsv, { params: { key }, query: scope })} download>
          Coverage as CSV
        </a>
      </header>
      {report === 'coverage' && coverage && (
        <>
          <Totals of={coverage} />
          <DesignedByTechnique />
          <CoverageTable of={coverage} />
        </>
      )}
      {report === 'risk' && coverage && (
        <Drawn meanwhile={<p className={css['wait']}>Drawing the field…</p>}>
          <RiskField of={coverage} />
        </Drawn>
      )}
      {report === 'readiness' && <Readiness />}
      {report === 'board' && <Board />}
      {report === 'gaps' && <Gaps />}
      {report === 'stale' && <Stale />}
    </div>
  )
}

/** What the models of requirements ask for, and how much of it accepted cases answer. */
function DesignedByTechnique() {
  const { key } = useHere()
  const { data } = useAnswer(readDesigned, { params: { key }, query: {} }, { keep: true })
  if (!data || data.rows.every(({ parts }) => parts.length === 0)) return null
  return (
    <p className={css['designed']}>
      <b>{percentText(percent(data.answered, data.targets))}</b> designed by technique ({data.answered} of{' '}
      {data.targets} targets):
      {data.rows
        .filter(({ parts }) => parts.length > 0)
        .map((row) => (
          <a
            key={row.id}
            href={`/p/${key}/${row.key}/draft`}
            title={row.parts
              .map(
                ({ name, answered, targets }) =>
                  `${name} ${targets === null ? 'cannot be computed' : `${answered} of ${targets}`}`,
              )
              .join(', ')}
          >
            <span className="key">{row.key}</span> {percentText(percent(row.answered, row.targets))}
          </a>
        ))}
    </p>
  )
}

/** The three figures, told apart, with how old their evidence is and on which builds it was gained. */
function Totals({ of }: { of: CoverageAnswer }) {
  const { figures } = of.total
  const stale = Object.values(figures.stale).reduce((sum, n) => sum + n, 0)
  const rows = [
    ['passing', figures.passing.plain],
    ['passing, weighted by risk', figures.passing.byRisk],
    ['fully passing', figures.fullyPassing.plain],
    ['executed', figures.executed.plain],
  ] as const
  const reasons = Object.entries(figures.reasons).sort((a, b) => b[1] - a[1])
  return (
    <section className={css['totals']} aria-label="In all">
      <table>
        <thead>
          <tr>
            <th scope="col">of {figures.slots} slots</th>
            <th scope="col">as recorded</th>
            <th scope="col">current only</th>
            <th scope="col">by confidence</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, three]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{shareText(three.recorded)}</td>
              <td>{shareText(three.current)}</td>
              <td>{shareText(three.confident)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className={css['told']}>
        <p>
          <b>{figures.leaves - figures.uncovered}</b> of {figures.leaves} requirements are designed;{' '}
          <b>{figures.uncovered}</b> have no case. <b>{of.casesWithoutRequirement}</b> cases prove no requirement.
        </p>
        <p>
          <b>{stale}</b> results are stale:{' '}
          {reasons.length === 0 ? 'none' : reasons.map(([reason, n]) => `${reason} ${n}`).join(', ')}. A result can have
          several reasons.
        </p>
        <p className="quiet">
          {of.evidenceOldest === null
            ? 'Nothing has been executed in this scope.'
            : `Evidence from ${ago(of.evidenceOldest)} to ${ago(of.evidenceNewest ?? of.evidenceOldest)}, on builds of ${of.scope.release ?? 'all releases'} up to ${of.scope.build ?? 'the newest'}.`}
        </p>
      </div>
    </section>
  )
}
