import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { changeItems, dealItems, readRun, updateRun } from '#core/runs/contract.ts'
import { levelRun, moveOnDays, placeOnDays, readLine } from '#core/schedule/contract.ts'
import { acceptRows, createModel } from '#core/techniques/contract.ts'
import { setHolidays } from '#core/projects/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeProving, makeRun } from '#test/make.ts'
import { carrying } from '#test/screen/carrying.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the cut line of a run', () => {
  let own: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    own = shop()
    const keys = await makeProving(own.lead, 'Pay by card', 'Hold a place', 'Cancel late', 'Read it out')
    const before = await makeRun(own, keys)
    await execute(own, before.items[1]?.id ?? 0, 'Failed')
    await execute(own, before.items[2]?.id ?? 0, 'Passed')
    own.pass(minute)
    run = await makeRun(own, keys)
  })
  afterEach(() => closeScreen())
  const open = (who = 'lead', search = '') => pageOf(own, who, `runs/line?run=${run.key}${search}`)
  type Opened = Awaited<ReturnType<typeof open>>
  const line = (screen: Opened) => screen.findByLabelText('The line where the time ends', undefined, soon)
  const rows = (screen: Opened) => screen.getAllByRole('row').map((row) => row.textContent ?? '')
  const told = () => own.viewer.ask(readLine, { params: { ref: run.key } })
  const press = (key: string, more: object = {}) => fireEvent.keyDown(document.body, { key, ...more })

  it('shows items by worth with why, and the line where the hours end', async () => {
    const screen = await open('viewer')
    expect((await line(screen)).textContent).to.match(/Time ends here.*4 items/)
    const texts = screen.getAllByRole('gridcell').map((cell) => cell.textContent)
    expect(texts.indexOf('Hold a place')).to.be.below(texts.indexOf('Cancel late'))
    expect(texts).to.include('failed on 1.0.1').and.to.include('never executed')
    // Who may only look is offered nothing else.
    expect(screen.queryByText('Level over the team')).to.equal(null)
  })

  it('is moved by a key, stored, and put back from the notice', async () => {
    const screen = await open()
    await line(screen)
    press('ArrowUp', { shiftKey: true })
    await waitFor(async () => expect((await line(screen)).getAttribute('aria-valuenow')).to.equal('3'), soon)
    expect((await told()).drawn).to.equal(true)
    expect((await line(screen)).textContent).to.match(/below: 1, .*% of the risk/)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect((await told()).drawn).to.equal(false), soon)
  })

  it('follows the pointer with what stands above it, and is drawn where it is let go', async () => {
    const screen = await open()
    const bar = await line(screen)
    // Nothing is laid out here, so that the list and a pointer have a place only where they are given one.
    screen.getByRole('grid').getBoundingClientRect = () => new DOMRect(0, 0, 800, 600)
    const point = (type: string, clientY: number) =>
      fireEvent(bar, Object.assign(new Event(type, { bubbles: true }), { pointerId: 1, clientY }))
    point('pointerdown', 130)
    point('pointermove', 64)
    await waitFor(async () => expect((await line(screen)).textContent).to.match(/2 items/), soon)
    expect((await told()).drawn).to.equal(false)
    point('pointerup', 64)
    await waitFor(async () => expect((await told()).above).to.equal(2), soon)
  })

  it('takes typed hours, and says what is none', async () => {
    const screen = await open()
    const type = async (text: string) => {
      fireEvent.click(await screen.findByLabelText(/^Hours above the line: /, undefined, soon))
      const field = await screen.findByLabelText('Hours above the line', { selector: 'input' })
      fireEvent.change(field, { target: { value: text } })
      fireEvent.keyDown(field, { key: 'Enter' })
    }
    await type('soon')
    await screen.findByText(/“soon” is no number of hours/)
    await type('8 min')
    await waitFor(async () => expect((await told()).line).to.equal(8), soon)
    fireEvent.click(await screen.findByText(/^the team has /, undefined, soon))
    await waitFor(async () => expect((await told()).drawn).to.equal(false), soon)
  })

  it('leaves an item out by a key, says so at its row, and lets it in again', async () => {
    const screen = await open()
    await line(screen)
    press('o')
    await screen.findByText('left out by hand', undefined, soon)
    expect((await told()).above).to.equal(3)
    expect((await line(screen)).textContent).to.match(/choices by hand cost/)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(() => expect(screen.queryByText('left out by hand')).to.equal(null), soon)
  })

  it('tells by what the worth of an item multiplies out', async () => {
    const screen = await open()
    await line(screen)
    press('w')
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    const { leaves, worth, shares } = await told()
    const product = leaves[0]!.reduce((all, each) => all * each, 1)
    expect(dialog.getByText(product.toFixed(4), { selector: 'tfoot td' })).to.not.equal(null)
    expect(shares[0]! * (1 - product)).to.be.closeTo(worth[0]!, 1e-12)
  })

  it('tells how many drafting targets an item answers, and what of it others before it answer', async () => {
    const age = { type: 'integer' as const, partitions: [{ name: 'adult', from: 16, to: 64, valid: true }] }
    const model = { technique: 'boundaries' as const, body: { inputs: { age, bags: age }, values: 2 as const } }
    const { id } = await own.lead.ask(createModel, { params: { ref: 'RQ-1' }, body: { name: 'Fares', model } })
    const keys = (await told()).keys.slice(0, 2)
    for (const [at, into] of keys.entries()) {
      const rows = [{ row: { age: at === 0 ? '16' : '64', bags: '16' }, title: 'A fare', steps: [] }]
      await own.lead.ask(acceptRows, { params: { id }, body: { as: 'existing', rows, into, revision: 1 } })
    }
    const screen = await open()
    await line(screen)
    const { ids, worth, adds } = await told()
    const shared = ids.findIndex((_, row) => worth[row]! - adds[row]! > 0.01)
    fireEvent.click(screen.getAllByRole('row')[shared]!)
    press('w')
    const text = (await screen.findByRole('dialog', undefined, soon)).textContent ?? ''
    expect(text).to.match(/by 2 drafting targets/)
    expect(text).to.include(`of which ${adds[shared]!.toFixed(2)} is not answered by an item before it`)
  })

  it('plans nothing any more once the run has ended, and leads to composing another of what it left', async () => {
    const { version } = await own.lead.ask(readRun, { params: { ref: run.key } })
    const body = { state: 'Aborted' as const, reason: 'no time' }
    await own.lead.ask(updateRun, { params: { ref: run.key }, body, version })
    own.pass(60 * 24 * 30 * minute)
    const screen = await open()
    const link = await screen.findByText('Compose a run of what it left', undefined, soon)
    expect(link.getAttribute('href')).to.equal(`/p/${own.project().key}/runs/again?runs=${run.key}`)
    expect(screen.queryByText('Level over the team')).to.equal(null)
    expect((await line(screen)).getAttribute('aria-disabled')).to.equal('true')
  })

  it('gives the chosen items to a tester by key, and takes them off again', async () => {
    const screen = await open()
    await line(screen)
    press('g')
    const dialog = await screen.findByRole('dialog', undefined, soon)
    fireEvent.click(within(dialog).getByRole('button', { name: 'Give' }))
    await waitFor(async () => expect((await told()).places).to.have.length(1), soon)
    expect((await told()).places[0]?.pinned).to.equal(true)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect((await told()).places).to.deep.equal([]), soon)
  })

  it('shows what levelling would change before anything is stored, and puts it in force as a whole', async () => {
    const screen = await open()
    await line(screen)
    press('Enter', { ctrlKey: true })
    await screen.findByText(/above the line find a place/, undefined, soon)
    expect((await told()).places).to.deep.equal([])
    fireEvent.click(screen.getByText('Put it in force'))
    await waitFor(async () => expect((await told()).places).to.have.length(4), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect((await told()).places).to.deep.equal([]), soon)
  })

  it('works it out again where another lead was faster, and says so', async () => {
    const screen = await open()
    await line(screen)
    press('Enter', { ctrlKey: true })
    await screen.findByText(/4 new/, undefined, soon)
    const params = { ref: run.key }
    const theirs = await own.lead.ask(levelRun, { params, body: {} })
    await own.lead.ask(placeOnDays, { params, body: { ...theirs, places: theirs.places.slice(0, 1) } })
    fireEvent.click(screen.getByText('Put it in force'))
    await screen.findByText(/The run has changed since/, undefined, soon)
    await screen.findByText(/3 new/, undefined, soon)
    expect((await told()).places).to.have.length(1)
  })

  it('shows a day nobody works on as one without hours', async () => {
    const { days } = await told()
    await own.lead.ask(setHolidays, { body: { days: [{ day: days[0] ?? '', name: 'Harbour day' }] } })
    const screen = await open()
    await line(screen)
    const cells = within(screen.getByLabelText('Load per person and day')).getAllByRole('cell')
    expect(cells[0]?.textContent).to.match(/^no hours/)
    expect(rows(screen).length).to.be.above(0)
  })

  it('is drawn over a plan and over one’s own day, where nothing is stored by looking', async () => {
    const day = await pageOf(own, 'tester', 'runs/line?mine')
    await day.findByText(/Nothing is yours to do now/, undefined, soon)
    closeScreen()
    await own.lead.ask(dealItems, { params: { ref: run.key }, body: {} })
    const mine = await pageOf(own, 'tester', 'runs/line?mine')
    expect((await line(mine)).textContent).to.match(/Time ends here.*4 items/)
    press('ArrowUp', { shiftKey: true })
    await waitFor(async () => expect((await line(mine)).getAttribute('aria-valuenow')).to.equal('3'), soon)
    expect([(await told()).drawn, location.search.includes('minutes=')]).to.deep.equal([false, true])
  })

  it('names at its row what cannot be planned and what slipped, and leads to the next of them', async () => {
    const params = { ref: run.key }
    const last = (await told()).ids.at(-1) ?? 0
    await own.lead.ask(changeItems, { params, body: { ids: [last], set: { estimate: 900 } } })
    const screen = await open()
    await screen.findByText(/^1 item cannot be planned as it is/, undefined, soon)
    expect(rows(screen).find((text) => text.includes('longer than any day'))).to.match(/15 h/)
    fireEvent.click(screen.getByText('to the next of them'))
    await waitFor(() => {
      const row = screen.getAllByRole('row', { selected: true })[0]
      expect(row?.textContent).to.match(/longer than any day/)
    }, soon)
  })

  it('changes the team and what is kept for retests beside the days, with the hours following', async () => {
    const screen = await open()
    await line(screen)
    const before = (await told()).hours
    fireEvent.click(await screen.findByLabelText(/^Kept for retests: 0 %/, undefined, soon))
    const field = await screen.findByLabelText('Kept for retests', { selector: 'input' })
    fireEvent.change(field, { target: { value: '50' } })
    fireEvent.keyDown(field, { key: 'Enter' })
    await waitFor(async () => expect((await told()).hours).to.equal(before / 2), soon)
    fireEvent.click(await screen.findByText('as in the project', undefined, soon))
    await waitFor(async () => expect((await told()).hours).to.equal(before), soon)
    fireEvent.click(screen.getByText('choose testers'))
    fireEvent.click(await screen.findByLabelText('Second Person', undefined, soon))
    await waitFor(async () => expect((await told()).hands).to.have.length(2), soon)
  })

  it('moves an item from one day to another by dragging it out of the list of the first', async () => {
    const { ids, days, hands } = await told()
    const [first = '', second = ''] = days.filter((_, at) => (hands[0]?.minutes[at] ?? 0) > 0)
    await own.lead.ask(moveOnDays, {
      params: { ref: run.key },
      body: { ids: ids.slice(0, 1), to: { person: 'tester', day: first } },
    })
    const screen = await open()
    await line(screen)
    const cells = within(screen.getByLabelText('Load per person and day')).getAllByRole('cell')
    fireEvent.click(within(cells[days.indexOf(first)]!).getByRole('button'))
    const entry = (await screen.findByText(/min, pinned/, undefined, soon)).closest('li')!
    const dataTransfer = carrying()
    fireEvent.dragStart(entry, { dataTransfer })
    fireEvent.dragOver(cells[days.indexOf(second)]!, { dataTransfer })
    fireEvent.drop(cells[days.indexOf(second)]!, { dataTransfer })
    await waitFor(async () => expect((await told()).places.map(({ day }) => day)).to.deep.equal([second]), soon)
  })

  it('says what to do where no run is named, and what is wrong with one that is not there', async () => {
    const none = await pageOf(own, 'lead', 'runs/line')
    await none.findByText(/Open a run or a plan and choose “Cut line”/, undefined, soon)
    closeScreen()
    const gone = await pageOf(own, 'lead', 'runs/line?run=RN-99')
    expect((await gone.findByRole('alert', undefined, soon)).textContent).to.match(/RN-99/)
  })
})
