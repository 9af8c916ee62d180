import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { readDefect } from '#core/defects/contract.ts'
import { execute, makeCase, makeDefect, makeRequirements, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { closeScreen, screenOf } from '#test/screen/screen.tsx'
import { DefectSheetView } from './DefectSheet.tsx'
import { linksBy } from './DefectThread.tsx'

describe('the sheet of a defect', () => {
  let own: Shop
  let key: string
  beforeEach(async () => {
    own = shop()
    const [requirement = ''] = await makeRequirements(own.lead, 'A place is held')
    const run = await makeRun(own, [await makeCase(own.lead, 'Pay by card', { proves: requirement })])
    key = (await makeDefect(own, await execute(own, run.items[0]?.id ?? 0, 'Failed'))).key
  })
  afterEach(() => closeScreen())
  const open = () => screenOf(own, 'lead', <DefectSheetView about={key} served={null} onClose={() => undefined} />)
  const defect = () => own.lead.ask(readDefect, { params: { ref: key } })

  it('tells its thread: what was to be proved, by which case, where it was met', async () => {
    const { findByLabelText } = await open()
    const thread = await findByLabelText('Thread')
    expect(thread.textContent).to.include('1 requirement')
    expect(thread.textContent).to.include('RQ-1 A place is held')
    expect(thread.textContent).to.include('TC-1 Pay by card')
    expect(thread.textContent).to.include('1.0.1, Red')
  })

  it('moves on by the button of a state', async () => {
    const { findByText } = await open()
    fireEvent.click(await findByText('Confirmed', { selector: 'button' }))
    await waitFor(async () => expect((await defect()).state).to.equal('Confirmed'))
  })

  it('asks in which build it was repaired before it is ready to retest', async () => {
    const screen = await open()
    fireEvent.click(await screen.findByText('Ready to retest', { selector: 'button' }))
    const builds = await screen.findByLabelText('Build of the repair')
    expect((await defect()).state).to.equal('Reported')
    fireEvent.change(builds, { target: { value: String(own.builds[1]) } })
    await waitFor(async () => {
      const { state, fixedInId } = await defect()
      expect([state, fixedInId]).to.deep.equal(['Ready to retest', own.builds[1]])
    })
    await waitFor(() => expect(screen.queryByLabelText('Build of the repair')).to.equal(null))
  })

  it('has its facts set where they stand', async () => {
    const { findByLabelText } = await open()
    fireEvent.change(await findByLabelText('Severity'), { target: { value: 'Critical' } })
    fireEvent.change(await findByLabelText('Priority'), { target: { value: '1' } })
    fireEvent.change(await findByLabelText('Found in'), { target: { value: '' } })
    await waitFor(async () => {
      const { severity, priority, foundInId } = await defect()
      expect([severity, priority, foundInId]).to.deep.equal(['Critical', 1, null])
    })
  })

  it('names every object once, however often it is linked', () => {
    const link = (id: number, of: string | null, attempt: number | null) => ({ id, case: of, attempt }) as never
    const links = [link(1, 'TC-1', 7), link(2, 'TC-1', 8), link(3, null, null), link(4, 'TC-2', 7)]
    expect(linksBy(links, (each) => each.case).map(({ id }) => id)).to.deep.equal([1, 4])
    expect(linksBy(links, (each) => each.attempt).map(({ id }) => id)).to.deep.equal([1, 2])
  })
})
