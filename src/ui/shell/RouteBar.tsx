import { type Me, signOut } from '#core/people/contract.ts'
import type { Frame, Project } from '#core/projects/contract.ts'
import { initials } from '#core/history/changes.ts'
import { call } from '#ui/call.ts'
import { Inbox } from './Inbox.tsx'
import css from './RouteBar.module.css'
import { otherTheme, useTheme } from './theme.ts'

export const stations = [
  { name: 'Requirements', path: 'requirements', wants: 'uncovered' },
  { name: 'Cases', path: 'cases', wants: 'to review' },
  { name: 'Plans', path: 'plans', wants: 'to sign' },
  { name: 'Runs', path: 'runs', wants: 'for you' },
  { name: 'Defects', path: 'defects', wants: 'to retest' },
  { name: 'Reports', path: 'reports', wants: 'not met' },
] as const
export type StationName = (typeof stations)[number]['path']

interface Props {
  readonly me: Me
  readonly project: Project
  /** What wants attention; not known while it is asked. */
  readonly counts: Frame['counts'] | undefined
  readonly station: StationName | null
  readonly search: string
  readonly onFind: () => void
}

/** The six stations on one line in working order, the current one lit. */
export function RouteBar({ me, project, counts, station, search, onFind }: Props) {
  return (
    <header className={css['route']} data-print="no">
      <div className={css['start']}>
        <a className={css['mark']} href={`/p/${project.key}${search}`} aria-label="Rovant, to Today">
          <RovantMark />
          <span>Rovant</span>
        </a>
        <span className={css['project']}>
          <span aria-hidden="true">{project.name} ▾</span>
          <select
            aria-label="Project"
            value={project.key}
            onChange={(event) => location.assign(`/p/${event.target.value}`)}
          >
            {me.projects.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </span>
      </div>
      <nav className={css['stations']} aria-label="Stations">
        {stations.map(({ name, path, wants }) => (
          <a
            key={path}
            href={`/p/${project.key}/${path}${search}`}
            aria-current={station === path ? 'page' : undefined}
            className={css['station']}
          >
            <span className={css['name']}>{name}</span>
            <span className={css['wants']}>{counts && counts[path] > 0 ? `${counts[path]} ${wants}` : ' '}</span>
          </a>
        ))}
      </nav>
      <div className={css['end']}>
        <button type="button" className={css['find']} onClick={onFind}>
          <span>Find or do…</span>
          <span className="key">Ctrl K</span>
        </button>
        <Inbox />
        <PersonMenu me={me} project={project} />
      </div>
    </header>
  )
}

function PersonMenu({ me, project }: { me: Me; project: Project }) {
  const { theme, chosen, choose } = useTheme()
  const leave = async () => {
    await call(signOut)
    location.assign('/sign-in')
  }
  return (
    <details className={css['person']}>
      <summary aria-label={`${me.name}, open the menu`}>{initials(me.name)}</summary>
      <div className={css['menu']}>
        <p>
          <strong>{me.name}</strong>
          <br />
          <span className="quiet">{me.email}</span>
        </p>
        <button type="button" onClick={() => choose(otherTheme(theme))}>
          {theme === 'dark' ? 'Light theme' : 'Dark theme'}
        </button>
        {chosen && (
          <button type="button" onClick={() => choose(null)}>
            Theme as the system has it
          </button>
        )}
        <a href="/me">Your own page</a>
        {project.people.some(({ id }) => id === me.id) && <a href={`/p/${project.key}/people/${me.id}`}>Your work</a>}
        <a href={`/p/${project.key}/history`}>History</a>
        <a href={`/p/${project.key}/set-up`}>Set-up</a>
        <button type="button" onClick={() => void leave()}>
          Sign out
        </button>
      </div>
    </details>
  )
}

export const RovantMark = () => (
  <svg width="24" height="24" viewBox="0 0 24 24" fill="none" aria-hidden="true">
    <path
      d="M4 19.5c6 0 3.6-6.6 8-7.4C16.600 11.300 14 4.500 20 4.500"
      stroke="#E9A23B"
      strokeWidth="2.200"
      strokeLinecap="round"
    />
    <circle cx="4" cy="19.500" r="2" fill="#F3EFE4" />
    <circle cx="12" cy="12" r="2" fill="#F3EFE4" />
    <circle cx="20" cy="4.500" r="2" fill="#F3EFE4" />
  </svg>
)
