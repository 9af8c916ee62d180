import { spawn } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import { type Acknowledged, begin, record, recorders, storedVerdicts } from '../killing.ts'
import { clientOf, demoData, freshData, home, rovant, startServer } from '../server.ts'

// The replicator of docs/operations.md, as its makers publish it for this kind of machine.
const replicator = join(home, `node_modules/@flydotio/litestream-${process.platform}-${process.arch}/litestream`)

const settingsOf = (data: string, copy: string): string => `
dbs:
  - path: ${join(data, 'rovant.db')}
    replicas:
      - type: file
        path: ${copy}
        sync-interval: 200ms
`
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

function startReplicator(settings: string): { stop: (signal: NodeJS.Signals) => Promise<void>; said: () => string } {
  let said = ''
  const child = spawn(replicator, ['replicate', '-config', settings], { stdio: ['ignore', 'pipe', 'pipe'] })
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => {
      said += chunk.toString()
    })
  return {
    said: () => said,
    stop: (signal) =>
      new Promise((resolve) => {
        if (child.exitCode !== null || child.signalCode !== null) return resolve()
        child.once('exit', () => resolve())
        child.kill(signal)
      }),
  }
}

async function restore(copy: string, into: string): Promise<void> {
  const child = spawn(replicator, ['restore', '-o', join(into, 'rovant.db'), `file://${copy}`], { stdio: 'pipe' })
  let said = ''
  child.stderr.on('data', (chunk: Buffer) => {
    said += chunk.toString()
  })
  const code = await new Promise((resolve) => child.once('close', resolve))
  if (code !== 0) throw new Error(`the replicator restored nothing: ${said}`)
}

it('comes back sound out of the copy a replicator keeps elsewhere, with all but the last moment, after both were killed', async function () {
  // The replicator is published for the usual kinds of machines only.
  if (!existsSync(replicator)) this.skip()
  this.timeout(240_000)
  const [data, copy, back] = [await demoData(), join(freshData(), 'copy'), freshData()]
  const settings = join(freshData(), 'replicator.yml')
  writeFileSync(settings, settingsOf(data, copy))
  let copying = startReplicator(settings)
  const server = await startServer({ command: 'serve', data })
  const acknowledged: Acknowledged[] = []
  const clients = await Promise.all(recorders.map((who) => clientOf(server.url, who)))
  const attempts = await begin(clients[0]!)
  const recording = clients.map((client, at) =>
    record(client, { name: `copied-client-${at}`, ...attempts[at]!, from: 1 }, acknowledged),
  )
  while (acknowledged.length < 100) await wait(20)
  // It is away for a while, and goes on where it was.
  await copying.stop('SIGKILL')
  const without = acknowledged.length
  while (acknowledged.length < without + 100) await wait(20)
  copying = startReplicator(settings)
  const half = acknowledged.length
  while (acknowledged.length < half + 200) await wait(20)
  const owed = [...acknowledged]
  await wait(4000)
  await Promise.all([server.stop('SIGKILL'), copying.stop('SIGKILL')])
  await Promise.all(recording)

  expect(readdirSync(copy), copying.said()).to.include('generations')
  mkdirSync(back, { recursive: true })
  await restore(copy, back)
  cpSync(join(data, 'evidence'), join(back, 'evidence'), { recursive: true })
  const verified = await rovant(['verify', '--data', back])
  expect([verified.code, verified.out + verified.err]).to.deep.equal([0, `${back}: sound\n`])
  const kept = storedVerdicts(join(back, 'rovant.db'))
  expect(owed.filter(({ client, sequence }) => !kept.has(`${client}:${sequence}`))).to.deep.equal([])
  const again = await startServer({ command: 'serve', data: back })
  try {
    expect((await fetch(`${again.url}/healthz`)).status).to.equal(200)
    // Without the key of the installation people sign in anew, by the passwords they had.
    expect((await (await clientOf(again.url, 'mira')).get('/me')).status).to.equal(200)
  } finally {
    await again.stop()
  }
})
