import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { updateCase } from '#core/cases/contract.ts'
import { timeAttempt } from '#core/runs/note-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the page of minutes', () => {
  let own: Shop
  let key: string
  beforeEach(async () => {
    own = shop()
    key = await makeCase(own.lead, 'Pay by card', { steps: ['One'] })
    const { items } = await makeRun(own, [key])
    for (const minutes of [20, 22, 21]) {
      const { id } = await execute(own, items[0]?.id ?? 0, 'Passed')
      await own.tester.ask(timeAttempt, { params: { id }, body: { minutes } })
      own.pass(minute)
    }
    const { version } = await caseOf(own.lead, key)
    await own.lead.ask(updateCase, { params: { ref: key }, body: { estimate: 60 }, version })
  })
  afterEach(() => closeScreen())
  const given = async () => (await caseOf(own.lead, key)).estimate

  it('gives ticked cases what was learned, and takes it back from the notice', async () => {
    const screen = await pageOf(own, 'lead', 'runs/minutes')
    fireEvent.click(await screen.findByLabelText(`Tick ${key}`, undefined, soon))
    fireEvent.click(screen.getByText(/^Take what was learned/))
    await waitFor(async () => expect(await given()).to.equal(21), soon)
    await screen.findByText('Nothing given is far off what attempts take.', undefined, soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await given()).to.equal(60), soon)
  })

  it('only shows to whoever may not write cases', async () => {
    const screen = await pageOf(own, 'viewer', 'runs/minutes')
    await screen.findByText('60 min', undefined, soon)
    expect(screen.queryByText(/^Take what was learned/)).to.equal(null)
  })

  it('tells where the time went, by what is chosen', async () => {
    const screen = await pageOf(own, 'tester', 'runs/minutes')
    await screen.findByText('Red', { exact: false, selector: 'aside th' }, soon)
    fireEvent.change(screen.getByLabelText('Spent by'), { target: { value: 'me' } })
    await screen.findByText(`${key} Pay by card`, { exact: false, selector: 'aside th' }, soon)
  })
})
