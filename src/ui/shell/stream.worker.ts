/** What the worker tells a tab: the stream is up or down, something changed, or so much that all is asked again. */
export interface StreamNews {
  readonly kind: 'up' | 'down' | 'change' | 'behind'
}
/** What a tab tells the worker: which project it shows, or that it shows it no longer. */
interface TabNews {
  readonly project: string
  readonly leave?: boolean
}

/** One event stream for all tabs of a browser: each tab names its project, each hears what changes there. */
const ports = new Map<string, Set<MessagePort>>()
const streams = new Map<string, EventSource>()

function open(project: string): void {
  if (streams.has(project)) return
  const stream = new EventSource(`/api/v1/events?project=${encodeURIComponent(project)}`)
  const tell = (message: StreamNews) => {
    for (const port of ports.get(project) ?? []) port.postMessage(message)
  }
  stream.addEventListener('change', () => tell({ kind: 'change' }))
  stream.addEventListener('behind', () => tell({ kind: 'behind' }))
  stream.onopen = () => tell({ kind: 'up' })
  stream.onerror = () => {
    tell({ kind: 'down' })
    // A stream that was refused (a sign-in that ended, say) does not come back by itself.
    if (stream.readyState === EventSource.CLOSED) {
      streams.delete(project)
      setTimeout(() => {
        if ((ports.get(project)?.size ?? 0) > 0) open(project)
      }, 3000)
    }
  }
  streams.set(project, stream)
}

function leave(project: string, port: MessagePort): void {
  ports.get(project)?.delete(port)
  if (ports.get(project)?.size !== 0) return
  streams.get(project)?.close()
  streams.delete(project)
}

self.addEventListener('connect', (event) => {
  const port = event instanceof MessageEvent ? event.ports[0] : undefined
  if (!port) return
  port.onmessage = ({ data: { project, leave: leaves } }: MessageEvent<TabNews>) => {
    if (leaves) return leave(project, port)
    ports.set(project, (ports.get(project) ?? new Set()).add(port))
    open(project)
  }
  port.start()
})
