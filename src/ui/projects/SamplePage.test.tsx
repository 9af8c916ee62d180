import { expect } from 'chai'
import { keepSample } from '#db/installation/samples.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

describe('what is in a sample project', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())
  const sights = [
    { place: 'TC-1', title: 'A case that nobody knows', told: 'It has no step <b>yet</b>.' },
    { place: 'reports/gaps', title: 'Gaps', told: 'What is missing.' },
  ]
  const keep = (desk: string | null) => keepSample(own.db, own.project().id, { filledAt: own.now(), desk, sights })

  it('is a list of ways there, each with its key where it has one', async () => {
    keep('http://127.0.0.1:4322')
    const screen = await pageOf(own, 'viewer', 'sample')
    const first = await screen.findByRole('link', { name: 'A case that nobody knows' })
    expect(first.getAttribute('href')).to.equal('/p/SHOP/TC-1')
    expect(screen.getByText('TC-1')).to.not.equal(null)
    expect(screen.getByText('It has no step <b>yet</b>.'), 'as text').to.not.equal(null)
    expect(screen.getByRole('link', { name: 'Gaps' }).getAttribute('href')).to.equal('/p/SHOP/reports/gaps')
    expect(screen.getByRole('link', { name: 'http://127.0.0.1:4322' })).to.not.equal(null)
  })
  it('does not name the application while it does not run', async () => {
    keep(null)
    const screen = await pageOf(own, 'viewer', 'sample')
    await screen.findByRole('link', { name: 'Gaps' })
    expect(screen.queryByText(/in nine builds/)).to.equal(null)
  })
  it('says of a project of one’s own that it is none, and Today leads there in a sample alone', async () => {
    const screen = await pageOf(own, 'tester', 'sample')
    await screen.findByText('SHOP is no sample project.')
    closeScreen()
    const before = await pageOf(own, 'tester', '')
    await before.findByText(/Nothing waits for you/)
    expect(before.queryByText('What is in this sample project')).to.equal(null)
    closeScreen()
    keep(null)
    const after = await pageOf(own, 'tester', '')
    expect((await after.findByText('What is in this sample project')).getAttribute('href')).to.equal('/p/SHOP/sample')
  })
})
