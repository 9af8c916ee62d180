import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listItems, readRun } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('a run is ended', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    const run = await makeRun(own, [await makeCase(own.lead, 'Pay'), await makeCase(own.lead, 'Hold')])
    await execute(own, run.items[0]?.id ?? 0, 'Passed')
  })
  afterEach(() => closeScreen())
  const run = (ref = 'RN-1') => own.lead.ask(readRun, { params: { ref } })
  const verdicts = async (ref = 'RN-1') =>
    (await own.lead.ask(listItems, { params: { ref } })).rows.map(({ case: key, verdict }) => `${key} ${verdict}`)
  const ending = async (state: 'Closed' | 'Aborted') => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const choice = await screen.findByLabelText('State', { selector: 'select' }, soon)
    fireEvent.change(choice, { target: { value: state } })
    return { screen, dialog: within(await screen.findByRole('dialog', undefined, soon)) }
  }
  const say = (dialog: ReturnType<typeof within>, reason: string) =>
    fireEvent.change(dialog.getByLabelText(/^For what reason/), { target: { value: reason } })

  it('early for a reason, without which it goes on', async () => {
    const { screen, dialog } = await ending('Aborted')
    expect(dialog.getByText('End it early').closest('button')?.disabled).to.equal(true)
    say(dialog, 'The build was withdrawn')
    fireEvent.click(dialog.getByText('End it early'))
    await waitFor(async () => expect((await run()).state).to.equal('Aborted'), soon)
    await screen.findByText('Ended early: The build was withdrawn', undefined, soon)
  })
  it('with what is left open as it is', async () => {
    const { dialog } = await ending('Closed')
    dialog.getByText('1 item not executed:')
    fireEvent.click(dialog.getByText('Close the run'))
    await waitFor(async () => expect((await run()).state).to.equal('Closed'), soon)
    expect(await verdicts()).to.deep.equal(['TC-1 Passed', 'TC-2 Not run'])
  })
  it('with what is left open skipped for a reason', async () => {
    const { dialog } = await ending('Closed')
    fireEvent.click(dialog.getByLabelText(/are skipped/))
    fireEvent.click(dialog.getByText('Close the run'))
    expect((await run()).state).to.equal('Open')
    say(dialog, 'Not in this release')
    fireEvent.click(dialog.getByText('Close the run'))
    await waitFor(async () => expect((await run()).state).to.equal('Closed'), soon)
    expect(await verdicts()).to.deep.equal(['TC-1 Passed', 'TC-2 Skipped'])
  })
  it('with what is left open carried over into another run', async () => {
    const { screen, dialog } = await ending('Closed')
    fireEvent.click(dialog.getByLabelText(/go into another run/))
    fireEvent.click(dialog.getByText('Open the other run'))
    const next = await screen.findByRole('dialog', { name: 'Open a run' }, soon)
    expect(within(next).getByLabelText('Title')).to.have.property('value', 'The run, what was left')
    expect((await run()).state).to.equal('Open')
    fireEvent.click(within(next).getByText('Open the run'))
    await waitFor(async () => expect((await run()).state).to.equal('Closed'), soon)
    expect(await verdicts('RN-2')).to.deep.equal(['TC-2 Not run'])
  })
  it('ticked items get one verdict, or go out of the run, each with the way back', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const row = (await screen.findByText('Hold', undefined, soon)).closest('[role=row]')
    fireEvent.click(within(row as HTMLElement).getByRole('checkbox'))
    fireEvent.click(await screen.findByText('give a verdict', undefined, soon))
    fireEvent.change(await screen.findByLabelText('For what reason?', { exact: false }), {
      target: { value: 'No bench' },
    })
    fireEvent.click(screen.getByText('Give it'))
    await screen.findByText('1 item Skipped.', undefined, soon)
    expect(await verdicts()).to.deep.equal(['TC-1 Passed', 'TC-2 Skipped'])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await verdicts()).to.deep.equal(['TC-1 Passed', 'TC-2 Not run']), soon)
    const again = (await screen.findByText('Hold', undefined, soon)).closest('[role=row]')
    const box = within(again as HTMLElement).getByRole<HTMLInputElement>('checkbox')
    if (!box.checked) fireEvent.click(box)
    fireEvent.click(await screen.findByText('take out', undefined, soon))
    await screen.findByText(/1 item taken out; attempts at 1 of them stay in history/, undefined, soon)
    expect(await verdicts()).to.deep.equal(['TC-1 Passed'])
  })
  it('ticked items go up and down the queue by Alt and the arrows, or to an end of it', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const rowOf = (title: string) => screen.getByText(title).closest('[role=row]') as HTMLElement
    const order = async () =>
      (await own.viewer.ask(listItems, { params: { ref: 'RN-1' } })).rows.map(({ title }) => title)
    await screen.findByText('Hold', undefined, soon)
    const [first, second] = await order()
    fireEvent.click(within(rowOf(second ?? '')).getByRole('checkbox'))
    await screen.findByText('give a verdict', undefined, soon)
    fireEvent.keyDown(document.body, { key: 'ArrowUp', altKey: true })
    await waitFor(async () => expect(await order()).to.deep.equal([second, first]), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await order()).to.deep.equal([first, second]), soon)
    fireEvent.change(await screen.findByLabelText('Move', undefined, soon), { target: { value: 'first' } })
    await waitFor(async () => expect(await order()).to.deep.equal([second, first]), soon)
  })
})
