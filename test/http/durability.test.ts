import { copyFileSync, mkdirSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import Database from 'better-sqlite3'
import { seeded } from '#core/lib/random.ts'
import { killWhileRecording, storedVerdicts } from '../killing.ts'
import { clientOf, demoData, freshData, home, startServer } from '../server.ts'

const P = '/projects/FERRY'
const kills = 20

it(`keeps every acknowledged verdict through ${kills} kills at random moments while four clients record, sound each time`, async function () {
  this.timeout(400_000)
  const { acknowledged, lost, unsound } = await killWhileRecording(kills)
  expect(lost).to.deep.equal([])
  expect(unsound).to.deep.equal([])
  expect(acknowledged).to.be.at.least(kills * 5)
})

it('opens copies whose write-ahead log is cut at random bytes, with every verdict before the last whole commit', async function () {
  this.timeout(120_000)
  const data = await demoData()
  const server = await startServer({ command: 'demo', data })
  const mira = await clientOf(server.url, 'mira')
  const item = (await mira.get(`${P}/runs/RN-5/items?limit=300`)).body.rows.find(
    ({ verdict }: { verdict: string }) => verdict === 'Not run',
  )
  const attempt = (await mira.send('POST', `${P}/items/${item.id}/attempts`, {})).body
  const log = join(data, 'rovant.db-wal')
  // Whoever reads what was before keeps the log from being written back and begun anew, so that every verdict stands in it.
  const reader = new Database(join(data, 'rovant.db'))
  reader.pragma('wal_checkpoint(TRUNCATE)')
  reader.exec('begin')
  reader.prepare('select count(*) from verdict_event').get()
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
  expect(new Set(sizes.map(({ bytes }) => bytes)).size).to.equal(sizes.length)
  for (let copy = 0; copy < 20; copy++) {
    const into = freshData()
    mkdirSync(into, { recursive: true })
    copyFileSync(join(data, 'rovant.db'), join(into, 'rovant.db'))
    copyFileSync(log, join(into, 'rovant.db-wal'))
    const cut = Math.floor(first + random() * (whole - first))
    truncateSync(join(into, 'rovant.db-wal'), cut)
    const kept = storedVerdicts(join(into, 'rovant.db'))
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
  // The last that closes a database writes its log back and takes it away.
  reader.close()
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
