import { expect } from 'chai'
import { within } from '@testing-library/react'
import { dealItems, changeItems } from '#core/runs/contract.ts'
import { updateDefect } from '#core/defects/contract.ts'
import { execute, makeCase, makeDefect, makeRun } from '#test/make.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

describe('a day’s first page', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())
  const dealt = async () => {
    const cases = [await makeCase(own.lead, 'Pay by card'), await makeCase(own.lead, 'Hold a place')]
    const run = await makeRun(own, cases)
    await own.lead.ask(dealItems, { params: { ref: run.key }, body: {} })
    return run
  }
  const text = () => document.querySelector('main')?.textContent ?? document.body.textContent ?? ''

  it('says that nothing waits, and where items come from', async () => {
    const screen = await pageOf(own, 'tester', '')
    expect(await screen.findByText(/Nothing waits for you/)).to.not.equal(null)
    expect(screen.getByText('to the runs').getAttribute('href')).to.equal('/p/SHOP/runs')
    expect(screen.getByText('No repaired defect waits.')).to.not.equal(null)
    expect(screen.getByText('Nothing waits for review.')).to.not.equal(null)
  })

  it('holds the queue against the hours of the day', async () => {
    const { key, items } = await dealt()
    await own.lead.ask(changeItems, {
      params: { ref: key },
      body: { ids: items.map(({ id }) => id), set: { estimate: 300 } },
    })
    const screen = await pageOf(own, 'tester', '')
    expect((await screen.findByText(/do not fit/)).textContent).to.match(/^\d/)
    expect(screen.getByRole('img', { name: /fit today/ }).getAttribute('aria-label')).to.match(/^0 min done/)
    expect(screen.getByLabelText('Your queue').querySelectorAll('li')).to.have.lengthOf(2)
  })

  it('a queue that fits is told so, and what is done counts as done', async () => {
    const { items } = await dealt()
    await execute(own, items[0]?.id ?? 0, 'Passed')
    const screen = await pageOf(own, 'tester', '')
    expect((await screen.findByText(/fit in the/)).textContent).to.include('left today')
    expect(text()).to.include('1 done today')
    expect(screen.getByLabelText('Your queue').querySelectorAll('li')).to.have.lengthOf(1)
  })

  it('a repaired defect leads to the item where it can be retested', async () => {
    const { items } = await dealt()
    const attempt = await execute(own, items[0]?.id ?? 0, 'Failed')
    const { version } = await makeDefect(own, attempt)
      .then(() => own.lead.send('GET', '/projects/SHOP/defects/DF-1'))
      .then(({ body }) => body)
    own.pass(minute)
    await own.lead.ask(updateDefect, {
      params: { ref: 'DF-1' },
      body: { state: 'Ready to retest', fixedInId: own.builds[1] },
      version,
    })
    const screen = await pageOf(own, 'tester', '')
    const side = within(await screen.findByLabelText('Waiting and changed'))
    const link = side.getAllByText('It is not there', { exact: false })[0]?.closest('a')
    expect(link?.getAttribute('href')).to.match(/^\/p\/SHOP\/desk\/\d+\?mine=no$/)
    expect(text()).to.include('fixed in 1.0.1')
  })

  it('changes since yesterday are told in words, newest first', async () => {
    await makeCase(own.lead, 'Pay by card')
    const screen = await pageOf(own, 'tester', '')
    const side = await screen.findByLabelText('Waiting and changed')
    expect(side.textContent).to.match(/1 new case[^s]/)
    expect(side.textContent).to.match(/TC-1 Pay by card/)
  })
})
