import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { addOutage, listEnvironments } from '#core/projects/environments-contract.ts'
import { listInstalled, sayInstalled } from '#core/projects/installed-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('what is installed, in the set-up', () => {
  let own: Shop
  let red: number
  beforeEach(async () => {
    own = shop()
    ;[red] = own.environments
    const run = await makeRun(own, [await makeCase(own.lead, 'Adult pays')])
    own.pass(minute)
    await execute(own, run.items[0]?.id ?? 0, 'Passed')
    own.pass(minute)
  })
  afterEach(() => closeScreen())
  const rows = async () => (await own.lead.ask(listInstalled)).rows
  const set = (at: HTMLElement, value: string) => fireEvent.change(at, { target: { value } })

  it('is said with what that moves told before, and given back', async () => {
    const screen = await pageOf(own, 'tester', 'set-up/environments')
    fireEvent.click(await screen.findByText('what stands on Red', { exact: false }, soon))
    const dialog = await screen.findByRole('dialog', { name: 'Installed on Red' })
    set(within(dialog).getByLabelText('Build'), String(own.builds[0]))
    set(within(dialog).getByLabelText('Since'), '2026-11-23T08:00')
    await within(dialog).findByText('Store, and move 1 attempt', undefined, soon)
    fireEvent.click(within(dialog).getByText('which'))
    await within(dialog).findByText(/1\.0\.1 → 1\.0\.0/, undefined, soon)
    expect(await rows()).to.deep.equal([])
    fireEvent.click(within(dialog).getByText('Store, and move 1 attempt'))
    await screen.findByText(/It is said what stands on Red\. 1 attempt went with it\./, undefined, soon)
    expect((await rows()).map(({ build, attempts }) => [build?.name, attempts])).to.deep.equal([['1.0.0', 1]])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await rows()).to.deep.equal([]), soon)
  })
  it('is corrected and taken back; what is refused is said, and stays in the dialog', async () => {
    const fromAt = own.now() - 2 * minute
    await own.tester.ask(sayInstalled, { body: { environment: red, build: own.builds[0], fromAt } })
    await own.tester.ask(sayInstalled, {
      body: { environment: red, build: own.builds[1], fromAt: fromAt - 60 * minute },
    })
    const screen = await pageOf(own, 'tester', 'set-up/environments')
    const list = await screen.findByRole('region', { name: 'Installed' }, soon)
    fireEvent.click(within(list).getAllByText(/^correct…/)[0]!)
    const dialog = await screen.findByRole('dialog', { name: 'Correct what stood on Red' })
    set(within(dialog).getByLabelText('Build'), '')
    await within(dialog).findByText('Store, and move 1 attempt', undefined, soon)
    fireEvent.click(within(dialog).getByText('Store, and move 1 attempt'))
    await screen.findByText(/It is corrected\. 1 attempt went with it\./, undefined, soon)
    expect((await rows())[0]?.build).to.equal(null)
    fireEvent.click(within(list).getAllByText(/^take back/)[0]!)
    await screen.findByText(/It is taken back\./, undefined, soon)
    expect((await rows()).map(({ build }) => build?.name)).to.deep.equal(['1.0.1'])
    fireEvent.click(within(list).getAllByText(/^correct…/)[0]!)
    const again = await screen.findByRole('dialog', { name: 'Correct what stood on Red' })
    set(within(again).getByLabelText('Since'), '2031-01-01T08:00')
    await within(again).findByText(/is still to come; nothing was stored/, undefined, soon)
    expect(within(again).getByLabelText('Since')).to.have.property('value', '2031-01-01T08:00')
  })
  it('doubts what was executed in an outage in one act, and believes it again', async () => {
    await own.tester.ask(addOutage, {
      body: { environment: red, fromAt: own.now() - 5 * minute, untilAt: own.now(), reason: 'Mast down' },
    })
    const doubted = async () =>
      (await own.lead.ask(listEnvironments)).rows.flatMap(({ outages }) => outages.map((each) => each.doubted))
    const screen = await pageOf(own, 'lead', 'set-up/environments')
    fireEvent.click(await screen.findByText(/^doubt them/, undefined, soon))
    await screen.findByText('1 attempt doubted: kept, and no longer current.', undefined, soon)
    expect(await doubted()).to.deep.equal([1])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await doubted()).to.deep.equal([0]), soon)
    closeScreen()
    const read = await pageOf(own, 'viewer', 'set-up/environments')
    await read.findByText('Mast down', { exact: false }, soon)
    expect(read.queryByText(/^doubt them/)).to.equal(null)
    expect(read.queryByText(/^installed…/)).to.equal(null)
  })
})
