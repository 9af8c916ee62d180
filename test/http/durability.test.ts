import { copyFileSync, mkdirSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import Database from 'better-sqlite3'
import { seeded } from '#core/lib/random.ts'
import { type Client, clientOf, freshData, home, rovant, startServer } from '../server.ts'

const P = '/projects/FERRY'
const kills = 30

interface Acknowledged {
  readonly client: string
  readonly sequence: number
}
/** Records step verdicts as fast as they are acknowledged, until the server is gone. */
async function record(
  client: Client,
  of: { name: string; attempt: number; steps: readonly number[]; from: number },
  acknowledged: Acknowledged[],
): Promise<number> {
  for (let sequence = of.from; ; sequence++) {
    const verdict = sequence % 3 === 0 ? 'Failed' : 'Passed'
    try {
      const answer = await client.send(
        'PUT',
        `${P}/attempts/${of.attempt}/rows/1/steps/${of.steps[sequence % of.steps.length]}`,
        { verdict, client: of.name, sequence, at: Date.now() },
      )
      if (answer.status !== 200) throw new Error(`${answer.status} ${JSON.stringify(answer.body)}`)
      acknowledged.push({ client: of.name, sequence })
    } catch (error) {
      // Refusals would be a defect; only a lost connection ends the round.
      if (error instanceof Error && /^\d{3} /.test(error.message)) throw error
      return sequence + 1
    }
  }
}

const stored = (file: string): Set<string> => {
  const db = new Database(file)
  const rows: unknown[] = db.prepare("select client_id || ':' || sequence from verdict_event").pluck().all()
  db.close()
  return new Set(rows.map(String))
}

it(`keeps every acknowledged verdict through ${kills} kills at random moments while four clients record`, async function () {
  this.timeout(400_000)
  const data = freshData()
  const random = seeded(7)
  const acknowledged: Acknowledged[] = []
  const next = [1, 1, 1, 1]
  const attempts: { attempt: number; steps: number[] }[] = []
  const cookies = ['mira', 'tobin', 'yusra', 'ansa']
  for (let round = 0; round < kills; round++) {
    const server = await startServer({ command: 'demo', data, env: { ROVANT_CHECK_ANSWERS: '0' } })
    const clients = await Promise.all(cookies.map((who) => clientOf(server.url, who)))
    if (attempts.length === 0) {
      const items = (await clients[0]?.get(`${P}/runs/RN-4/items?limit=300`))?.body.rows.filter(
        ({ verdict }: { verdict: string }) => verdict === 'Not run',
      )
      for (const index of [0, 1, 2, 3]) {
        const attempt = (await clients[0]?.send('POST', `${P}/items/${items[index].id}/attempts`, {}))?.body
        attempts.push({ attempt: attempt.id, steps: attempt.steps.map(({ id }: { id: number }) => id) })
      }
    }
    const recording = clients.map(async (client, index) => {
      const of = attempts[index]
      if (of)
        next[index] = await record(
          client,
          { name: `killed-client-${index}`, ...of, from: next[index] ?? 1 },
          acknowledged,
        )
    })
    // Counted in verdicts and not in time, so that a slow machine is tested as hard as a fast one; then a moment more, to strike between two.
    const enough = acknowledged.length + 5 + Math.floor(random() * 30)
    while (acknowledged.length < enough) await new Promise((resolve) => setTimeout(resolve, 2))
    await new Promise((resolve) => setTimeout(resolve, random() * 20))
    await server.stop('SIGKILL')
    await Promise.all(recording)
    const kept = stored(join(data, 'rovant.db'))
    const lost = acknowledged.filter(({ client, sequence }) => !kept.has(`${client}:${sequence}`))
    expect(lost, `after kill ${round + 1}`).to.deep.equal([])
  }
  expect(acknowledged.length).to.be.at.least(kills * 5)
  expect((await rovant(['verify', '--data', data])).out).to.match(/sound/)
})

it('opens copies whose write-ahead log is cut at random bytes, with every verdict before the last whole commit', async function () {
  this.timeout(120_000)
  const data = freshData()
  const server = await startServer({ command: 'demo', data })
  const mira = await clientOf(server.url, 'mira')
  const item = (await mira.get(`${P}/runs/RN-4/items?limit=300`)).body.rows.find(
    ({ verdict }: { verdict: string }) => verdict === 'Not run',
  )
  const attempt = (await mira.send('POST', `${P}/items/${item.id}/attempts`, {})).body
  const log = join(data, 'rovant.db-wal')
  const sizes: { sequence: number; bytes: number }[] = []
  for (let sequence = 1; sequence <= 60; sequence++) {
    await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${attempt.steps[0].id}`, {
      verdict: sequence % 2 ? 'Passed' : 'Failed',
      client: 'cut-client-1',
      sequence,
      at: Date.now(),
    })
    sizes.push({ sequence, bytes: statSync(log).size })
  }
  await server.stop('SIGKILL')
  const random = seeded(11)
  const whole = statSync(log).size
  const first = sizes[0]?.bytes ?? 0
  for (let copy = 0; copy < 20; copy++) {
    const into = freshData()
    mkdirSync(into, { recursive: true })
    copyFileSync(join(data, 'rovant.db'), join(into, 'rovant.db'))
    copyFileSync(log, join(into, 'rovant.db-wal'))
    const cut = Math.floor(first + random() * (whole - first))
    truncateSync(join(into, 'rovant.db-wal'), cut)
    const kept = stored(join(into, 'rovant.db'))
    // What was acknowledged when the log ended at or before the cut was synced, so it must be there.
    const owed = sizes
      .filter(({ bytes }) => bytes <= cut && bytes < whole)
      .map(({ sequence }) => `cut-client-1:${sequence}`)
    expect(
      owed.filter((each) => !kept.has(each)),
      `cut at ${cut} of ${whole}`,
    ).to.deep.equal([])
    const db = new Database(join(into, 'rovant.db'))
    expect(db.pragma('integrity_check', { simple: true })).to.equal('ok')
    db.close()
  }
})

it('stays up when a file of the interface is taken away while it runs, as a newer build does', async () => {
  const file = join(home, 'dist/client/_astro/taken-away.js')
  writeFileSync(file, 'export {}')
  const server = await startServer({ command: 'serve', data: freshData() })
  try {
    expect((await fetch(`${server.url}/_astro/taken-away.js`)).status).to.equal(200)
    rmSync(file)
    expect((await fetch(`${server.url}/_astro/taken-away.js`)).status).to.equal(404)
    expect(await (await fetch(`${server.url}/healthz`)).json()).to.include({ ok: true })
  } finally {
    rmSync(file, { force: true })
    await server.stop()
  }
})
