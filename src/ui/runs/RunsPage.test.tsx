import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listItems, readRun } from '#core/runs/contract.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('runs', () => {
  let own: Shop
  let item: number
  beforeEach(async () => {
    own = shop()
    const run = await makeRun(own, [await makeCase(own.lead, 'Pay by card'), await makeCase(own.lead, 'Hold a place')])
    item = run.items[0]?.id ?? 0
  })
  afterEach(() => closeScreen())
  const run = () => own.lead.ask(readRun, { params: { ref: 'RN-1' } })
  const items = async () => (await own.lead.ask(listItems, { params: { ref: 'RN-1' } })).rows

  it('the list says what each has come to, and that none is open when none is', async () => {
    await execute(own, item, 'Passed')
    const screen = await pageOf(own, 'lead', 'runs')
    const row = (await screen.findByText('The run')).closest('[role=row]')
    expect(row?.textContent).to.include('50')
    expect(row?.textContent).to.include('1.0.1')
    expect(document.body.textContent).to.include('open ones first')
    expect(document.body.textContent).to.not.include('none is open')
  })

  it('deals what has nobody, and has nothing more to deal then', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('Deal 2 evenly'))
    await waitFor(
      async () =>
        expect((await items()).map(({ assignee }) => assignee)).to.deep.equal(['Tester Person', 'Tester Person']),
      soon,
    )
    const dealt = await screen.findByText('Deal 0 evenly', undefined, soon)
    expect(dealt.closest('button')).to.have.property('disabled', true)
  })

  it('is ended by its state, and offers no execution then', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const execution = (await screen.findByText('Execute')).closest('button')
    expect(execution?.disabled).to.equal(false)
    fireEvent.change(await screen.findByLabelText('State', { selector: 'select' }), { target: { value: 'Closed' } })
    fireEvent.click(await screen.findByText('Close the run', undefined, soon))
    await waitFor(async () => expect((await run()).state).to.equal('Closed'), soon)
    await waitFor(() => expect(screen.getByText('Execute').closest('button')?.disabled).to.equal(true), soon)
  })

  it('takes testers by ticking them, and tells what each has left', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('choose testers'))
    fireEvent.click(await screen.findByLabelText('Second Person', { selector: 'input' }))
    await waitFor(
      async () => expect((await run()).team.map(({ name }) => name)).to.deep.equal(['Second Person', 'Tester Person']),
      soon,
    )
    const side = within(screen.getByLabelText('The run'))
    await side.findByText('Second Person', { selector: 'td' }, soon)
  })

  it('starts new attempts on another build when that is chosen', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const build = await screen.findByLabelText('Build of the run', { selector: 'select' })
    fireEvent.change(build, { target: { value: String(own.builds[0]) } })
    await waitFor(async () => expect((await run()).build).to.equal('1.0.0'), soon)
  })

  it('tells what came of it so far, and as a whole', async () => {
    await execute(own, item, 'Failed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const side = await screen.findByLabelText('The run')
    expect(side.textContent).to.include('1 of 2')
    expect(side.textContent).to.match(/as a whole.*Failed/)
  })

  it('one who may only look changes nothing of a run', async () => {
    const screen = await pageOf(own, 'viewer', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('Deal 2 evenly'))
    await screen.findByText(/may only look|not allowed|role/i, undefined, soon)
    expect((await items()).every(({ assignee }) => assignee === null)).to.equal(true)
  })
})
