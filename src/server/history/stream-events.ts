import type { streamEvents as contract } from '#core/history/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changesSince, lastChange } from '#db/history/changes.ts'
import { findProject } from '#db/projects/projects.ts'
import { stillIn } from '#server/http/answer.ts'
import { eventText } from '#server/http/events.ts'
import { roleOf } from '#server/http/permission.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { signInOf } from '#server/http/sign-in.ts'

const heartbeat = 25_000
const mostReplayed = 500

/** The stream of a project's changes. Behind by more than can be replayed, it says `behind`, and the page asks anew. */
export async function streamEvents(
  { services, request, person, limit, tx }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Response> {
  const project = findProject(tx, query.project)
  if (!project || !roleOf(tx, project, { person, limit }))
    throw new Refusal('not-found', `There is no project ${query.project}, or you are not one of its people.`)
  const resume = Number(request.headers.get('last-event-id') ?? NaN)
  const from = Number.isNaN(resume) ? lastChange(tx, project.id) : resume
  const encoder = new TextEncoder()
  let stop = () => {}
  const closed = services.events.open({ personId: person.id, signIn: signInOf(request.headers), end: () => stop() })
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text))
      const missed = changesSince(tx, project.id, from, mostReplayed)
      send(
        `retry: 2000\n\n${missed.length === mostReplayed ? 'event: behind\ndata: {}\n\n' : missed.map(eventText).join('')}`,
      )
      const unlisten = services.events.listen(project.id, (events) => send(events.map(eventText).join('')))
      // Who may listen is asked with every beat: a sign-in may have ended, or a role been taken away.
      const beat = setInterval(() => {
        void mayListen().then((may) => (may ? send(': still here\n\n') : stop()))
      }, heartbeat)
      stop = () => {
        stop = () => {}
        closed()
        unlisten()
        clearInterval(beat)
        try {
          controller.close()
        } catch {
          // The reader went first.
        }
      }
      request.signal.addEventListener('abort', () => stop())
    },
    cancel: () => stop(),
  })
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  })

  async function mayListen(): Promise<boolean> {
    const asker = await stillIn(services, request)
    return asker !== null && project !== undefined && roleOf(tx, project, asker) !== null
  }
}
