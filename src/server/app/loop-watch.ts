import { existsSync, readFileSync } from 'node:fs'
import { PerformanceObserver } from 'node:perf_hooks'
import { type Held, heldChannel, longestHeld } from '#server/http/held.ts'

/** A time in which the process answered nobody. */
export interface Stall {
  /** How long, in ms. */
  readonly ms: number
  /** Of that, how long the thread of the loop had a processor: little of it means that the machine was busy with something else. */
  readonly cpu: number
  /** What held it, as far as that is known: what told so itself, else whatever was being answered. */
  readonly by: readonly string[]
  /** Time in it that went into taking unused memory back, in ms. */
  readonly memory: number
}

/** Whether the process held itself: with no more than that on a processor, the machine was busy with something else. */
export const isOwnStall = ({ cpu }: Pick<Stall, 'cpu'>): boolean => cpu > longestHeld

export interface LoopWatch {
  /** Something begins to be answered; the answer says that it has ended. */
  readonly asked: (name: string) => () => void
  readonly end: () => void
}

const every = 10
/** Named with one stall are at most so many. */
const mostNamed = 5

/** Looks every 10 ms whether the loop comes round, and tells of each time that it was held for longer than is allowed. */
export function watchLoop(told: (stall: Stall) => void): LoopWatch {
  const going = new Map<number, string>()
  let next = 0
  let held: Held[] = []
  // What ended within the stall was going on in it.
  let ended: string[] = []
  const hear = (message: unknown) => void held.push(message as Held)
  heldChannel.subscribe(hear)
  const memory = new PerformanceObserver(() => {})
  memory.observe({ entryTypes: ['gc'] })
  let [last, cpu] = [performance.now(), cpuTime()]
  const timer = setInterval(() => {
    const now = performance.now()
    const used = cpuTime()
    if (now - last - every > longestHeld) {
      const stall = {
        ms: Math.round(now - last),
        cpu: Math.round(used - cpu),
        by: namesOf(held, [...ended, ...going.values()]),
      }
      const since = last
      // What memory took is known in the next phase of the loop.
      setImmediate(() => {
        const cleared = memory.takeRecords().filter(({ startTime }) => startTime >= since && startTime < now)
        told({ ...stall, memory: Math.round(cleared.reduce((sum, { duration }) => sum + duration, 0)) })
      })
    } else memory.takeRecords()
    ;[last, cpu, held, ended] = [now, used, [], []]
  }, every)
  timer.unref()
  return {
    asked: (name) => {
      const id = next++
      going.set(id, name)
      return () => {
        if (going.delete(id)) ended.push(name)
      }
    },
    end: () => {
      clearInterval(timer)
      memory.disconnect()
      heldChannel.unsubscribe(hear)
    },
  }
}

const ofThread = '/proc/thread-self/schedstat'
const knowsThread = existsSync(ofThread)

/** Time this thread has had a processor for, in ms; where the system does not tell it of threads, the whole process. */
export function cpuTime(): number {
  if (knowsThread) return Number(readFileSync(ofThread, 'utf8').split(' ')[0]) / 1e6
  const { user, system } = process.cpuUsage()
  return (user + system) / 1000
}

function namesOf(held: readonly Held[], going: readonly string[]): string[] {
  const own = [...held].sort((a, b) => b.ms - a.ms).map(({ name, ms }) => `${name} (${Math.round(ms)} ms)`)
  return (own.length > 0 ? own : [...new Set(going)]).slice(0, mostNamed)
}
