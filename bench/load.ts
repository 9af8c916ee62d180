import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { rovant } from '../test/server.ts'
import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

/** Records verdicts, one after the other, as long as something else goes on. */
async function recordWhile(setting: Setting, verdicts: number[], going: () => boolean): Promise<void> {
  while (going()) {
    const { attempt, steps } = await begin(setting, Math.floor(Math.random() * 15_000))
    for (const step of steps)
      await timed(verdicts, () =>
        ask(setting, 'PUT', `/projects/LARGE/attempts/${attempt}/rows/1/steps/${step}`, verdictBody('Passed')),
      )
  }
}

/** A change of 5,000 cases by one request, taken back again, while verdicts are recorded. */
async function bulkWhileRecording(setting: Setting): Promise<Measured> {
  const [verdicts, edits]: [number[], number[]] = [[], []]
  const ids: unknown = Object(await ask(setting, 'GET', '/projects/LARGE/cases/order')).ids
  const chosen = Array.isArray(ids) ? ids.slice(0, 5000) : []
  let going = true
  const work = (async () => {
    for (const importance of ['Critical', 'Low', 'High', 'Medium', 'Critical', 'Low', 'High', 'Medium']) {
      await timed(edits, () => ask(setting, 'PATCH', '/projects/LARGE/cases', { ids: chosen, set: { importance } }))
      await new Promise((resolve) => setTimeout(resolve, 400))
    }
  })().finally(() => {
    going = false
  })
  await recordWhile(setting, verdicts, () => going)
  await work
  const p95 = quantile(verdicts, 0.95)
  return {
    name: 'verdicts while 5,000 cases are changed at once, over and over',
    met: p95 < 100,
    figures: { p50: quantile(verdicts, 0.5), p95, edit: quantile(edits, 0.5), samples: verdicts.length },
    text: `p95 ${ms(p95)} over ${verdicts.length} verdicts (aim 100 ms); the change itself ${ms(quantile(edits, 0.5))} at p50`,
  }
}

/** Verdicts while coverage is asked over and over, a large file is imported, and a backup is made. */
export async function benchLoad(setting: Setting): Promise<Measured[]> {
  const verdicts: number[] = []
  let going = true
  const rows = Array.from(
    { length: 5000 },
    (_, n) => `Imported case ${n} ${setting.samples},Do it,It is done\n,Look,It is there\n,Leave,Nothing is left`,
  ).join('\n')
  const work = Promise.all([
    (async () => {
      const answer = await fetch(`${setting.url}/api/v1/projects/LARGE/imports?dry=no`, {
        method: 'POST',
        headers: { cookie: setting.cookie, 'content-type': 'text/csv' },
        body: `case,action,expected\n${rows}\n`,
      })
      if (!answer.ok) throw new Error(await answer.text())
    })(),
    rovant(['backup', join(mkdtempSync(join(tmpdir(), 'rovant-backup-')), 'out'), '--data', setting.data]).then(
      ({ code, err }) => {
        if (code !== 0) throw new Error(err)
      },
    ),
  ]).finally(() => {
    going = false
  })
  const reports = (async () => {
    while (going) await ask(setting, 'GET', '/projects/LARGE/reports/coverage')
  })()
  await recordWhile(setting, verdicts, () => going)
  await Promise.all([work, reports])
  const p95 = quantile(verdicts, 0.95)
  return [
    {
      name: 'verdicts while coverage, a large import and a backup go on',
      met: p95 < 100,
      figures: { p50: quantile(verdicts, 0.5), p95, samples: verdicts.length },
      text: `p50 ${ms(quantile(verdicts, 0.5))}, p95 ${ms(p95)} over ${verdicts.length} verdicts (aim 100 ms)`,
    },
    await bulkWhileRecording(setting),
  ]
}
