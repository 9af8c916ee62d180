import type { SolveLinear } from '#core/lib/linear.ts'
import { level } from '#core/schedule/level.ts'
import { drawLine } from '#core/schedule/line.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { levelJob, lineJob } from '#server/workers/questions.ts'
import { loadSolver } from './solver.ts'

/** What is solved on a thread of its own: nothing of it reads the database. */
export function solvingJobs(): Doing[] {
  let loading: Promise<SolveLinear> | null = null
  const solver = () => (loading ??= loadSolver())
  return [
    doing(lineJob, async ({ items, minutes }) => drawLine(items, minutes, await solver())),
    doing(levelJob, async (of) => level(of, await solver())),
  ]
}
