import type { Served } from '#core/lib/question.ts'
import { QueryClientProvider } from '@tanstack/react-query'
import { lazy, type ReactNode, Suspense, useEffect, useMemo, useState } from 'react'
import type { Me } from '#core/people/contract.ts'
import { type Frame, type Project, readFrame } from '#core/projects/contract.ts'
import { hearTypedBefore } from '#ui/kit/typed-before.ts'
import { type Binding, listenForKeys, useKeys } from '#ui/kit/keys.ts'
import { KeepingFor } from '#ui/kit/kept.tsx'
import { useDrawnAt, writeDatesFor } from '#ui/kit/moment.ts'
import { Notices } from '#ui/kit/notices.tsx'
import { keepUndoInPlace } from '#ui/kit/undo-in-place.ts'
import { scopeIn, scopeNames, scopeSearch, serveAddress, useParams } from './address.ts'
import { newClient, useAnswer } from './answers.tsx'
import { HereContext } from './here.ts'
import { HintLine } from './HintLine.tsx'
import { useLeftVerdicts } from './left-verdicts.ts'
import { RouteBar, stations, type StationName } from './RouteBar.tsx'
import { ScopeBar } from './ScopeBar.tsx'
import css from './Shell.module.css'
import { useStream } from './stream.ts'

const FindOrDo = lazy(async () => ({ default: (await import('./FindOrDo.tsx')).FindOrDo }))
const AllKeys = lazy(async () => ({ default: (await import('./AllKeys.tsx')).AllKeys }))

export interface ShellProps {
  readonly me: Me
  readonly project: Project
  readonly frame: Served<Frame>
  readonly station: StationName | null
  readonly path: string
  readonly search: string
  /** When the server drew the page. */
  readonly at: number
}
/** The frame round every page: route, scope, work, hints. */
export function Shell({ children, ...props }: ShellProps & { children: ReactNode }) {
  serveAddress(props.path, props.search)
  useDrawnAt(props.at)
  writeDatesFor({ language: props.me.language, timeZone: props.me.timeZone ?? props.project.timeZone })
  const [client] = useState(newClient)
  return (
    <QueryClientProvider client={client}>
      <Inside {...props}>{children}</Inside>
    </QueryClientProvider>
  )
}

function Inside({ me, project, frame, station, children }: ShellProps & { children: ReactNode }) {
  const [open, setOpen] = useState<'find' | 'keys' | null>(null)
  const params = useParams(...scopeNames)
  const streaming = useStream(project.key)
  const scope = scopeIn(params)
  const { data, settled } = useAnswer(
    readFrame,
    { params: { key: project.key }, query: scope },
    { served: frame, keep: true },
  )
  useEffect(listenForKeys, [])
  useEffect(hearTypedBefore, [])
  useEffect(keepUndoInPlace, [])
  useLeftVerdicts(me.id)
  useKeys(frameKeys(project.key, params, setOpen))
  const here = useMemo(() => ({ me, project, key: project.key, streaming }), [me, project, streaming])
  return (
    <HereContext value={here}>
      <KeepingFor value={`${me.id}.${project.key}`}>
        <div className={css['shell']} data-find={open ?? undefined}>
          <a className={css['skip']} href="#work">
            Skip to the work
          </a>
          <RouteBar
            me={me}
            project={project}
            counts={data?.counts}
            station={station}
            search={scopeSearch(params)}
            onFind={() => setOpen('find')}
          />
          <ScopeBar project={project} params={params} meter={data?.meter} criteria={data?.criteria} settled={settled} />
          {!streaming && (
            <p className={css['offline']} role="status">
              The server is not answering. What is shown may be old. Verdicts and steps are kept here and sent when it
              is back; other changes are not stored until then.
            </p>
          )}
          <main id="work" className={css['work']}>
            {children}
          </main>
          <HintLine onAll={() => setOpen('keys')} />
        </div>
        <Suspense>
          {open === 'find' && <FindOrDo onClose={() => setOpen(null)} onKeys={() => setOpen('keys')} />}
          {open === 'keys' && <AllKeys onClose={() => setOpen(null)} />}
        </Suspense>
        <Notices />
      </KeepingFor>
    </HereContext>
  )
}

function frameKeys(key: string, params: URLSearchParams, setOpen: (open: 'find' | 'keys') => void): Binding[] {
  const to = (path: string) => () => location.assign(`/p/${key}${path}${scopeSearch(params)}`)
  return [
    { id: 'find', keys: 'Ctrl+k', label: 'find or do', run: () => setOpen('find'), quiet: true },
    { id: 'keys', keys: 'F1', label: 'all keys', run: () => setOpen('keys'), quiet: true },
    { id: 'today', keys: 'Alt+0', label: 'Today', run: to(''), quiet: true },
    ...stations.map(({ name, path }, index) => ({
      id: `station-${path}`,
      keys: `Alt+${index + 1}`,
      label: name,
      run: to(`/${path}`),
      quiet: true,
    })),
  ]
}
