import { join } from 'node:path'
import { usualWeights } from '#core/projects/weights.ts'
import { openDatabase } from '#db/open.ts'
import { findProject } from '#db/projects/projects.ts'
import { allJobs } from '#server/app/all-jobs.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { worthJob } from '#server/workers/questions.ts'
import { benchDragging } from './dragging.ts'
import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

const path = '/projects/LARGE'
const items = 5000

/** What 5,000 open items are worth after each verdict, by itself, and with all of the page round it. */
export async function benchLine(setting: Setting): Promise<Measured[]> {
  const project = Object(await ask(setting, 'GET', path))
  const { ids } = Object(await ask(setting, 'GET', `${path}/cases/order`))
  const build = project.builds.at(-1)
  const environment = project.environments.find(({ isAny }: { isAny: boolean }) => !isAny).id
  const people = project.people.map(({ id }: { id: string }) => id)
  const { key } = Object(
    await ask(setting, 'POST', `${path}/runs`, {
      title: 'Line of the bench',
      build: build.id,
      cases: ids.slice(0, items),
      environments: [environment],
      people,
      startOn: '2026-11-23',
      endOn: '2099-11-27',
    }),
  )
  try {
    return [
      await weighing(setting, Number(key.slice(3)), build.name),
      await whole(setting, key),
      await benchDragging(setting, key),
    ]
  } finally {
    const order = Object(await ask(setting, 'GET', `${path}/runs/${key}/items/order`))
    await ask(setting, 'POST', `${path}/runs/${key}/items/drop`, { ids: order.ids })
  }
}

async function weighing(setting: Setting, number: number, build: string): Promise<Measured> {
  const db = openDatabase(join(setting.data, 'rovant.db'), { readonly: true })
  const run = allJobs(db)
  const project = findProject(db, 'LARGE')
  if (!project) throw new Error('there is no project LARGE')
  const id = Number(
    Object(db.$client.prepare('select id from run where project_id = ? and number = ?').get(project.id, number)).id,
  )
  const question = {
    projectId: project.id,
    scope: scopeOf(db, project, { build }),
    run: id,
    weights: usualWeights,
    now: Date.now(),
  }
  const [cold, after]: [number[], number[]] = [[], []]
  await timed(cold, () => run(worthJob, question))
  for (let n = 0; n < 60; n++) {
    const { attempt, steps } = await begin(setting, n)
    await ask(setting, 'PUT', `${path}/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Failed'))
    await timed(after, () => run(worthJob, question))
  }
  const p95 = quantile(after.slice(3), 0.95)
  return {
    name: 'worth of 5,000 items after a verdict',
    text: `p50 ${ms(quantile(after, 0.5))}, p95 ${ms(p95)} (aim 300 ms); the first time ${ms(cold[0] ?? 0)}, ${((cold[0] ?? 0) / p95).toFixed(0)} times as long`,
    figures: { p95, cold: cold[0] ?? 0 },
    met: p95 < 300,
  }
}

async function whole(setting: Setting, key: string): Promise<Measured> {
  const [line, level]: [number[], number[]] = [[], []]
  for (let n = 0; n < 6; n++)
    await timed(line, () => ask(setting, 'GET', `${path}/runs/${key}/line?minutes=${4000 + n}`))
  await timed(level, () => ask(setting, 'POST', `${path}/runs/${key}/level`, { above: false }))
  return {
    name: 'the cut line of 5,000 items with its criteria, and levelled over the team',
    text: `line p50 ${ms(quantile(line.slice(1), 0.5))}, the first time ${ms(line[0] ?? 0)}; levelled in ${ms(level[0] ?? 0)}`,
    figures: { line: quantile(line.slice(1), 0.5), level: level[0] ?? 0 },
    met: null,
  }
}
