import { expect } from 'chai'
import type { Client, Reply, Running } from '../server.ts'

/** The project of the demo data. */
export const P = '/projects/FERRY'

export const step = (action: string, expected = '') => ({ id: null, action, expected, data: '' })
export const use = (ref: string, values: Record<string, string> = {}) => ({
  id: null,
  action: '',
  expected: '',
  data: '',
  use: { kind: ref.startsWith('RT') ? 'routine' : 'case', ref, values },
})
export const texts = (rows: readonly { action: string }[]) => rows.map(({ action }) => action)
/** What tests of cases and routines write and read over the API; the client is asked for when it is needed, since it signs in before the first test. */
export function writing(client: () => Client) {
  const read = async (key: string) =>
    (
      await client().get(
        `${P}/${key.startsWith('RT') ? 'routines' : key.startsWith('RQ') ? 'requirements' : 'cases'}/${key}`,
      )
    ).body
  /** A case with these steps in its working copy. */
  async function written(title: string, steps: readonly unknown[], more: object = {}): Promise<string> {
    const key: string = (await client().send('POST', `${P}/cases/lines`, { lines: title })).body.keys[0]
    const answer = await store(key, steps, more)
    expect(answer.status, JSON.stringify(answer.body)).to.equal(200)
    return key
  }
  async function store(key: string, steps: readonly unknown[], more: object = {}): Promise<Reply> {
    const own = await read(key)
    return client().send('PUT', `${P}/${key.startsWith('RT') ? 'routines' : 'cases'}/${key}/working`, {
      stamp: own.contentStamp,
      content: { preconditions: '', steps, parameters: [], rows: [], ...more },
    })
  }
  const routine = async (title: string, lines: string): Promise<string> =>
    (await client().send('POST', `${P}/routines`, { title, lines })).body.key

  /** Executes a case in a run of its own; answers the attempt. */
  async function executed(key: string, by: Client = client()) {
    const project = (await client().get(P)).body
    const build = project.builds.find(({ name }: { name: string }) => name === '2.4.0-rc2').id
    const suite = (
      await client().send('POST', `${P}/suites`, {
        title: `For ${key} ${Math.random()}`,
        cases: [(await read(key)).id],
      })
    ).body
    const run = await client().send('POST', `${P}/runs`, {
      title: `Run of ${key}`,
      build,
      startOn: '2026-11-23',
      endOn: '2026-11-28',
      cases: [(await read(key)).id],
      suites: [],
    })
    expect(run.status, `${JSON.stringify(run.body)} ${suite.key}`).to.equal(200)
    const { version } = (await client().get(`${P}/runs/${run.body.key}`)).body
    await client().send('PATCH', `${P}/runs/${run.body.key}`, { state: 'Open' }, { 'if-match': String(version) })
    const item = (await client().get(`${P}/runs/${run.body.key}/items?limit=1`)).body.rows[0].id
    return by.send('POST', `${P}/items/${item}/attempts`, {})
  }
  return { read, written, store, routine, executed }
}

/** What tests of imports send and look for. */
export function importing(client: () => Client) {
  const send = (bytes: string | Buffer, query = 'dry=no') =>
    client().send('POST', `${P}/imports?${query}`, typeof bytes === 'string' ? Buffer.from(bytes) : bytes, {
      'content-type': 'application/octet-stream',
    })
  const caseOf = async (title: string) => {
    const row = (await client().get(`${P}/cases?text=${encodeURIComponent(`"${title}"`)}`)).body.rows[0]
    return row ? (await client().get(`${P}/cases/${row.key}`)).body : undefined
  }
  const total = async (what: 'requirements' | 'cases') => (await client().get(`${P}/${what}?limit=1`)).body.total
  return { send, caseOf, total }
}

/** The cookie of somebody signed in, for what is sent by hand. */
export async function signInCookie(server: Running): Promise<string> {
  const answer = await fetch(`${server.url}/api/v1/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'mira@tarnsey.example', password: 'ferry-2024' }),
  })
  return answer.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ')
}
