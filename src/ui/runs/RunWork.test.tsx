import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { createDefect, updateDefect } from '#core/defects/contract.ts'
import { changeItems, listItems, listRuns, readRun } from '#core/runs/contract.ts'
import { listAttempts } from '#core/runs/attempts-contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { waitFor as waitsFor } from '#core/runs/waits-contract.ts'
import { cutVersion } from '#core/cases/contract.ts'
import { execute, makeCase, makeDealtRun, makeRun, makeSuite, start } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, tickRows } from '#test/screen/screen.tsx'
import type { Shown } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('a run at work', () => {
  let own: Shop
  let ids: number[]
  const params = { ref: 'RN-1' }
  const rows = async () => (await own.lead.ask(listItems, { params })).rows
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Hold a place', 'Board']) await makeCase(own.lead, title)
    ids = (await makeDealtRun(own, ['TC-1', 'TC-2', 'TC-3'])).items.map(({ id }) => id)
  })
  afterEach(() => closeScreen())

  it('opens an item beside the list with what is known of it, and closes it again', async () => {
    await execute(own, ids[0] ?? 0, 'Failed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('Pay by card'))
    const beside = within(await screen.findByLabelText('The item', undefined, soon))
    await beside.findByText('1.0.1', { selector: 'a' }, soon)
    expect(beside.getByText('its last attempt')).to.have.property('tagName', 'A')
    expect(location.search).to.include(`item=${ids[0]}`)
    await screen.user.keyboard('{Escape}')
    await screen.findByLabelText('The run', undefined, soon)
  })
  it('says what items wait for, refuses in a sentence what is none, and takes it back', async () => {
    await own.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    await tickRows(screen, 'Pay by card', 'Hold a place')
    fireEvent.click(await screen.findByText('wait for', { selector: 'button' }))
    const what = await screen.findByLabelText('What for?', undefined, soon)
    fireEvent.change(what, { target: { value: 'soon' } })
    fireEvent.submit(what.closest('form') ?? what)
    await screen.findByText(/neither a defect \(DF-12\) nor a case/, undefined, soon)
    fireEvent.change(what, { target: { value: 'df-1' } })
    fireEvent.submit(what.closest('form') ?? what)
    await screen.findByText(/2 items wait for DF-1/, undefined, soon)
    await waitFor(() => expect(screen.getAllByText(/· waits for DF-1/)).to.have.length(2), soon)
    fireEvent.click(screen.getByText('undo', { exact: false, selector: 'button' }))
    await waitFor(async () => expect((await rows()).flatMap(({ waits }) => waits)).to.deep.equal([]), soon)
  })
  it('leads past what waits at the desk, and back to it when it is freed', async () => {
    await own.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    await own.lead.ask(waitsFor, { params, body: { ids: [ids[1] ?? 0], for: 'DF-1' } })
    const screen = await pageOf(own, 'tester', `desk/${ids[0]}`)
    const queue = (await screen.findByText('then', undefined, soon)).closest('footer')
    await waitFor(() => expect(queue?.textContent).to.match(/Board.*Hold a place waiting/), soon)
    await own.lead.ask(updateDefect, {
      params: { ref: 'DF-1' },
      body: { state: 'Ready to retest', fixedInId: own.builds[1] },
      version: 1,
    })
    const desk = await own.tester.ask(readDesk, { params: { id: ids[0] ?? 0 } })
    expect(desk.queue.map(({ waits }) => waits)).to.deep.equal([null, 'freed', null])
  })
  it('puts cases into quarantine with a reason, and lets them out', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    await tickRows(screen, 'Board')
    fireEvent.click(await screen.findByText('quarantine', { selector: 'button' }))
    const why = await screen.findByLabelText('Why?', undefined, soon)
    fireEvent.change(why, { target: { value: 'The rig flickers' } })
    fireEvent.submit(why.closest('form') ?? why)
    await screen.findByText(/in quarantine: The rig flickers/, undefined, soon)
    fireEvent.click(screen.getByText('undo', { exact: false, selector: 'button' }))
    await waitFor(
      async () => expect((await rows()).every(({ quarantine }) => quarantine === null)).to.equal(true),
      soon,
    )
  })
  it('shares minutes out over many verdicts', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    await tickRows(screen, 'Pay by card', 'Hold a place')
    fireEvent.click(await screen.findByText('give a verdict', { selector: 'button' }))
    fireEvent.change(await screen.findByLabelText('For what reason?', undefined, soon), { target: { value: 'Seen' } })
    fireEvent.change(screen.getByLabelText('Minutes for all of them'), { target: { value: '5' } })
    fireEvent.click(screen.getByText('Give it'))
    await waitFor(async () => {
      const made = (await own.lead.ask(listAttempts)).rows
      expect(made.map(({ seconds, timing }) => [seconds, timing])).to.deep.equal([
        [150, 'shared'],
        [150, 'shared'],
      ])
    }, soon)
  })
  it('hands over what somebody has left', async () => {
    await execute(own, ids[0] ?? 0, 'Passed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.change(await screen.findByLabelText('Hand over what Tester Person has left', { selector: 'select' }), {
      target: { value: 'second' },
    })
    await waitFor(
      async () =>
        expect((await rows()).map(({ assigneeId }) => assigneeId)).to.deep.equal(['tester', 'second', 'second']),
      soon,
    )
  })
  it('takes the time of an attempt as somebody types it', async () => {
    const attempt = await start(own, ids[0] ?? 0)
    const screen = await pageOf(own, 'tester', `desk/${ids[0]}`)
    fireEvent.click((await screen.findByLabelText('Time spent', undefined, soon)).closest('button') ?? document.body)
    const minutes = await screen.findByLabelText('Minutes it took', undefined, soon)
    fireEvent.change(minutes, { target: { value: '12' } })
    fireEvent.submit(minutes.closest('form') ?? minutes)
    await screen.findByText('12:00 (typed by hand)', undefined, soon)
    const { rows: made } = await own.lead.ask(listAttempts)
    expect(made.map(({ id, seconds }) => [id, seconds])).to.deep.equal([[attempt.id, 720]])
  })
  it('tells who is at work, and what came of it by parts that filter', async () => {
    await start(own, ids[1] ?? 0)
    await execute(own, ids[0] ?? 0, 'Failed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const side = within(await screen.findByLabelText('The run'))
    await side.findByText('At work', undefined, soon)
    fireEvent.click(side.getByText('Failed', { selector: 'button' }))
    await waitFor(() => expect(location.search).to.include('verdict'), soon)
    await screen.findByText('show all', undefined, soon)
    fireEvent.click(screen.getByText('show all'))
    await waitFor(() => expect(location.search).to.not.include('verdict'), soon)
  })
  /** What the browser carries while something is dragged. */
  const dragging = () => {
    const held = new Map<string, string>()
    return {
      get types() {
        return [...held.keys()]
      },
      setData: (type: string, text: string) => void held.set(type, text),
      getData: (type: string) => held.get(type) ?? '',
      setDragImage: () => undefined,
    }
  }
  it('takes cases from a list beside it, by a click, by dragging, and a whole suite', async () => {
    for (const title of ['Weather', 'Queue', 'Deck']) await makeCase(own.lead, title)
    await makeSuite(own.lead, 'On deck', ['TC-6'])
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes&add=yes')
    const beside = within(await screen.findByLabelText('Cases to add', undefined, soon))
    fireEvent.click(await beside.findByLabelText('Put TC-4 in', undefined, soon))
    await waitFor(async () => expect((await rows()).map((row) => row.case)).to.include('TC-4'), soon)
    const dataTransfer = dragging()
    fireEvent.dragStart((await beside.findByText('Queue')).closest('li') ?? document.body, { dataTransfer })
    const list = screen.getByLabelText('Items')
    fireEvent.dragOver(list, { dataTransfer })
    fireEvent.drop(list, { dataTransfer })
    await waitFor(async () => expect((await rows()).map((row) => row.case)).to.include('TC-5'), soon)
    fireEvent.change(await beside.findByLabelText('A whole suite', { selector: 'select' }, soon), {
      target: { value: 'TS-1' },
    })
    await waitFor(async () => expect((await rows()).map((row) => row.case)).to.include('TC-6'), soon)
    await screen.findAllByText(/1 item put in, behind what is there/, undefined, soon)
  })
  it('puts items into another order by dragging one before another', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    const rowOf = async (title: string) => (await screen.findByText(title)).closest('[role=row]') ?? document.body
    const dataTransfer = dragging()
    fireEvent.dragStart(await rowOf('Board'), { dataTransfer })
    fireEvent.dragOver(await rowOf('Pay by card'), { dataTransfer })
    fireEvent.drop(await rowOf('Pay by card'), { dataTransfer })
    await waitFor(
      async () => expect((await rows()).map((row) => row.case)).to.deep.equal(['TC-3', 'TC-1', 'TC-2']),
      soon,
    )
  })
  it('shows what a file that comes back makes before it is stored, and stores it as what somebody executed', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(await screen.findByText('bring back', { selector: 'button' }))
    await own.lead.ask(cutVersion, { params: { ref: 'TC-1' }, body: { why: 'goes out' } })
    const file = new File(
      [`Item,Version,Verdict,What happened\nRN-1/${ids[0]},v0.1,Failed,It beeps\nRN-1/${ids[1]},v9.9,Passed,`],
      'back.csv',
      {
        type: 'text/csv',
      },
    )
    fireEvent.change(await screen.findByLabelText('The file that comes back', undefined, soon), {
      target: { files: [file] },
    })
    await screen.findByText(/1 new, 1 that cannot be stored/, undefined, soon)
    expect((await own.lead.ask(listAttempts)).rows).to.deep.equal([])
    fireEvent.click(screen.getByText('Store 1 result'))
    await waitFor(async () => {
      const made = (await own.lead.ask(listAttempts)).rows
      expect(made.map(({ case: of, verdict, comment }) => [of, verdict, comment])).to.deep.equal([
        ['TC-1', 'Failed', 'It beeps'],
      ])
    }, soon)
  })
  it('filters by a column where it stands', async () => {
    await execute(own, ids[0] ?? 0, 'Failed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    await screen.findByText('Board')
    fireEvent.click(await screen.findByText('Filter by verdict'))
    fireEvent.click(await screen.findByLabelText('Not run', { selector: 'input' }, soon))
    await waitFor(() => expect(screen.queryByText('Pay by card')).to.equal(null), soon)
    expect(screen.getByText('Hold a place')).to.not.equal(null)
  })
  it('names several testers, and what they said', async () => {
    await own.lead.ask(changeItems, { params, body: { ids: [ids[0] ?? 0], set: { people: 3, passes: 2 } } })
    await execute(own, ids[0] ?? 0, 'Passed')
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    await screen.findByText(/2 of 3 testers must pass it; Tester Person Passed/, undefined, soon)
  })
})

describe('runs together', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    await makeCase(own.lead, 'Pay by card')
    await makeRun(own, ['TC-1'])
    await makeRun(own, ['TC-1'])
  })
  afterEach(() => closeScreen())
  const tickAll = async (screen: Shown) => fireEvent.click(await screen.findByLabelText('Tick all shown'))

  it('are tagged, and copied as planned ones with the same items', async () => {
    const screen = await pageOf(own, 'lead', 'runs')
    await screen.findByText('RN-2')
    await tickAll(screen)
    fireEvent.click(await screen.findByText('tags', { selector: 'button' }))
    const tags = await screen.findByLabelText('Tags', undefined, soon)
    fireEvent.change(tags, { target: { value: 'night, smoke' } })
    fireEvent.submit(tags.closest('form') ?? tags)
    await waitFor(() => expect(screen.getAllByText(/· night, smoke/)).to.have.length(2), soon)
    fireEvent.click(screen.getByText('copy', { selector: 'button' }))
    await screen.findByText(/2 runs planned like them/, undefined, soon)
    const runs = (await own.lead.ask(listRuns)).rows
    expect(runs.filter(({ state }) => state === 'Planned').map(({ items }) => items)).to.deep.equal([1, 1])
    expect((await own.lead.ask(readRun, { params: { ref: 'RN-3' } })).team.map(({ name }) => name)).to.deep.equal([
      'Tester Person',
    ])
  })
})
