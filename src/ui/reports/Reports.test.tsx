import { expect } from 'chai'
import { day, type Shop, shop } from '#test/app.ts'
import { addRemark, makeCase, makeRequirements, makeRun, remark } from '#test/make.ts'
import { closeScreen, screenOf } from '#test/screen/screen.tsx'
import { Board } from './Board.tsx'
import { Stale } from './Stale.tsx'

const soon = { timeout: 20_000 }

describe('Reports on a result in the project’s own word', () => {
  let own: Shop

  beforeEach(async () => {
    own = shop()
    addRemark(own)
    const [pay = ''] = await makeRequirements(own.tester, 'Pay')
    const { items } = await makeRun(own, [await makeCase(own.tester, 'Pays', { steps: ['One'], proves: pay })])
    await remark(own, items[0]?.id ?? 0)
  })
  afterEach(() => closeScreen())

  it('show its mark on the board, with what it counts as', async () => {
    const screen = await screenOf(own, 'viewer', <Board />)
    await screen.findByLabelText('With a remark, Passed', undefined, soon)
  })

  it('say it in the list of what is no longer current', async () => {
    own.pass(30 * day)
    const screen = await screenOf(own, 'viewer', <Stale />)
    const row = (await screen.findByText('With a remark', { exact: false, selector: 'td' }, soon)).closest('tr')
    expect(row?.textContent).to.include('too old')
  })
})
