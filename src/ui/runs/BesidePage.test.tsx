import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { listItems } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { makeCase, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'
import { after, within } from './useBeside.ts'

const soon = { timeout: 20_000 }

describe('one case side by side in its environments', () => {
  let own: Shop
  let ids: number[]
  beforeEach(async () => {
    own = shop()
    await makeCase(own.lead, 'Pay by card', { steps: ['Enter it => It is taken', 'Pay => It is paid'] })
    ids = (await makeRun(own, ['TC-1'], { environments: own.environments })).items.map(({ id }) => id)
  })
  afterEach(() => closeScreen())
  const marks = async (id: number) =>
    (await own.lead.ask(readDesk, { params: { id } })).attempt?.marks.map(({ verdict }) => verdict) ?? []
  const verdicts = async () =>
    (await own.lead.ask(listItems, { params: { ref: 'RN-1' } })).rows.map((row) => row.verdict)

  it('goes by keys from column to column, then to the next step, and each verdict is of its own attempt', async () => {
    const screen = await pageOf(own, 'tester', `desk/beside?items=${ids.join(',')}`)
    await screen.findByLabelText('Step 1 in Red', undefined, soon)
    await screen.user.keyboard('p')
    await screen.user.keyboard('f')
    await waitFor(
      async () => expect([await marks(ids[0] ?? 0), await marks(ids[1] ?? 0)]).to.deep.equal([['Passed'], ['Failed']]),
      soon,
    )
    await screen.user.keyboard('{ArrowLeft}{ArrowDown}p')
    await waitFor(async () => expect(await verdicts()).to.deep.equal(['Passed', 'Failed']), soon)
  })
  it('takes a verdict for all columns at once, and words for the cell one is in', async () => {
    const screen = await pageOf(own, 'tester', `desk/beside?items=${ids.join(',')}`)
    await screen.findByLabelText('Step 1 in Blue', undefined, soon)
    await screen.user.keyboard('{Shift>}p{/Shift}')
    await screen.user.keyboard('{Shift>}p{/Shift}')
    await waitFor(async () => expect(await verdicts()).to.deep.equal(['Passed', 'Passed']), soon)
    fireEvent.click(await screen.findByLabelText('Step 2 in Blue'))
    const words = await screen.findByLabelText('what happened in Blue')
    fireEvent.change(words, { target: { value: 'It blinks' } })
    fireEvent.blur(words)
    await waitFor(async () => {
      const desk = await own.lead.ask(readDesk, { params: { id: ids[1] ?? 0 } })
      expect(desk.attempt?.marks.map(({ comment }) => comment).join('')).to.include('It blinks')
    }, soon)
  })
  it('says so where two cases are asked for, or none', async () => {
    await makeCase(own.lead, 'Hold a place')
    const other = await makeRun(own, ['TC-2'])
    const two = await pageOf(own, 'tester', `desk/beside?items=${ids[0]},${other.items[0]?.id}`)
    await two.findByText(/is another case/, undefined, soon)
    await closeScreen()
    const none = await pageOf(own, 'tester', 'desk/beside')
    await none.findByText(/Tick up to four items/, undefined, soon)
  })
  it('stays within the steps and columns there are', () => {
    const preview = { steps: [1, 2], rows: [{}, {}, {}] }
    const desks = [
      { attempt: null, preview },
      { attempt: null, preview },
    ] as unknown as Parameters<typeof within>[1]
    expect(within({ column: 5, row: 9, step: -2 }, desks)).to.deep.equal({ column: 1, row: 3, step: 0 })
    expect(after({ column: 1, row: 1, step: 0 }, 2, false)).to.deep.equal({ column: 0, row: 1, step: 1 })
    expect(after({ column: 0, row: 1, step: 0 }, 2, false)).to.deep.equal({ column: 1, row: 1, step: 0 })
    expect(after({ column: 0, row: 1, step: 0 }, 2, true)).to.deep.equal({ column: 0, row: 1, step: 1 })
  })
})
