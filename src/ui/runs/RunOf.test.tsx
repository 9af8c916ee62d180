import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listItems } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeDefect, makeRequirements, makeRun, makeSuite } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('a run opened with two keys', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    localStorage.clear()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    await makeCase(own.lead, 'Adult', { proves: fares })
    await makeCase(own.lead, 'Child', { proves: fares })
    await makeCase(own.lead, 'Deck')
  })
  afterEach(() => closeScreen())
  const asked = async (place: string, who = 'lead') => {
    const screen = await pageOf(own, who, place)
    await screen.findAllByText(/Adult|Fares|not there|Core/, undefined, soon)
    fireEvent.keyDown(document.body, { key: 'o' })
    return screen
  }
  const opened = async (screen: Awaited<ReturnType<typeof asked>>) => {
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    return {
      told: (await dialog.findByText(/in each environment\.$/)).textContent,
      title: dialog.getByLabelText<HTMLInputElement>('Title').value.replace(/, \d+ \w+$/, ', a day'),
      dialog,
      open: async (ref: string) => {
        fireEvent.click(dialog.getByText('Open the run'))
        await waitFor(async () => expect(await items(ref)).to.not.equal(null), soon)
        return items(ref)
      },
    }
  }
  const items = async (ref: string): Promise<string[] | null> => {
    const { status, body } = await own.lead.send('GET', `/projects/SHOP/runs/${ref}/items`)
    if (status !== 200) return null
    const { rows } = listItems.output.parse(body)
    return rows.map((row) => `${row.case} ${row.environment}`)
  }

  it('of a suite, of what covers a requirement, of the cases of a defect', async () => {
    await makeSuite(own.lead, 'Core', ['TC-1', 'TC-3'])
    const ofSuite = await opened(await asked('TS-1'))
    expect([ofSuite.told, ofSuite.title]).to.deep.equal([
      'All that is in TS-1 now, in each environment.',
      'Core, 1.0.1, a day',
    ])
    fireEvent.click(ofSuite.dialog.getByLabelText('Red'))
    expect(await ofSuite.open('RN-1')).to.deep.equal(['TC-1 Red', 'TC-3 Red'])
    const place = 'rovant.last-run.SHOP'
    await waitFor(() => expect(localStorage.getItem(place)).to.be.a('string'), soon)
    const answered = localStorage.getItem(place) ?? ''
    closeScreen()
    localStorage.setItem(place, answered)
    const ofRequirement = await opened(await asked('RQ-1'))
    expect(ofRequirement.told).to.equal('Whatever covers RQ-1, in each environment.')
    // What was answered the last time stands there.
    expect(ofRequirement.dialog.getByLabelText<HTMLInputElement>('Red').checked).to.equal(true)
    expect(await ofRequirement.open('RN-2')).to.deep.equal(['TC-1 Red', 'TC-2 Red'])
    closeScreen()
    localStorage.setItem(place, answered)
    const run = await makeRun(own, ['TC-2'])
    await makeDefect(own, await execute(own, run.items[0]?.id ?? 0, 'Failed'))
    const ofDefect = await opened(await asked('DF-1'))
    expect(await ofDefect.open('RN-4')).to.deep.equal(['TC-2 Red'])
  })
  it('of ticked cases', async () => {
    const screen = await pageOf(own, 'lead', 'cases')
    const row = (await screen.findByText('Deck', undefined, soon)).closest('[role=row]')
    fireEvent.click(within(row as HTMLElement).getByRole('checkbox'))
    await screen.findByRole('button', { name: 'open a run' }, soon)
    fireEvent.keyDown(document.body, { key: 'o' })
    const of = await opened(screen)
    expect([of.told, of.title]).to.deep.equal([
      'The 1 case ticked, in each environment.',
      '1 chosen case, 1.0.1, a day',
    ])
    expect(await of.open('RN-1')).to.deep.equal(['TC-3 any'])
  })
  it('of all that a view shows, without a tick', async () => {
    const filter = encodeURIComponent(JSON.stringify({ field: 'title', op: 'contains', values: ['l'] }))
    const shown = await opened(await asked(`cases?filter=${filter}`))
    expect([shown.told, shown.title]).to.deep.equal([
      'The 2 cases shown now, in each environment.',
      '2 cases, 1.0.1, a day',
    ])
    fireEvent.click(shown.dialog.getByLabelText('Red'))
    expect(await shown.open('RN-1')).to.deep.equal(['TC-1 Red', 'TC-2 Red'])
  })
  it('not by somebody who does not lead runs; where nothing is there to run it says so', async () => {
    const screen = await asked('RQ-1', 'tester')
    expect(screen.queryByRole('dialog')).to.equal(null)
    closeScreen()
    await makeRequirements(own.lead, 'Core of it')
    const none = await opened(await asked('RQ-2'))
    fireEvent.click(none.dialog.getByText('Open the run'))
    await none.dialog.findByText(/nothing of what was chosen holds one/, undefined, soon)
    expect(await items('RN-1')).to.equal(null)
  })
})
