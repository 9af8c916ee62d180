import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listAttempts, listDoubts } from '#core/runs/attempts-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRequirements, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('all attempts on a page', () => {
  let own: Shop
  let made: number[]
  beforeEach(async () => {
    own = shop()
    localStorage.clear()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    const run = await makeRun(own, [
      await makeCase(own.lead, 'Adult', { proves: fares, steps: ['Do', 'Look'] }),
      await makeCase(own.lead, 'Child', { proves: fares, steps: ['Do'] }),
    ])
    made = []
    for (const [at, verdict] of [
      [0, 'Failed'],
      [0, 'Passed'],
      [1, 'Passed'],
    ] as const) {
      own.pass(minute)
      made.push((await execute(own, run.items[at]?.id ?? 0, verdict)).id)
    }
  })
  afterEach(() => closeScreen())
  const page = async (who = 'lead') => {
    const screen = await pageOf(own, who, 'runs/attempts')
    await screen.findByText(/Child/, undefined, soon)
    return screen
  }
  const tick = async (screen: Awaited<ReturnType<typeof page>>, ...names: RegExp[]) => {
    for (const name of names) {
      const row = screen.getAllByRole('row').filter((each) => name.test(each.textContent ?? ''))
      for (const each of row) fireEvent.click(within(each).getByRole('checkbox'))
    }
  }
  const rows = async () => (await own.viewer.ask(listAttempts)).rows

  it('two are compared step by step by the key', async () => {
    const screen = await page('viewer')
    fireEvent.keyDown(document.body, { key: 'c' })
    await screen.findByText(/^Tick two attempts/, undefined, soon)
    await tick(screen, /Adult/)
    fireEvent.keyDown(document.body, { key: 'c' })
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    await dialog.findByText('They differ at 2 of 2 steps.', undefined, soon)
    expect(dialog.getAllByRole('row').length).to.equal(3)
  })
  it('what was recorded by mistake is struck out for a reason, and brought back', async () => {
    const screen = await page()
    await tick(screen, /Child/)
    fireEvent.click(screen.getByText('strike out'))
    fireEvent.change(await screen.findByLabelText('For what reason?', undefined, soon), {
      target: { value: 'Wrong bench' },
    })
    fireEvent.click(screen.getByText('Strike 1 attempt out'))
    await screen.findByText(/struck out: Wrong bench/, undefined, soon)
    expect((await rows())[0]?.struck).to.equal('Wrong bench')
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect((await rows())[0]?.struck).to.equal(null), soon)
  })
  it('a doubt says what falls and what would settle it before it is made, and is lifted', async () => {
    const screen = await page()
    await tick(screen, /Child/)
    fireEvent.click(screen.getByText('doubt'))
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    await dialog.findByText('1 slot', undefined, soon)
    expect(dialog.getByText(/would settle it/).textContent).to.match(/^1 item, \d+ min, would settle it/)
    fireEvent.change(dialog.getByLabelText('For what reason?'), { target: { value: 'Old data' } })
    fireEvent.click(dialog.getByText('Doubt it'))
    await screen.findByText(/doubted: Old data/, undefined, soon)
    fireEvent.click(await screen.findByText('1 doubt', undefined, soon))
    fireEvent.click(await screen.findByText('lift it', undefined, soon))
    await waitFor(async () => expect((await own.lead.ask(listDoubts)).rows[0]?.liftedAt).to.be.a('number'), soon)
    await waitFor(() => expect(screen.queryByText(/doubted: Old data/)).to.equal(null), soon)
  })
  it('one opens beside the list with its steps and where it counts, by its address', async () => {
    const screen = await page()
    const [row] = screen.getAllByRole('row').filter((each) => /Child/.test(each.textContent ?? ''))
    fireEvent.doubleClick(row!)
    fireEvent.click(within(row!).getByText(/Child/))
    const sheet = within(await screen.findByRole('article', undefined, soon))
    expect(sheet.getByText(/It is what counts here/)).to.not.equal(null)
    expect(location.search).to.include(`attempt=${made[2]}`)
    expect(sheet.getByText('at the desk')).to.have.property('tagName', 'A')
  })
})
