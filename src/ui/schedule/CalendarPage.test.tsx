import { expect } from 'chai'
import { act, fireEvent, waitFor, within } from '@testing-library/react'
import { readRun, updateRun } from '#core/runs/contract.ts'
import { listCalendarAddresses, readCalendar } from '#core/schedule/calendar-contract.ts'
import { moveOnDays } from '#core/schedule/contract.ts'
import { listInbox } from '#core/talk/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { makeProving, makeRun } from '#test/make.ts'
import { carrying } from '#test/screen/carrying.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the calendar page', () => {
  let own: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    own = shop()
    const keys = await makeProving(own.lead, 'Card', 'Cash', 'Voucher')
    run = await makeRun(own, keys, { people: ['tester', 'second'] })
    const ids = run.items.slice(0, 2).map(({ id }) => id)
    const to = { person: 'tester', day: '2026-11-24' }
    await own.lead.ask(moveOnDays, { params: { ref: run.key }, body: { ids, to } })
  })
  afterEach(() => closeScreen())
  const open = (who = 'lead', search = '?from=2026-11-23') => pageOf(own, who, `runs/calendar${search}`)
  type Opened = Awaited<ReturnType<typeof open>>
  const cell = (screen: Opened, name: RegExp) => screen.findByRole('gridcell', { name }, soon)
  const loads = async () =>
    (await own.viewer.ask(readCalendar, { query: { from: '2026-11-23' } })).loads.map(
      ({ person, day, items }) => `${person} ${day} ${items}`,
    )

  it('shows days of people with what is on them, and what of the runs is on nobody’s', async () => {
    const screen = await open('viewer')
    const day = await cell(screen, /^Tester P\., 24 Nov; 8 min of 4 h 48; RN-1: 2 items, 2 pinned$/)
    expect(day.textContent).to.match(/RN-1: 2/)
    expect(screen.getByText(/On nobody’s day yet/).textContent).to.match(/1 of 3 items of RN-1 The run/)
    // Weekends are no days of theirs.
    expect(screen.getByRole('gridcell', { name: /^Tester P\., 28 Nov; 0 min of 0 min$/ }).textContent).to.equal('')
  })

  it('moves a day by dragging it, tells the assigned, and takes it back', async () => {
    const screen = await open()
    const chip = within(await cell(screen, /^Tester P\., 24 Nov/)).getByRole('button')
    const target = await cell(screen, /^Second P\., 25 Nov/)
    const dataTransfer = carrying()
    fireEvent.dragStart(chip, { dataTransfer })
    fireEvent.dragOver(target, { dataTransfer })
    fireEvent.drop(target, { dataTransfer })
    await waitFor(async () => expect(await loads()).to.deep.equal(['second 2026-11-25 2']), soon)
    const { rows } = await own.as('second').ask(listInbox)
    expect(rows[0]?.text).to.equal('put 2 items of The run on your days: 2026-11-25')
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await loads()).to.deep.equal(['tester 2026-11-24 2']), soon)
  })

  it('moves it by key as well: picked up, carried by arrows, put down, or left where it was', async () => {
    const screen = await open()
    const from = await cell(screen, /^Tester P\., 24 Nov/)
    const grid = screen.getByRole('grid', { name: 'Days of people' })
    const press = (key: string) => fireEvent.keyDown(document.activeElement ?? grid, { key })
    act(() => from.focus())
    press('m')
    await screen.findByText(/^Carrying 2 items of 24 Nov/, undefined, soon)
    press('Escape')
    await waitFor(() => expect(screen.queryByText(/^Carrying/)).to.equal(null), soon)
    press('m')
    await screen.findByText(/^Carrying/, undefined, soon)
    press('ArrowRight')
    press('ArrowRight')
    press('m')
    await waitFor(async () => expect(await loads()).to.deep.equal(['tester 2026-11-26 2']), soon)
  })

  it('says why a day cannot be put there, and leaves it', async () => {
    const screen = await open('lead', '?from=2026-11-30')
    await cell(screen, /^Tester P\., 1 Dec/)
    closeScreen()
    const here = await open()
    const chip = within(await cell(here, /^Tester P\., 24 Nov/)).getByRole('button')
    const dataTransfer = carrying()
    fireEvent.dragStart(chip, { dataTransfer })
    fireEvent.drop(await cell(here, /^Tester P\., 2 Dec/), { dataTransfer })
    await here.findByText(/2026-12-02 is none of the days of RN-1/, undefined, soon)
    expect(await loads()).to.deep.equal(['tester 2026-11-24 2'])
  })

  it('opens a day with its items in order; one of them is picked up by itself, or taken off', async () => {
    const screen = await open()
    const from = await cell(screen, /^Tester P\., 24 Nov/)
    act(() => from.focus())
    fireEvent.keyDown(from, { key: 'Enter' })
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    expect((await dialog.findAllByRole('listitem', undefined, soon)).map((each) => each.textContent)).to.have.length(2)
    fireEvent.click(dialog.getAllByText('take off')[0]!)
    await waitFor(async () => expect(await loads()).to.deep.equal(['tester 2026-11-24 1']), soon)
    fireEvent.click((await dialog.findAllByText('pick up', undefined, soon))[0]!)
    await screen.findByText(/^Carrying TC-/, undefined, soon)
    const next = await cell(screen, /^Tester P\., 25 Nov/)
    act(() => next.focus())
    fireEvent.keyDown(next, { key: 'm' })
    await waitFor(async () => expect(await loads()).to.deep.equal(['tester 2026-11-25 1']), soon)
  })

  it('shows weeks of runs, moved by keys with a way back', async () => {
    const screen = await open('lead', '?by=weeks&from=2026-11-23')
    const bar = await screen.findByRole('slider', { name: /^RN-1 The run, 3 items left of 3/ }, soon)
    const days = async () => {
      const { startOn, endOn } = await own.viewer.ask(readRun, { params: { ref: run.key } })
      return [startOn, endOn]
    }
    fireEvent.keyDown(bar, { key: 'ArrowRight', shiftKey: true })
    await waitFor(async () => expect(await days()).to.deep.equal(['2026-11-23', '2026-12-01']), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await days()).to.deep.equal(['2026-11-23', '2026-11-30']), soon)
    const again = await screen.findByRole('slider', { name: /^RN-1/ }, soon)
    fireEvent.keyDown(again, { key: 'ArrowRight' })
    await waitFor(async () => expect(await days()).to.deep.equal(['2026-11-24', '2026-12-01']), soon)
  })

  it('moves the last day of a run by dragging its end', async () => {
    const screen = await open('lead', '?by=weeks&from=2026-11-23')
    const bar = await screen.findByRole('slider', { name: /^RN-1/ }, soon)
    const end = within(bar).getByTitle('Drag to change the last day')
    end.setPointerCapture = () => undefined
    bar.closest('[role="cell"]')!.getBoundingClientRect = () => new DOMRect(0, 0, 560, 40)
    const point = (type: string, clientX: number) =>
      fireEvent(end, Object.assign(new Event(type, { bubbles: true }), { pointerId: 1, clientX }))
    point('pointerdown', 80)
    point('pointermove', 111)
    point('pointerup', 111)
    await waitFor(
      async () => expect((await own.viewer.ask(readRun, { params: { ref: run.key } })).endOn).to.equal('2026-12-03'),
      soon,
    )
  })

  it('offers nothing to move to who may only look', async () => {
    await own.lead.ask(updateRun, { params: { ref: run.key }, body: { title: 'The run' }, version: 1 })
    const screen = await open('tester', '?by=weeks&from=2026-11-23')
    await screen.findByRole('img', { name: /^RN-1 The run/ }, soon)
    closeScreen()
    const days = await open('tester')
    const chip = within(await cell(days, /^Tester P\., 24 Nov/)).getByRole('button')
    expect(chip.getAttribute('draggable')).to.equal('false')
  })

  it('makes an address for a calendar program, tells it once, and revokes it', async () => {
    const screen = await open('tester')
    fireEvent.click(await screen.findByText('Calendar address', undefined, soon))
    fireEvent.click(await screen.findByText('Make an address', undefined, soon))
    const told = await screen.findByLabelText('Calendar address', { selector: 'output' }, soon)
    expect(told.textContent).to.match(/\/api\/v1\/calendar\.ics\?of=rvc_/)
    fireEvent.click(await screen.findByText('revoke', undefined, soon))
    await screen.findByText(/^Revoked: nothing is read/, undefined, soon)
    expect((await own.tester.ask(listCalendarAddresses)).rows).to.deep.equal([])
    expect(screen.queryByLabelText('Calendar address', { selector: 'output' })).to.equal(null)
  })
})
