import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { createPlan, readPlan, updatePlan } from '#core/plans/contract.ts'
import { addOutage, setFactors, updateEnvironment } from '#core/projects/environments-contract.ts'
import { listItems } from '#core/runs/contract.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'
import { noticeMembers } from '#server/plans/keep-members.ts'

const soon = { timeout: 20_000 }

describe('where a plan is tested', () => {
  let own: Shop
  let plan: string
  beforeEach(async () => {
    own = shop()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    const cases = [
      await makeCase(own.lead, 'Adult pays', { proves: fares }),
      await makeCase(own.lead, 'Child pays half', { proves: fares }),
    ]
    const [first = 0, second = 0] = own.environments
    const stands = (id: number, engine: string, device: string) =>
      own.lead.ask(updateEnvironment, { params: { id }, body: { values: { engine, device } } })
    await stands(first, 'Chromium', 'desk')
    await stands(second, 'Gecko', 'phone')
    plan = (await makePlan(own, cases, [first, second])).key
  })
  afterEach(() => closeScreen())
  const where = () => pageOf(own, 'lead', `${plan}?part=where`)
  const stored = () => own.lead.ask(readPlan, { params: { ref: plan } })
  const ask = async (asks: object[]) =>
    own.lead.ask(updatePlan, {
      params: { ref: plan },
      body: { asks: asks as never },
      version: (await stored()).version,
    })

  it('is a table of cases by environments with what stands there', async () => {
    const run = await makeRun(own, ['TC-1'])
    await execute(own, run.items[0]?.id ?? 0, 'Failed')
    const screen = await where()
    const grid = await screen.findByRole('grid', undefined, soon)
    await within(grid).findByText('Adult pays')
    const heads = within(grid).getAllByRole('columnheader')
    expect(heads.map(({ textContent }) => textContent)).to.deep.equal([
      'Key',
      'Case',
      'Chromiumdesk',
      'Geckophone',
      'asked',
    ])
    const [row] = within(grid)
      .getAllByRole('row')
      .filter(({ textContent }) => textContent?.includes('TC-1'))
    expect(
      within(row!)
        .getAllByRole('img')
        .map((mark) => mark.getAttribute('aria-label')),
    ).to.have.members(['Failed', 'Not run'])
    expect(within(grid).getAllByText('0 of 2')).to.have.length(2)
    screen.getByText('4 slots')
    screen.getByText(/^3 empty/)
  })
  it('opens a run of the cells that are chosen by key', async () => {
    const screen = await where()
    const grid = await screen.findByRole('grid', undefined, soon)
    await within(grid).findByText('Adult pays')
    const press = (key: string) => fireEvent.keyDown(grid, { key })
    press(' ')
    await screen.findByText('Run the 2 chosen')
    press(' ')
    press('ArrowDown')
    press(' ')
    press('ArrowRight')
    press(' ')
    await screen.findByText('Run the 2 chosen')
    press(' ')
    fireEvent.click(await screen.findByText('Run the 1 chosen'))
    const dialog = await screen.findByRole('dialog')
    within(dialog).getByText(/^1 item, each in its own environment/)
    fireEvent.submit(dialog.querySelector('form')!)
    await screen.findByText(/is open with 1 item/, undefined, soon)
    const { rows } = await own.lead.ask(listItems, { params: { ref: 'RN-1' } })
    expect(rows.map((row) => row.case)).to.deep.equal(['TC-1'])
  })
  it('chooses all that has no result by a word of the sentence', async () => {
    const screen = await where()
    fireEvent.click(await screen.findByText(/^4 empty/, undefined, soon))
    await screen.findByText('Run the 4 chosen', undefined, soon)
    fireEvent.click(screen.getByText('choose none'))
    expect(screen.getByText('Run the chosen')).to.have.property('disabled', true)
  })
  it('says what each way would cost before it is chosen, and takes a choice back', async () => {
    const screen = await where()
    const grid = await screen.findByRole('grid', undefined, soon)
    await within(grid).findByText('Adult pays')
    fireEvent.keyDown(grid, { key: 'ArrowDown' })
    fireEvent.keyDown(grid, { key: 'a' })
    const dialog = await screen.findByRole('dialog')
    await within(dialog).findByText('3 slots', { selector: 'tr:nth-child(4) td' }, soon)
    fireEvent.click(within(dialog).getByLabelText(/^any one/))
    fireEvent.submit(dialog.querySelector('form')!)
    await screen.findByText('TC-1: any one.', undefined, soon)
    expect((await stored()).asks.map(({ key, way }) => [key, way])).to.deep.equal([['TC-1', 'any']])
    await screen.findByText('3 slots', { selector: 'b' }, soon)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect((await stored()).asks).to.deep.equal([]), soon)
  })
  it('shows what is out of use, and pairs that no environment has', async () => {
    const [, second = 0] = own.environments
    await own.tester.ask(addOutage, { body: { environment: second, fromAt: own.now() - 1000, reason: 'Mast down' } })
    const screen = await where()
    await screen.findByText(/Mast down/, { selector: 'li' }, soon)
    await screen.findByText('Chromium × phone', undefined, soon)
    const grid = await screen.findByRole('grid', undefined, soon)
    await within(grid).findByText(/not to be used: Mast down/)
  })
  it('deals the spread again after it has said what that unseats', async () => {
    const [first = 0] = own.environments
    await ask([{ about: 'plan', id: 0, way: 'spread', environments: [first] }])
    await noticeMembers(own.services, own.project().id, 0)
    const run = await makeRun(own, ['TC-1', 'TC-2'], { environments: [first] })
    for (const { id } of run.items) await execute(own, id, 'Passed')
    await ask([{ about: 'plan', id: 0, way: 'spread' }])
    const screen = await where()
    fireEvent.click(await screen.findByText('deal the spread again…', undefined, soon))
    await screen.findByText(/^1 case would move; 1 result would not count/, undefined, soon)
    fireEvent.click(screen.getByText('Deal again'))
    await screen.findByText('1 case dealt to another environment.', undefined, soon)
    const dealt = () => own.db.$client.prepare('select environment_id from plan_deal order by case_id').pluck().all()
    expect(new Set(dealt()).size).to.equal(2)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(() => expect(new Set(dealt()).size).to.equal(1), soon)
  })
  it('says so when none of its environments is allowed any more', async () => {
    const { key } = await own.lead.ask(createPlan, {
      body: { title: 'On Gecko', release: own.release, environments: [own.environments[1] ?? 0] },
    })
    await own.lead.ask(setFactors, { body: { factorRules: 'never engine Gecko' } })
    const screen = await pageOf(own, 'lead', `${key}?part=where`)
    await screen.findByText('None of its environments is allowed any more', undefined, soon)
    screen.getByText(/Its suites hold no case yet/)
  })
  it('is read by a viewer, who chooses nothing of it', async () => {
    const screen = await pageOf(own, 'viewer', `${plan}?part=where`)
    await screen.findByRole('grid', undefined, soon)
    expect(screen.queryByText('choose them')).to.equal(null)
    expect(screen.queryByText('say it of all')).to.equal(null)
  })
})
