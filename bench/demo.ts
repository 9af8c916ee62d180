import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { freshData, home, startServer } from '../test/server.ts'
import { type Measured, ms, quantile, timed } from './measure.ts'

const port = 4391
const pages = [
  '/2.3.4/',
  '/2.3.4/?from=OV&to=TA&date=2026-05-13',
  '/2.4.0-rc2/my/look?code=TF-1001',
  '/2.4.0-rc2/bench',
]
const aims = { filling: 20_000, again: 10_000, desk: 1000, answer: 50 }

/** The demo from nothing and again, and the application it tests by itself; beside what starting Node with nothing to do takes. */
export async function benchDemo(): Promise<Measured[]> {
  const [nothing, first, again, desk, answers]: [number[], number[], number[], number[], number[]] = [
    [],
    [],
    [],
    [],
    [],
  ]
  for (let round = 0; round < 3; round++) {
    const data = freshData()
    await timed(nothing, () => new Promise((done) => spawn(process.execPath, ['-e', '0']).once('exit', done)))
    for (const into of [first, again]) {
      const server = await timed(into, () => startServer({ command: 'demo', data }))
      await server.stop()
    }
    const child = await timed(desk, startDesk)
    for (let n = 0; n < 50; n++)
      for (const page of pages)
        await timed(answers, async () => (await fetch(`http://127.0.0.1:${port}${page}`)).text())
    const ended = new Promise((done) => child.once('exit', done))
    child.kill()
    await ended
  }
  const median = (of: readonly number[]) => quantile(of, 0.5)
  const base = median(nothing)
  const told = (name: string, took: number, aim: number): Measured => ({
    name,
    figures: { took, ratio: took / base },
    met: took < aim,
    text: `${ms(took)}, ${(took / base).toFixed(1)} times what starting Node takes (${ms(base)}); aimed at below ${ms(aim)}`,
  })
  return [
    told('the demo is filled', median(first) - median(again), aims.filling),
    told('the demo starts again', median(again), aims.again),
    told('Crossing Desk starts', median(desk), aims.desk),
    told('Crossing Desk answers, p95', quantile(answers, 0.95), aims.answer),
  ]
}

/** Crossing Desk as it ships, once it says where it is. */
function startDesk() {
  const child = spawn(process.execPath, [join(home, 'dist/standins/crossing-desk.mjs'), String(port)], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  return new Promise<typeof child>((resolve, reject) => {
    child.stdout.once('data', () => resolve(child))
    child.once('error', reject)
  })
}
