import type { Frame, Meter, Project } from '#core/projects/contract.ts'
import { openWord, resolveScope } from '#core/projects/scope.ts'
import { shareText } from '#core/lib/figures.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { fullMomentText } from '#ui/kit/moment.ts'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { go, scopeIn } from './address.ts'
import css from './ScopeBar.module.css'

/** The sentence that says what every figure on the page is about; each part is a choice and part of the address. */
export const ScopeBar = ({
  project,
  params,
  meter,
  criteria,
  settled,
}: {
  project: Project
  params: URLSearchParams
  meter: Meter | undefined
  criteria: Frame['criteria'] | undefined
  /** The figures are those of the scope, and not of the one before while its own are on their way. */
  settled: boolean
}) => (
  <div className={css['bar']} role="region" aria-label="Scope" aria-busy={!settled}>
    <Sentence project={project} params={params} />
    {meter && <ResultMeter project={project} meter={meter} criteria={criteria ?? null} />}
  </div>
)

/** Names to choose from, with a word for all of them. */
const named = <T extends { name: string }>(all: readonly T[], open: string, label = (each: T) => each.name) => [
  { value: openWord, label: open },
  ...all.map((each) => ({ value: each.name, label: label(each) })),
]

/** Names to choose from in the scope of a release. */
function scopeOptions(project: Project, release: number | null) {
  const inRelease = (each: { release: number }) => release === null || each.release === release
  return {
    releases: named(project.releases, 'all releases', ({ name }) => `Release ${name}`),
    iterations: named(project.iterations.filter(inRelease), 'all iterations'),
    builds: named(project.builds.filter(inRelease).reverse(), 'all builds', ({ name, state }) =>
      state === 'Offered' ? name : `${name} (${state.toLowerCase()})`,
    ),
    environments: named(
      project.environments.filter(({ isAny }) => !isAny),
      'all environments',
    ),
  }
}

const orNone = (value: string): string | null => (value === openWord ? null : value)

function Sentence({ project, params }: { project: Project; params: URLSearchParams }) {
  const asked = resolveScope(project, scopeIn(params))
  const scope = 'scope' in asked ? asked.scope : null
  const options = scopeOptions(project, scope?.release?.id ?? null)
  return (
    <p className={css['sentence']}>
      <span className="quiet">Looking at</span>
      <Choice
        label="Release"
        value={scope?.release?.name ?? openWord}
        options={options.releases}
        onChoose={(value) => go({ params: { release: value, iteration: null, build: null } })}
      />
      <i>›</i>
      <Choice
        label="Iteration"
        value={scope?.iteration?.name ?? openWord}
        options={options.iterations}
        onChoose={(value) => go({ params: { iteration: orNone(value) } })}
      />
      <i>›</i>
      <Choice
        label="Build"
        value={scope?.build?.name ?? openWord}
        options={options.builds}
        onChoose={(value) => go({ params: { build: value } })}
      />
      <i>›</i>
      <Choice
        label="Environment"
        value={scope?.environment?.name ?? openWord}
        options={options.environments}
        onChoose={(value) => go({ params: { environment: orNone(value) } })}
      />
      <span className="quiet">as of</span>
      <AsOf asOf={scope?.asOf ?? null} />
    </p>
  )
}

const dayAgo = 86_400_000
function AsOf({ asOf }: { asOf: number | null }) {
  const back = [
    ['1', 'yesterday'],
    ['3', '3 days ago'],
    ['7', 'a week ago'],
    ['14', 'two weeks ago'],
  ] as const
  const shown = asOf === null ? 'now' : fullMomentText(asOf)
  const options = [
    { value: '', label: 'now' },
    ...(asOf === null ? [] : [{ value: String(asOf), label: shown }]),
    ...back.map(([days, label]) => ({ value: `-${days}`, label })),
  ]
  return (
    <Choice
      label="As of"
      value={asOf === null ? '' : String(asOf)}
      options={options}
      onChoose={(value) =>
        go({
          params: {
            asOf: value.startsWith('-') ? String(Date.now() - Number(value.slice(1)) * dayAgo) : value || null,
          },
        })
      }
    />
  )
}

/** How the results of the scope stand, as recorded and on current ones. */
const ResultMeter = ({ project, meter, criteria }: { project: Project; meter: Meter; criteria: Frame['criteria'] }) => (
  <span className={css['meter']}>
    <a className={css['meter']} href={`/p/${project.key}/reports`} aria-label="To the coverage report">
      <ResultBar {...meter} width={150} />
      <span>
        {meter.passing.recorded === null ? (
          'nothing to count'
        ) : (
          <>
            <b>{shareText(meter.passing.recorded)}</b> passing, <b>{shareText(meter.passing.current)}</b> on current
            results
          </>
        )}
      </span>
    </a>
    {criteria && (
      <a className={css['criteria']} href={`/p/${project.key}/reports/readiness`}>
        <b>
          {criteria.met} of {criteria.of}
        </b>{' '}
        criteria
      </a>
    )}
  </span>
)
