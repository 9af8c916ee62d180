import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listEnvironments } from '#core/projects/environments-contract.ts'
import { readBuild, readPaths } from '#core/projects/builds-contract.ts'
import { readProject } from '#core/projects/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun, makeSuite, requirement } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('environments in the set-up', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())
  const rows = async () => (await own.lead.ask(listEnvironments)).rows
  const edit = (button: HTMLElement, value: string) => {
    fireEvent.click(button)
    const input = document.activeElement as HTMLInputElement
    fireEvent.change(input, { target: { value } })
    fireEvent.keyDown(input, { key: 'Enter' })
  }

  it('are edited where they stand, and given back', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/environments')
    edit(await screen.findByLabelText(/^Seats of Red/, undefined, soon), '3')
    await waitFor(async () => expect((await rows()).find(({ name }) => name === 'Red')?.seats).to.equal(3), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect((await rows()).find(({ name }) => name === 'Red')?.seats).to.equal(null), soon)
    edit(screen.getByLabelText(/^Seats of Red/), 'many')
    await screen.findByText(/Seats are a whole number from 1/, undefined, soon)
    edit(screen.getByLabelText(/^Address of Red/), 'ftp://x')
    await screen.findByText(/an address begins with http/, undefined, soon)
    fireEvent.change(screen.getByLabelText('Owner of Red'), { target: { value: 'tester' } })
    await waitFor(
      async () => expect((await rows()).find(({ name }) => name === 'Red')?.owner?.id).to.equal('tester'),
      soon,
    )
  })
  it('keep rules that are not understood in the field, with why', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/environments')
    const box = await screen.findByLabelText('Combinations that are not allowed', undefined, soon)
    fireEvent.change(box, { target: { value: 'never engine Trident' } })
    fireEvent.submit(box.closest('form')!)
    await screen.findByText(/“never engine Trident”/, undefined, soon)
    expect(box).to.have.property('value', 'never engine Trident')
    fireEvent.click(screen.getByText('as it was'))
    expect(box).to.have.property('value', '')
    const factors = screen.getByLabelText('Factors and values')
    fireEvent.change(factors, { target: { value: 'engine: Gecko, Chromium' } })
    fireEvent.submit(factors.closest('form')!)
    await screen.findByText('The factors are stored.', undefined, soon)
    await screen.findByLabelText(/^engine of Red/, undefined, soon)
  })
  it('are out of use for a reason, until it is over', async () => {
    const screen = await pageOf(own, 'tester', 'set-up/environments')
    const [out] = await screen.findAllByText(/^out of use…/, undefined, soon)
    fireEvent.click(out!)
    const dialog = await screen.findByRole('dialog')
    const send = within(dialog).getByText('Out of use')
    expect(send).to.have.property('disabled', true)
    fireEvent.change(within(dialog).getByLabelText('Why'), { target: { value: 'Mast down' } })
    fireEvent.change(within(dialog).getByLabelText('Since'), { target: { value: '2026-11-23T08:00' } })
    fireEvent.submit(dialog.querySelector('form')!)
    await screen.findByText(/is out of use; items not begun there are held/, undefined, soon)
    fireEvent.click(await screen.findByText(/^it is over/, undefined, soon))
    await screen.findByText(/can be used again/, undefined, soon)
    expect((await rows()).flatMap(({ outages }) => outages.map(({ untilAt }) => untilAt !== null))).to.deep.equal([
      true,
    ])
    fireEvent.click(await screen.findByText(/^take back/, undefined, soon))
    await waitFor(async () => expect((await rows()).flatMap(({ outages }) => outages)).to.deep.equal([]), soon)
  })
  it('are taken away with their results kept, and brought back', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/environments')
    const [away] = await screen.findAllByText(/^take away/, undefined, soon)
    const before = (await rows()).length
    fireEvent.click(away!)
    await screen.findByText(/is taken away.*Its results stay/, undefined, soon)
    expect(await rows()).to.have.length(before - 1)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await rows()).to.have.length(before), soon)
  })
})

describe('builds in the set-up', () => {
  let own: Shop
  let cases: string[]
  beforeEach(async () => {
    own = shop()
    const [fares = '', deck = ''] = await makeRequirements(own.lead, 'Fares', 'Deck')
    for (const [ref, component] of [
      [fares, 'Fares'],
      [deck, 'Deck'],
    ] as const)
      await own.lead.ask(updateRequirement, {
        params: { ref },
        body: { component },
        version: (await requirement(own.lead, ref)).version,
      })
    cases = [
      await makeCase(own.lead, 'Adult pays', { proves: fares }),
      await makeCase(own.lead, 'Car is placed', { proves: deck }),
    ]
    await makePlan(own, cases, [own.environments[0] ?? 0])
    const run = await makeRun(own, cases)
    for (const { id } of run.items) await execute(own, id, 'Passed')
  })
  afterEach(() => closeScreen())
  const newest = async () => (await own.lead.ask(readProject)).builds.at(-1)?.id ?? 0
  const build = async () => own.lead.ask(readBuild, { params: { id: await newest() } })
  const fill = (input: HTMLElement, value: string) => {
    fireEvent.change(input, { target: { value } })
    fireEvent.submit(input.closest('form')!)
  }
  const offered = async () => {
    const screen = await pageOf(own, 'lead', 'set-up/releases')
    fill(await screen.findByLabelText('A new build of 1.0'), '1.0.2')
    const dialog = await screen.findByRole('dialog', undefined, soon)
    return { screen, dialog: within(dialog) }
  }

  it('say at once what they make stale, and open the run that answers it', async () => {
    const { screen, dialog } = await offered()
    await dialog.findByText('2 results', undefined, soon)
    fireEvent.click(dialog.getByText('Open a run of these items'))
    expect(await screen.findByDisplayValue('What 1.0.2 made stale', undefined, soon)).to.not.equal(null)
    const form = screen.getByDisplayValue('What 1.0.2 made stale').closest('form')!
    fireEvent.submit(form)
    await screen.findByText(/is open with 2 items/, undefined, soon)
  })
  it('are told what they touch by components, by a requirement, and by changed paths', async () => {
    const { screen, dialog } = await offered()
    fireEvent.click(await dialog.findByText('a requirement', undefined, soon))
    fill(await dialog.findByLabelText(/^Keys to add/), 'RQ-1')
    await dialog.findByText(/RQ-1 Fares; what proves nothing/, undefined, soon)
    await dialog.findByText('1 result', undefined, soon)
    dialog.getByText(/1 result stays current because it says/)
    fireEvent.click(dialog.getByText('everything'))
    await dialog.findByText('Nobody said it, so everything.', undefined, soon)
    fireEvent.click(dialog.getByText('from changed paths'))
    fill(await dialog.findByLabelText('Changed paths'), 'src/deck/lane.ts')
    await screen.findByText(/no table of paths yet/, undefined, soon)
    await own.lead.send('PUT', '/projects/SHOP/paths', { paths: 'src/deck/: Deck' })
    fill(dialog.getByLabelText('Changed paths'), 'src/deck/lane.ts\nREADME.md')
    await dialog.findByText(/does not know README.md/, undefined, soon)
    fill(dialog.getByLabelText('Changed paths'), 'src/deck/lane.ts')
    await dialog.findByText(/Deck; what proves nothing/, undefined, soon)
    expect((await build()).touches?.components).to.deep.equal(['Deck'])
  })
  it('stay in intake until their smoke suite has passed, or somebody says why not', async () => {
    const suite = await makeSuite(own.lead, 'Smoke', cases)
    await own.lead.send('PUT', '/projects/SHOP/paths', { smokeSuite: suite.id })
    const screen = await pageOf(own, 'lead', 'set-up/releases')
    fireEvent.click(await screen.findByLabelText(/^into intake first/))
    fill(screen.getByLabelText('A new build of 1.0'), '1.0.2')
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    await dialog.findByText('0 of 2', undefined, soon)
    fireEvent.click(dialog.getByText('Offer it'))
    await screen.findByText(/1\.0\.2 stays in intake: 2 of 2 cases/, undefined, soon)
    fill(dialog.getByLabelText('Why it is offered all the same'), 'Sign-in alone is mended')
    await screen.findByText('1.0.2 is offered for testing.', undefined, soon)
    expect((await build()).state).to.equal('Offered')
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect((await build()).state).to.equal('Intake'), soon)
  })
  it('are kept apart by a table of paths that says which line is wrong', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/releases')
    const table = await screen.findByLabelText('Paths of components', undefined, soon)
    fill(table, 'only words')
    await screen.findByText(/“only words”: write a path/, undefined, soon)
    fill(table, 'src/deck/: Deck')
    await screen.findByText('The table of paths is stored.', undefined, soon)
    expect((await own.lead.ask(readPaths)).paths).to.equal('src/deck/: Deck')
  })
})
