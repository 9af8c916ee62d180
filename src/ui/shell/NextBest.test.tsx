import { expect } from 'chai'
import { fireEvent } from '@testing-library/react'
import { type Shop, shop } from '#test/app.ts'
import { makeCase, makeRequirements, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('what is worth most now', () => {
  let own: Shop
  beforeEach(() => (own = shop()))
  afterEach(() => closeScreen())

  it('is said with why by one key on Today, and goes there', async () => {
    const [pay = ''] = await makeRequirements(own.lead, 'Pay')
    await makeRun(own, [await makeCase(own.lead, 'Pay by card', { steps: ['One'], proves: pay })])
    const screen = await pageOf(own, 'tester', '')
    await screen.findByText(/^Good /, undefined, soon)
    fireEvent.keyDown(document.body, { key: 'm' })
    await screen.findByText('Pay by card', { selector: 'dialog b' }, soon)
    await screen.findByText(/never executed; worth .* the most a minute among 1 in RN-1/, undefined, soon)
    expect(document.activeElement?.textContent).to.equal('Execute it')
  })

  it('says so where nothing is there', async () => {
    const screen = await pageOf(own, 'tester', '')
    await screen.findByText(/^Good /, undefined, soon)
    fireEvent.keyDown(document.body, { key: 'm' })
    await screen.findByText(/Nothing is open for you/, undefined, soon)
  })
})
