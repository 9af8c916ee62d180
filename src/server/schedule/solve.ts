import type { SolveLinear } from '#core/lib/linear.ts'
import { level } from '#core/schedule/level.ts'
import type { Levelling } from '#core/schedule/levelling.ts'
import { drawLine, type LineItem } from '#core/schedule/line.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { levelJob, lineJob } from '#server/workers/questions.ts'
import { loadSolver } from './solver.ts'

// What another thread of ours wrote is what it says.
const lineItems = (text: string): LineItem[] => JSON.parse(text) as LineItem[]
const levelling = (text: string): Levelling => JSON.parse(text) as Levelling

/** What is solved on a thread of its own: nothing of it reads the database. */
export function solvingJobs(): Doing[] {
  let loading: Promise<SolveLinear> | null = null
  const solver = () => (loading ??= loadSolver())
  return [
    doing(lineJob, async ({ items, minutes }) => drawLine(lineItems(items), minutes, await solver())),
    doing(levelJob, async (model) => JSON.stringify(level(levelling(model), await solver()))),
  ]
}
