import { join } from 'node:path'
import Database from 'better-sqlite3'
import { seeded } from '#core/lib/random.ts'
import { type Client, clientOf, demoData, rovant, startServer } from './server.ts'

const P = '/projects/FERRY'
export const recorders = ['mira', 'tobin', 'yusra', 'ansa']

export interface Acknowledged {
  readonly client: string
  readonly sequence: number
}
export interface Attempt {
  readonly attempt: number
  readonly steps: readonly number[]
}

export interface Killed {
  readonly kills: number
  readonly acknowledged: number
  /** Verdicts that were acknowledged and are not stored, as `kill: client:sequence`. */
  readonly lost: readonly string[]
  /** What was found after a kill that is not sound, with its kill. */
  readonly unsound: readonly string[]
}

/** Kills the server again and again at random moments while four clients record verdicts; after each time every one that was acknowledged is looked for, and all data are verified. */
export async function killWhileRecording(
  kills: number,
  told: (round: number) => void = () => undefined,
): Promise<Killed> {
  const data = await demoData()
  const random = seeded(7)
  const acknowledged: Acknowledged[] = []
  const [lost, unsound]: [string[], string[]] = [[], []]
  const next = recorders.map(() => 1)
  let attempts: readonly Attempt[] = []
  for (let round = 1; round <= kills; round++) {
    const server = await startServer({ command: 'demo', data, env: { ROVANT_CHECK_ANSWERS: '0' } })
    const clients = await Promise.all(recorders.map((who) => clientOf(server.url, who)))
    if (attempts.length === 0 && clients[0]) attempts = await begin(clients[0])
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
    const kept = storedVerdicts(join(data, 'rovant.db'))
    for (const { client, sequence } of acknowledged)
      if (!kept.has(`${client}:${sequence}`)) lost.push(`${round}: ${client}:${sequence}`)
    const verified = await rovant(['verify', '--data', data])
    if (verified.code !== 0 || !/sound/.test(verified.out)) unsound.push(`${round}: ${verified.out}${verified.err}`)
    told(round)
  }
  return { kills, acknowledged: acknowledged.length, lost, unsound }
}

/** Attempts on four items that nobody has begun. */
export async function begin(client: Client): Promise<Attempt[]> {
  const { rows } = (await client.get(`${P}/runs/RN-5/items?limit=300`)).body
  const open = rows.filter(({ verdict }: { verdict: string }) => verdict === 'Not run').slice(0, recorders.length)
  const attempts: Attempt[] = []
  for (const { id } of open) {
    const { body } = await client.send('POST', `${P}/items/${id}/attempts`, {})
    attempts.push({ attempt: body.id, steps: body.steps.map((step: { id: number }) => step.id) })
  }
  return attempts
}

/** Records step verdicts as fast as they are acknowledged, until the server is gone; answers the number to go on with. */
export async function record(
  client: Client,
  of: Attempt & { readonly name: string; readonly from: number },
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

/** Every verdict that is stored, as `client:sequence`. */
export function storedVerdicts(file: string): Set<string> {
  const db = new Database(file)
  const rows: unknown[] = db.prepare("select client_id || ':' || sequence from verdict_event").pluck().all()
  db.close()
  return new Set(rows.map(String))
}
