import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { updateProject } from '#core/projects/contract.ts'
import { sayInstalled } from '#core/projects/installed-contract.ts'
import { updateMe } from '#core/people/own-contract.ts'
import { dealItems, listItems } from '#core/runs/contract.ts'
import { readDesk, startAttempt } from '#core/runs/desk-contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import { makeCase, makeDealtRun, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, closeTab, lineDown, type Shown } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the desk', () => {
  let own: Shop
  let item: number
  beforeEach(async () => {
    own = shop()
    const steps = ['Open the desk => It asks who you are', 'Tap Pay => Paid', 'Look => One charge']
    const run = await makeRun(own, [
      await makeCase(own.lead, 'Pay by card', { steps }),
      await makeCase(own.lead, 'Hold'),
    ])
    item = run.items[0]?.id ?? 0
  })
  afterEach(() => closeScreen())
  const open = () => pageOf(own, 'tester', `desk/${item}`)
  const press = (key: string, of: object = {}) => fireEvent.keyDown(document.body, { key, ...of })
  const desk = () => own.tester.ask(readDesk, { params: { id: item } })
  const marks = async () => (await desk()).attempt?.marks.map(({ verdict }) => verdict) ?? []

  it('records verdicts by single keys, in their order, and moves on', async () => {
    const screen = await open()
    press('p')
    press('p')
    press('f')
    await waitFor(async () => expect(await marks()).to.deep.equal(['Passed', 'Passed', 'Failed']), soon)
    expect((await desk()).attempt?.verdict).to.equal('Failed')
    await screen.findByText(/^Stored/, undefined, soon)
    expect(screen.container.querySelector('[aria-current=step]')?.textContent).to.include('Look')
  })

  it('keeps what is recorded while the line is down, says so, and sends it when it is back', async () => {
    const screen = await open()
    press('p')
    await waitFor(async () => expect(await marks()).to.deep.equal(['Passed']), soon)
    screen.line.between = lineDown
    press('p')
    await screen.findByText(/1 verdict waits here/, undefined, soon)
    expect(await marks()).to.deep.equal(['Passed'])
    screen.line.between = (_, answer) => answer()
    await waitFor(async () => expect(await marks()).to.deep.equal(['Passed', 'Passed']), soon)
    await waitFor(() => expect(screen.queryByText(/waits here/)).to.equal(null), soon)
  })

  it('stays at the step when the server refuses the verdict, and says why', async () => {
    await own.lead.ask(updateProject, { body: { approvalRequired: true } })
    const screen = await open()
    press('p')
    await screen.findByText(/no approved version/, undefined, soon)
    expect(screen.container.querySelector('[aria-current=step]')?.textContent).to.include('Open the desk')
    expect((await desk()).attempt).to.equal(null)
  })

  it('takes the last verdict back', async () => {
    const screen = await open()
    press('p')
    await waitFor(async () => expect(await marks()).to.deep.equal(['Passed']), soon)
    await screen.findByText(/^Stored/, undefined, soon)
    press('u')
    await waitFor(async () => expect(await marks()).to.deep.equal(['Not run']), soon)
  })

  it('says of the whole what is said by Shift and a letter, and asks why when a step failed', async () => {
    const screen = await open()
    press('f')
    await waitFor(async () => expect(await marks()).to.deep.equal(['Failed']), soon)
    press('P', { shiftKey: true })
    const reason = await screen.findByLabelText('Reason')
    expect(screen.getByText('Override as Passed')).to.have.property('disabled', true)
    fireEvent.change(reason, { target: { value: 'The printer was off' } })
    fireEvent.click(screen.getByText('Override as Passed'))
    await waitFor(async () => {
      const { attempt } = await desk()
      expect([attempt?.verdict, attempt?.override]).to.deep.equal(['Passed', 'The printer was off'])
    }, soon)
  })

  it('keeps what happened with the step it is written at', async () => {
    const screen = await open()
    const happened = await screen.findByPlaceholderText(/as expected, unless/)
    fireEvent.change(happened, { target: { value: 'It asked twice' } })
    fireEvent.blur(happened)
    await waitFor(async () => expect((await desk()).attempt?.marks[0]?.comment).to.equal('It asked twice'), soon)
  })

  const write = async (screen: Shown, text: string) => {
    const happened = await screen.findByPlaceholderText(/as expected, unless/)
    fireEvent.change(happened, { target: { value: text } })
    return happened
  }
  const comment = async () => (await desk()).attempt?.marks[0]?.comment

  it('keeps what happened while the line is down and sends it when it is back, without another letter', async () => {
    const screen = await open()
    press('p')
    await screen.findByText(/^Stored/, undefined, soon)
    screen.line.between = lineDown
    press('ArrowUp')
    await write(screen, 'It asked twice')
    await screen.findByText(/Your words are kept here and sent when the server answers/, undefined, soon)
    screen.line.between = (_, answer) => answer()
    await waitFor(async () => expect(await comment()).to.equal('It asked twice'), { timeout: 8000 })
    expect(Object.keys(localStorage).filter((name) => name.startsWith('rovant.happened'))).to.deep.equal([])
  })

  it('shows what was typed in a closed tab beside what another window stored since, and one chooses', async () => {
    const screen = await open()
    screen.line.between = lineDown
    await write(screen, 'It asked twice')
    closeTab()
    const attempt = await own.tester.ask(startAttempt, { params: { id: item }, body: {} })
    const at = { id: attempt.id, row: 1, step: (await desk()).preview.steps[0]?.id ?? 0 }
    await own.tester.ask(commentStep, { params: at, body: { text: 'The door stays open' } })
    const again = await open()
    const both = await again.findByLabelText('Two texts of What happened', undefined, soon)
    expect(both.textContent).to.include('The door stays open').and.to.include('It asked twice')
    await new Promise((resolve) => setTimeout(resolve, 1200))
    expect(await comment(), 'nothing is stored until one chooses').to.equal('The door stays open')
    fireEvent.click(again.getByText('Join both'))
    await waitFor(async () => expect(await comment()).to.equal('The door stays open\nIt asked twice'), soon)
    expect(again.queryByLabelText('Two texts of What happened')).to.equal(null)
  })

  it('keeps what was written before an attempt could begin, and stores it when one begins', async () => {
    const screen = await open()
    screen.line.between = lineDown
    await write(screen, 'It asked twice')
    await screen.findByText(/is kept here until the attempt can begin/, undefined, soon)
    screen.line.between = (_, answer) => answer()
    press('p')
    press('ArrowUp')
    await waitFor(async () => expect(await comment()).to.equal('It asked twice'), soon)
  })

  it('goes on to the next item, and says when it was the last', async () => {
    await own.lead.ask(dealItems, { params: { ref: 'RN-1' } })
    const screen = await open()
    press('PageDown')
    await waitFor(() => expect(location.pathname).to.not.equal(`/p/SHOP/desk/${item}`), soon)
    await waitFor(() => {
      press('PageDown')
      expect(screen.getByText('That was the last item of the queue.')).to.not.equal(null)
    }, soon)
  })

  it('says of a case without steps how it is executed', async () => {
    const bare = await makeCase(own.lead, 'Only a title', { steps: [] })
    const run = await makeRun(own, [bare])
    const screen = await pageOf(own, 'tester', `desk/${run.items[0]?.id ?? 0}`)
    await screen.findByText(/This case has no steps/)
  })

  describe('where another build stands than the run expects', () => {
    beforeEach(async () => {
      sessionStorage.clear()
      await own.lead.ask(sayInstalled, { body: { environment: own.environments[0], build: own.builds[0] } })
      own.pass(1000)
    })
    const built = async () => (await desk()).attempt?.build

    it('asks before the first verdict, and records what was pressed on the build that is chosen', async () => {
      const screen = await open()
      await screen.findByText(/stands on Red since/, undefined, soon)
      press('p')
      const dialog = await screen.findByRole('dialog', { name: 'Which build do you execute on?' })
      expect((await desk()).attempt).to.equal(null)
      fireEvent.click(within(dialog).getByText('1.0.0, as installed'))
      await waitFor(async () => expect(await marks()).to.deep.equal(['Passed']), soon)
      expect(await built()).to.equal('1.0.0')
      press('f')
      await waitFor(async () => expect(await marks()).to.deep.equal(['Passed', 'Failed']), soon)
    })
    it('records nothing where that is left open, and stays at the step', async () => {
      const screen = await open()
      press('p')
      await screen.findByRole('dialog', { name: 'Which build do you execute on?' })
      fireEvent.click(screen.getByLabelText('Close'))
      await waitFor(
        () => expect(screen.container.querySelector('[aria-current=step]')?.textContent).to.include('Open the desk'),
        soon,
      )
      expect((await desk()).attempt).to.equal(null)
    })
    it('asks once for the run, and takes another answer before something is begun', async () => {
      await own.lead.ask(dealItems, { params: { ref: 'RN-1' } })
      const screen = await open()
      press('p')
      fireEvent.click(await screen.findByText('1.0.1, as the run says', undefined, soon))
      await waitFor(async () => expect(await built()).to.equal('1.0.1'), soon)
      press('PageDown')
      await screen.findByText(/You execute on 1\.0\.1;/, undefined, soon)
      fireEvent.click(screen.getByText('it is 1.0.0'))
      press('p')
      const other = async () => (await own.tester.ask(readDesk, { params: { id: item + 1 } })).attempt?.build
      await waitFor(async () => expect(await other()).to.equal('1.0.0'), soon)
      expect(screen.queryByRole('dialog')).to.equal(null)
    })
  })
})

describe('after a verdict at the desk', () => {
  let own: Shop
  let ids: number[]
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Hold a place']) await makeCase(own.lead, title, { steps: ['Look'] })
    ids = (await makeDealtRun(own, ['TC-1', 'TC-2'])).items.map(({ id }) => id)
  })
  afterEach(() => closeScreen())
  const judged = async (to: 'next' | 'at once') => {
    await own.tester.ask(updateMe, { body: { afterVerdict: to } })
    const screen = await pageOf(own, 'tester', `desk/${ids[0]}`)
    await screen.findByText('Pay by card', { exact: false }, soon)
    await screen.user.keyboard('p')
    await waitFor(
      async () =>
        expect((await own.lead.ask(listItems, { params: { ref: 'RN-1' } })).rows[0]?.verdict).to.equal('Passed'),
      soon,
    )
    return screen
  }

  it('the next item comes by Enter, unless somebody wants it at once', async () => {
    const screen = await judged('next')
    expect(location.pathname).to.equal(`/p/SHOP/desk/${ids[0]}`)
    await screen.user.keyboard('{Enter}')
    await waitFor(() => expect(location.pathname).to.equal(`/p/SHOP/desk/${ids[1]}`), soon)
  })
  it('the next item comes at once for whoever wants that', async () => {
    await judged('at once')
    await waitFor(() => expect(location.pathname).to.equal(`/p/SHOP/desk/${ids[1]}`), soon)
  })
})
