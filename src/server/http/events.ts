import { EventEmitter } from 'node:events'
import { Refusal } from '#core/lib/refusal.ts'
import type { ChangeEvent } from '#db/history/changes.ts'

export interface EventHub {
  readonly publish: (projectId: number, events: readonly ChangeEvent[]) => void
  /** The same of every project. */
  readonly listenAll: (hear: (projectId: number) => void) => () => void
  readonly listen: (projectId: number, hear: (events: readonly ChangeEvent[]) => void) => () => void
  /** Counts a stream as open until what is answered is called; a `Refusal` says when there are too many. */
  readonly open: (stream: OpenStream) => () => void
  /** Ends the streams that were opened with this sign-in. */
  readonly endOf: (signIn: string) => void
  /** Ends all streams of a person; those whose sign-in goes on open them again. */
  readonly endOfPerson: (personId: string) => void
  readonly endAll: () => void
}

interface OpenStream {
  readonly personId: string
  /** What it was opened with: a cookie or a token. */
  readonly signIn: string
  readonly end: () => void
}

/** One stream serves all tabs of a browser; a person has some browsers, and tools beside. */
const mostOfPerson = 20
const mostInAll = 1000

/** Tells the open streams of a project what was committed. */
export function eventHub(): EventHub {
  const emitter = new EventEmitter()
  emitter.setMaxListeners(0)
  const streams = new Set<OpenStream>()
  const end = (which: (stream: OpenStream) => boolean) => [...streams].filter(which).forEach((stream) => stream.end())
  return {
    publish: (projectId, events) => {
      emitter.emit(String(projectId), events)
      emitter.emit('any', projectId)
    },
    listenAll: (hear) => {
      emitter.on('any', hear)
      return () => void emitter.off('any', hear)
    },
    listen: (projectId, hear) => {
      emitter.on(String(projectId), hear)
      return () => void emitter.off(String(projectId), hear)
    },
    open: (stream) => {
      const own = [...streams].filter(({ personId }) => personId === stream.personId).length
      if (own >= mostOfPerson)
        throw new Refusal('too-many', `You have ${own} streams of changes open, which is the most; close some first.`)
      if (streams.size >= mostInAll)
        throw new Refusal('too-many', `${streams.size} streams of changes are open here, which is the most; try later.`)
      streams.add(stream)
      return () => void streams.delete(stream)
    },
    endOf: (signIn) => end((stream) => stream.signIn === signIn),
    endOfPerson: (personId) => end((stream) => stream.personId === personId),
    endAll: () => end(() => true),
  }
}

export const eventText = (event: ChangeEvent): string =>
  `id: ${event.id}\nevent: change\ndata: ${JSON.stringify(event)}\n\n`
