import { expect } from 'chai'
import { makeCase, makeDefect, makeRun, execute } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { closeScreen, screenOf } from '#test/screen/screen.tsx'
import { DefectSheetView } from './DefectSheet.tsx'

describe('the sheet of a defect', () => {
  let own: Shop
  let key: string
  before(async () => {
    own = shop()
    const run = await makeRun(own, [await makeCase(own.lead, 'Pay by card')])
    const attempt = await execute(own, run.items[0]?.id ?? 0, 'Failed')
    key = (await makeDefect(own, attempt)).key
  })
  afterEach(() => closeScreen())

  it('is read', async () => {
    const { findByText, container } = await screenOf(
      own,
      'lead',
      <DefectSheetView about={key} served={null} onClose={() => undefined} />,
    )
    await findByText('Met in')
    console.log(container.textContent)
    expect(1).to.equal(1)
  })
})
