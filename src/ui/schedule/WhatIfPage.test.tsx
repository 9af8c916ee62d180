import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readRun, updateRun } from '#core/runs/contract.ts'
import { readLine } from '#core/schedule/contract.ts'
import { createWhatIf, listWhatIfs, noChanges } from '#core/schedule/what-if-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { makeProving, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('what if, beside the present of a run', () => {
  let own: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    own = shop()
    const keys = await makeProving(own.lead, 'Card', 'Cash')
    run = await makeRun(own, keys, { environments: own.environments })
  })
  afterEach(() => closeScreen())
  const params = () => ({ ref: run.key })
  const open = (who = 'lead') => pageOf(own, who, `runs/what-if?run=${run.key}`)
  type Opened = Awaited<ReturnType<typeof open>>
  const kept = async () => (await own.viewer.ask(listWhatIfs, { params: params() })).rows
  const column = async (screen: Opened, name: string) => within(await screen.findByRole('region', { name }, soon))

  it('keeps what is asked for most in one act, with what becomes better and worse told apart in words', async () => {
    const screen = await open()
    fireEvent.click(await screen.findByText('one more tester', undefined, soon))
    const way = await column(screen, 'One tester more')
    await way.findByText(/▲ 28 h 48, better|▲ 28 h 48/, undefined, soon)
    expect((await kept()).map(({ name, changes }) => [name, changes.more])).to.deep.equal([['One tester more', 1]])
    fireEvent.click(screen.getByText('two working days more'))
    await column(screen, 'Until 2 Dec')
    const [blue] = [own.environments[1]]
    fireEvent.change(screen.getByLabelText('Without an environment'), { target: { value: String(blue) } })
    const without = await column(screen, 'Without Blue')
    expect((await without.findByText(/2 of 4 items/, undefined, soon)).parentElement?.textContent).to.match(
      /▼ 2, worse/,
    )
    // The run is as it was.
    expect((await own.viewer.ask(readRun, { params: params() })).endOn).to.equal('2026-11-30')
  })

  it('is changed in its column, follows its changes by name until it is given one, and is dropped with a way back', async () => {
    const screen = await open()
    fireEvent.click(await screen.findByText('something else', undefined, soon))
    await column(screen, 'Something else')
    fireEvent.change(screen.getByLabelText('Last day, Something else'), { target: { value: '2026-12-01' } })
    const way = await column(screen, 'Until 1 Dec')
    fireEvent.click(way.getByLabelText(/^Name: Until 1 Dec/))
    const field = way.getByLabelText('Name', { selector: 'input' })
    fireEvent.change(field, { target: { value: 'A day more' } })
    fireEvent.keyDown(field, { key: 'Enter' })
    const named = await column(screen, 'A day more')
    fireEvent.change(named.getByLabelText('Who joins, A day more'), { target: { value: 'second' } })
    await named.findByText(/\+ Second P\./, undefined, soon)
    expect((await kept())[0]).to.deep.include({
      name: 'A day more',
      changes: { ...noChanges, endOn: '2026-12-01', join: ['second'] },
    })
    fireEvent.click(named.getByText('Drop'))
    await waitFor(async () => expect(await kept()).to.deep.equal([]), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await kept()).to.have.length(1), soon)
  })

  it('is put in force as a whole, and taken back from the notice', async () => {
    const screen = await open()
    fireEvent.change(await screen.findByLabelText('Without an environment', undefined, soon), {
      target: { value: String(own.environments[1]) },
    })
    const way = await column(screen, 'Without Blue')
    fireEvent.click(way.getByText('Put in force'))
    const held = async () =>
      (await own.viewer.ask(readLine, { params: params() })).held.filter((side) => side === 'below').length
    await waitFor(async () => expect(await held()).to.equal(2), soon)
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Without Blue' })).to.equal(null), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect([await held(), (await kept()).length]).to.deep.equal([0, 1]), soon)
  })

  it('says why it cannot be put in force, and changes nothing then', async () => {
    const screen = await open()
    fireEvent.click(await screen.findByText('one more tester', undefined, soon))
    const way = await column(screen, 'One tester more')
    fireEvent.click(way.getByText('Put in force'))
    await screen.findByText(/has a tester nobody has named; choose who joins/, undefined, soon)
    expect(await kept()).to.have.length(1)
    fireEvent.click(way.getByText('×'))
    await waitFor(async () => expect((await kept())[0]?.changes.more).to.equal(0), soon)
  })

  it('is only looked at by who may not lead, and by all once the run has ended', async () => {
    const body = { name: 'By hand', changes: { ...noChanges, reservePercent: 20 } }
    await own.lead.ask(createWhatIf, { params: params(), body })
    const screen = await open('viewer')
    const way = await column(screen, 'By hand')
    await way.findByText('20 %', undefined, soon)
    expect([screen.queryByText('Put in force'), screen.queryByText('one more tester')]).to.deep.equal([null, null])
    closeScreen()
    const { version } = await own.lead.ask(readRun, { params: params() })
    await own.lead.ask(updateRun, { params: params(), body: { state: 'Aborted', reason: 'no time' }, version })
    const ended = await open()
    await column(ended, 'By hand')
    await ended.findByText(/is aborted: nothing is planned in it any more/, undefined, soon)
    expect(ended.queryByText('Put in force')).to.equal(null)
  })

  it('says what is wrong where there is no such run', async () => {
    const gone = await pageOf(own, 'lead', 'runs/what-if?run=RN-99')
    expect((await gone.findByRole('alert', undefined, soon)).textContent).to.match(/RN-99/)
  })
})
