import { expect } from 'chai'
import { recordStep } from '#core/runs/desk-contract.ts'
import { openOutbox, type OutboxHears } from './outbox.ts'

const name = 'rovant.outbox.test'
const event = {
  kind: 'step' as const,
  project: 'SHOP',
  attempt: 1,
  row: 1,
  step: 2,
  verdict: 'Passed' as const,
  word: null,
}

interface Heard {
  readonly stored: number[]
  readonly waiting: [count: number, problem: number | null][]
  readonly refused: number[]
}

/** An outbox, and what it says. */
function opened() {
  const heard: Heard = { stored: [], waiting: [], refused: [] }
  const hears: OutboxHears = {
    onStored: ({ sequence }) => heard.stored.push(sequence),
    onWaiting: (count, problem) => heard.waiting.push([count, problem?.status ?? null]),
    onRefused: ({ sequence }) => heard.refused.push(sequence),
  }
  return { heard, box: openOutbox(name, hears) }
}
const answers = (of: (body: { sequence: number; client: string }) => Response | Promise<Response>): void => {
  globalThis.fetch = async (_, init) => of(JSON.parse(String(init?.body)))
}
const stored = () => new Response(JSON.stringify({ storedAt: 5, counts: true, said: '' }), { status: 200 })
const settled = (ms = 30) => new Promise((resolve) => setTimeout(resolve, ms))
/** Waits until something has come, as long as a busy machine takes, and a moment more for what should not come after it. */
async function come(has: () => boolean): Promise<void> {
  for (const until = Date.now() + 10_000; !has() && Date.now() < until;) await settled(5)
  await settled()
}

describe('verdicts on their way', () => {
  afterEach(() => localStorage.clear())

  it('are sent one after another in their order', async () => {
    const order: number[] = []
    answers(async ({ sequence }) => {
      await settled(5)
      order.push(sequence)
      return stored()
    })
    const { box, heard } = opened()
    for (const _ of [1, 2, 3]) box.put(event)
    await come(() => heard.stored.length === 3)
    box.stop()
    expect(order).to.deep.equal([1, 2, 3])
    expect(heard.stored).to.deep.equal([1, 2, 3])
    expect(box.waiting()).to.deep.equal([])
  })

  it('are kept when the server is not reached, and sent again as the same', async () => {
    const seen: string[] = []
    answers(({ client, sequence }) => {
      seen.push(`${client} ${sequence}`)
      if (seen.length === 1) throw new TypeError('fetch failed')
      return stored()
    })
    const first = opened()
    first.box.put(event)
    await settled()
    expect(first.box.waiting()).to.have.length(1)
    expect(first.heard.waiting.at(-1)).to.deep.equal([1, 0])
    first.box.stop()
    const second = opened()
    await settled()
    second.box.stop()
    expect(second.heard.stored).to.deep.equal([1])
    expect(seen[0]).to.equal(seen[1])
  })

  it('are taken out when the server refuses them for good, and the next goes on', async () => {
    answers(({ sequence }) =>
      sequence === 1
        ? new Response(JSON.stringify({ type: 'x', title: 'Refused', status: 409, detail: 'The run is closed.' }), {
            status: 409,
          })
        : stored(),
    )
    const { box, heard } = opened()
    box.put(event)
    box.put(event)
    await come(() => heard.stored.length === 1)
    box.stop()
    expect([heard.refused, heard.stored, box.waiting().length]).to.deep.equal([[1], [2], 0])
  })

  it('are tried again once in a while, however many were put while the server was away', async () => {
    let tries = 0
    answers(() => {
      tries += 1
      throw new TypeError('fetch failed')
    })
    const { box } = opened()
    for (let n = 0; n < 5; n++) {
      box.put(event)
      await settled(5)
    }
    const before = tries
    await settled(2400)
    box.stop()
    expect(tries - before).to.equal(1)
  })

  it('wait for a sign-in that ended', async () => {
    answers(
      () => new Response(JSON.stringify({ type: 'x', title: 'x', status: 401, detail: 'Sign in.' }), { status: 401 }),
    )
    const { box, heard } = opened()
    box.put(event)
    await settled()
    box.stop()
    expect(heard.refused).to.deep.equal([])
    expect(box.waiting()).to.have.length(1)
  })

  it('of two windows are numbered by each for itself, and none takes the other’s away', async () => {
    const seen: string[] = []
    let away = true
    answers(({ client, sequence }) => {
      if (away) throw new TypeError('fetch failed')
      seen.push(`${client} ${sequence}`)
      return stored()
    })
    const [one, other] = [opened(), opened()]
    one.box.put(event)
    other.box.put(event)
    one.box.put(event)
    await settled()
    expect([one.box.waiting().length, other.box.waiting().length, localStorage.length]).to.deep.equal([2, 1, 2])
    away = false
    one.box.stop()
    other.box.stop()
    const next = opened()
    await come(() => next.heard.stored.length === 3)
    next.box.stop()
    expect(next.heard.stored.toSorted()).to.deep.equal([1, 1, 2])
    expect(new Set(seen)).to.have.lengthOf(3)
    expect(localStorage).to.have.lengthOf(0)
  })

  it('that a closed window left come before those of the next one', async () => {
    const seen: string[] = []
    answers(() => {
      throw new TypeError('fetch failed')
    })
    const first = opened()
    first.box.put({ ...event, verdict: 'Passed' })
    await settled()
    first.box.stop()
    answers(async (body) => {
      await settled(10)
      seen.push(Object(body).verdict)
      return stored()
    })
    const second = opened()
    second.box.put({ ...event, verdict: 'Failed' })
    await come(() => second.heard.stored.length === 2)
    second.box.stop()
    expect(seen).to.deep.equal(['Passed', 'Failed'])
  })

  it('of a window that is open are left to it', async () => {
    answers(() => {
      throw new TypeError('fetch failed')
    })
    const open = opened()
    open.box.put(event)
    await settled()
    answers(stored)
    const other = opened()
    await settled()
    expect(other.heard.stored).to.deep.equal([])
    other.box.stop()
    open.box.stop()
  })

  it('are read from what an older page left, and from nothing where that is broken', async () => {
    const { word: _, ...older } = event
    const kept = { client: 'web-older', next: 8, waiting: [{ ...older, sequence: 7, at: 1 }] }
    localStorage.setItem(name, JSON.stringify(kept))
    answers(stored)
    const { box, heard } = opened()
    await settled()
    box.stop()
    expect(heard.stored).to.deep.equal([7])
    localStorage.setItem(name, '{broken')
    const again = opened()
    again.box.stop()
    expect(again.box.waiting()).to.deep.equal([])
    expect(recordStep.name).to.equal('recordStep')
  })
})
