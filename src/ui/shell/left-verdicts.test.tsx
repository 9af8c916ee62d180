import { expect } from 'chai'
import { waitFor } from '@testing-library/react'
import { listItems } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { makeCase, makeRun, start } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('verdicts that a closed window left', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())

  /** What a window kept of one verdict when it was closed. */
  async function left(verdict: 'Passed' | 'Failed') {
    const run = await makeRun(own, [await makeCase(own.tester, 'Pay')])
    const attempt = await start(own, run.items[0]?.id ?? 0)
    const event = { kind: 'step', project: 'SHOP', attempt: attempt.id, row: 1, step: attempt.steps[0]?.id }
    const waiting = [{ ...event, verdict, word: null, sequence: 1, at: Date.now() }]
    localStorage.setItem(
      'rovant.outbox.tester.web-closed1',
      JSON.stringify({ client: 'web-closed1', next: 2, waiting, seen: 0 }),
    )
    return async () => (await own.tester.ask(listItems, { params: { ref: run.key } })).rows[0]?.verdict
  }

  it('are sent by whatever page is opened next, and told', async () => {
    const verdict = await left('Failed')
    const screen = await pageOf(own, 'tester', 'cases')
    await screen.findByText(/1 verdict from a closed window is stored now/, undefined, soon)
    expect(await verdict()).to.equal('Failed')
    await waitFor(() => expect(localStorage.getItem('rovant.outbox.tester.web-closed1')).to.equal(null), soon)
  })
  it('are nobody else’s to send', async () => {
    const verdict = await left('Failed')
    await pageOf(own, 'lead', 'cases')
    expect(await verdict()).to.equal('Not run')
    expect(localStorage.getItem('rovant.outbox.tester.web-closed1')).not.to.equal(null)
  })
})
