import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { pinCases } from '#core/plans/suite-contract.ts'
import { dropItems } from '#core/runs/compose-contract.ts'
import { createRun, listRuns, readRun } from '#core/runs/contract.ts'
import { noticeMembers } from '#server/plans/keep-members.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRun, makeSuite } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the shape of runs', () => {
  let own: Shop
  let keys: string[]
  beforeEach(async () => {
    own = shop()
    localStorage.clear()
    keys = [await makeCase(own.lead, 'Adult', { steps: ['Do'] }), await makeCase(own.lead, 'Child', { steps: ['Do'] })]
  })
  afterEach(() => closeScreen())
  const runs = async () =>
    (await own.viewer.ask(listRuns)).rows.map(({ key, state, items }) => `${key} ${state} ${items}`).sort()
  const becomes = (wanted: readonly string[]) => waitFor(async () => expect(await runs()).to.deep.equal(wanted), soon)

  it('a run is split, given back, takes another in and gives it back', async () => {
    const run = await makeRun(own, keys, { environments: own.environments })
    const screen = await pageOf(own, 'lead', `${run.key}?full=yes`)
    fireEvent.change(await screen.findByLabelText('Split by', undefined, soon), { target: { value: 'environment' } })
    await becomes(['RN-1 Open 2', 'RN-2 Open 2'])
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await becomes(['RN-1 Open 4'])
    const other = await makeRun(own, keys, { environments: [own.environments[0]] })
    closeScreen()
    const again = await pageOf(own, 'lead', `${other.key}?full=yes`)
    fireEvent.change(await again.findByLabelText('Take in', undefined, soon), { target: { value: run.key } })
    await again.findByText(/2 items in both stay in RN-1/, undefined, soon)
    await becomes(['RN-1 Closed 2', 'RN-3 Open 4'])
    fireEvent.click(await again.findByText('Undo', undefined, soon))
    await becomes(['RN-1 Open 4', 'RN-3 Open 2'])
  })
  it('a run is copied with all its items, and deleted with what stays named', async () => {
    const run = await makeRun(own, keys)
    await execute(own, run.items[0]?.id ?? 0, 'Passed')
    const screen = await pageOf(own, 'lead', `${run.key}?full=yes`)
    fireEvent.click(await screen.findByText('copy', undefined, soon))
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    expect(dialog.getByLabelText<HTMLInputElement>('Title').value).to.equal('The run, again')
    fireEvent.click(dialog.getByText('Open the run'))
    await becomes(['RN-1 Open 2', 'RN-2 Open 2'])
    fireEvent.click(dialog.queryByLabelText('Close') ?? document.body)
    fireEvent.click(await screen.findByText('delete', undefined, soon))
    expect(await screen.findByText(/1 attempt stays in history/, undefined, soon)).to.not.equal(null)
    fireEvent.click(screen.getByText('Delete RN-1'))
    await becomes(['RN-2 Open 2'])
  })
  it('what came into its suites is put in, and what was taken out is listed with its reason and brought back', async () => {
    const suite = await makeSuite(own.lead, 'Fares', ['TC-1'])
    await noticeMembers(own.services, own.project().id, 0)
    own.pass(minute)
    await own.lead.ask(createRun, {
      body: {
        title: 'The run',
        build: own.builds[1],
        suites: [suite.id],
        environments: [own.environments[0]],
        startOn: '2026-11-23',
        endOn: '2026-11-30',
      },
    })
    own.pass(minute)
    await own.lead.ask(pinCases, { params: { ref: suite.key }, body: { add: ['TC-2'] } })
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('1 came into its suites since', undefined, soon))
    fireEvent.click(await screen.findByText('put them all in', undefined, soon))
    await becomes(['RN-1 Open 2'])
    await own.lead.ask(dropItems, { params: { ref: 'RN-1' }, body: { ids: [1], reason: 'The bench is away' } })
    closeScreen()
    const again = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await again.findByText('1 taken out', undefined, soon))
    expect(await again.findByText(/^The bench is away,/, undefined, soon)).to.not.equal(null)
    fireEvent.click(again.getByText(/^bring it back/))
    await becomes(['RN-1 Open 2'])
  })
  it('several are closed for a reason and opened again, ended early only with one, and deleted', async () => {
    await makeRun(own, keys)
    await makeRun(own, keys)
    const screen = await pageOf(own, 'lead', 'runs')
    await screen.findAllByText(/The run/, undefined, soon)
    const tickAll = () => fireEvent.click(screen.getAllByRole('checkbox')[0]!)
    tickAll()
    fireEvent.click(await screen.findByText('close', undefined, soon))
    fireEvent.change(await screen.findByLabelText(/For what reason/, undefined, soon), { target: { value: 'Winter' } })
    fireEvent.click(screen.getByText('Close 2 runs'))
    await becomes(['RN-1 Closed 2', 'RN-2 Closed 2'])
    expect((await own.viewer.ask(readRun, { params: { ref: 'RN-1' } })).endedReason).to.equal('Winter')
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await becomes(['RN-1 Open 2', 'RN-2 Open 2'])
    tickAll()
    fireEvent.click(await screen.findByText('end early', undefined, soon))
    expect(await screen.findByText('End 2 runs early', undefined, soon)).to.have.property('disabled', true)
    fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' })
    fireEvent.click(await screen.findByText('delete', undefined, soon))
    fireEvent.click(await screen.findByText('Delete 2 runs', undefined, soon))
    await becomes([])
  })
})
