import { EventEmitter } from 'node:events'
import type { ChangeEvent } from '#db/history/changes.ts'

export interface EventHub {
  readonly publish: (projectId: number, events: readonly ChangeEvent[]) => void
  readonly listen: (projectId: number, hear: (events: readonly ChangeEvent[]) => void) => () => void
}

/** Tells the open streams of a project what was committed. */
export function eventHub(): EventHub {
  const emitter = new EventEmitter()
  emitter.setMaxListeners(0)
  return {
    publish: (projectId, events) => void emitter.emit(String(projectId), events),
    listen: (projectId, hear) => {
      emitter.on(String(projectId), hear)
      return () => void emitter.off(String(projectId), hear)
    },
  }
}

export const eventText = (event: ChangeEvent): string =>
  `id: ${event.id}\nevent: change\ndata: ${JSON.stringify(event)}\n\n`
