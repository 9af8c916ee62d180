import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listItems, readRun } from '#core/runs/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeDefect, makePlan, makeRun, whole } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('what again', () => {
  let own: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    own = shop()
    const keys: string[] = []
    for (const title of ['Pay by card', 'Hold a place', 'Cancel late', 'Read it out'])
      keys.push(await makeCase(own.lead, title))
    run = await makeRun(own, keys)
    const at = (n: number) => run.items[n]?.id ?? 0
    await execute(own, at(0), 'Passed')
    const failed = await execute(own, at(1), 'Failed')
    await makeDefect(own, failed)
    const stuck = await execute(own, at(2), 'Passed')
    await whole(own, stuck.id, 'Blocked', 'no card')
    own.pass(minute)
  })
  afterEach(() => closeScreen())
  const open = (search = `?runs=${run.key}`, who = 'lead') => pageOf(own, who, `runs/again${search}`)
  const rows = (screen: Awaited<ReturnType<typeof open>>) =>
    within(screen.getByLabelText('What would be executed'))
      .queryAllByRole('listitem')
      .map((row) => row.textContent ?? '')
  const press = (key: string, more: object = {}) => fireEvent.keyDown(document.body, { key, ...more })

  it('counts each reason, and lists what is chosen with why; a key adds a reason and takes it away', async () => {
    const screen = await open()
    await screen.findByText('These 2, and why', undefined, soon)
    expect(rows(screen)[0]).to.match(/TC-2Hold a placeRedfailed: DF-1/)
    expect(rows(screen)[1]).to.match(/TC-3Cancel lateRedstuck/)
    press('5')
    await screen.findByText('These 3, and why', undefined, soon)
    expect(rows(screen)[2]).to.match(/TC-4.*never tried/)
    press('1')
    await waitFor(() => expect(rows(screen).join()).to.not.include('TC-2'), soon)
    expect(location.search).to.include('reasons=stuck%2Cbasis+changed%2Cnever+tried')
  })
  it('says so where nothing is there for the reasons, and where none is chosen', async () => {
    const screen = await open(`?runs=${run.key}&reasons=too old`)
    await screen.findByText(/Of 4 cases and environments none is there for too old/, undefined, soon)
    press('4')
    await screen.findByText('Choose a reason: they add up.', undefined, soon)
    expect(screen.getByText('Open as a run').closest('button')?.disabled).to.equal(true)
  })
  it('opens a run of its own of what is shown, without what was taken out, and keeps why', async () => {
    const screen = await open(`?runs=${run.key}&reasons=failed,stuck,never tried`)
    await screen.findByText('These 3, and why', undefined, soon)
    fireEvent.click(screen.getByLabelText('TC-3 in Red'))
    await screen.findByText('These 2, and why', undefined, soon)
    expect(screen.getByLabelText('What is asked for').textContent).to.match(/taken out by hand1.*2 items/)
    press('Enter', { ctrlKey: true })
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    expect(dialog.getByLabelText<HTMLInputElement>('Title').value).to.match(/^Again on 1\.0\.1, \d+ \w+$/)
    fireEvent.click(dialog.getByText('Open the run'))
    await waitFor(
      async () => expect((await own.lead.ask(readRun, { params: { ref: 'RN-2' } })).items).to.equal(2),
      soon,
    )
    const made = await own.lead.ask(readRun, { params: { ref: 'RN-2' } })
    expect(made.composed).to.deep.include({ runs: [run.key], reasons: ['failed', 'stuck', 'never tried'] })
    const { rows: items } = await own.lead.ask(listItems, { params: { ref: 'RN-2' } })
    expect(items.map((item) => [item.case, item.reasons])).to.deep.equal([
      ['TC-2', ['failed']],
      ['TC-4', ['never tried']],
    ])
  })
  it('makes nothing where something happened meanwhile, and says so', async () => {
    const screen = await open()
    await screen.findByText('These 2, and why', undefined, soon)
    const again = await execute(own, run.items[1]?.id ?? 0, 'Passed')
    expect(again.id).to.be.a('number')
    fireEvent.click(screen.getByText('Open as a run'))
    await screen.findByText(/Something happened meanwhile/, undefined, soon)
    expect(screen.queryByRole('dialog')).to.equal(null)
  })
  it('joins a run that is open: what is there is named, and what came in can be taken back', async () => {
    const other = await makeRun(own, ['TC-2'])
    const screen = await open()
    await screen.findByText('These 2, and why', undefined, soon)
    press('j')
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    await waitFor(() => expect(dialog.getByLabelText('Run')).to.have.property('value', other.key), soon)
    fireEvent.click(dialog.getByText('Join'))
    await screen.findByText(`1 item joined ${other.key}. 1 was in it by now.`, undefined, soon)
    const listed = async () =>
      (await own.lead.ask(listItems, { params: { ref: other.key } })).rows.map((item) => item.case)
    expect(await listed()).to.deep.equal(['TC-2', 'TC-3'])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await listed()).to.deep.equal(['TC-2']), soon)
  })
  it('is narrowed by words, which stand in the address', async () => {
    const screen = await open()
    await screen.findByText('These 2, and why', undefined, soon)
    press('/')
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    fireEvent.change(dialog.getByLabelText('Words in title or steps'), { target: { value: 'cancel' } })
    fireEvent.click(dialog.getByText('Done'))
    await screen.findByText('These 1, and why', undefined, soon)
    expect(location.search).to.include('words=cancel')
    fireEvent.click(screen.getByLabelText('Not narrowed'))
    await screen.findByText('These 2, and why', undefined, soon)
  })
  it('is out of another run or plan as well, or of all that the release asks for, and for another build', async () => {
    const plan = await makePlan(own, ['TC-4'], [own.environments[1]])
    const screen = await open(`?runs=${run.key}&reasons=failed,never tried`)
    await screen.findByText('These 2, and why', undefined, soon)
    const another = () => screen.getByLabelText('Another run or plan', { selector: 'select' })
    await waitFor(() => expect(within(another()).getByText(`${plan.key} The plan`)).to.not.equal(null), soon)
    fireEvent.change(another(), { target: { value: plan.key } })
    await screen.findByText('These 3, and why', undefined, soon)
    expect(location.search).to.include(`plan=${plan.key}`)
    fireEvent.click(screen.getByLabelText('Without The run'))
    await screen.findByText('These 1, and why', undefined, soon)
    expect(rows(screen)[0]).to.match(/TC-4.*Blue.*never tried/)
    fireEvent.click(screen.getByLabelText('Without The plan'))
    await screen.findByText(/all that Release 1\.0 asks for/, undefined, soon)
    fireEvent.change(screen.getByLabelText('For build', { selector: 'select' }), {
      target: { value: String(own.builds[0]) },
    })
    // On the older build nothing was tried.
    await screen.findByText('These 4, and why', undefined, soon)
    expect(rows(screen).every((row) => row.includes('never tried'))).to.equal(true)
  })
  it('rows go by arrows, and are taken out by Space with the focus where it was', async () => {
    const screen = await open()
    await screen.findByText('These 2, and why', undefined, soon)
    const [first, second] = within(screen.getByLabelText('What would be executed')).getAllByRole('checkbox')
    first?.focus()
    fireEvent.keyDown(first as HTMLElement, { key: 'ArrowDown' })
    expect(document.activeElement).to.equal(second)
    fireEvent.click(second as HTMLElement)
    await screen.findByText('These 1, and why', undefined, soon)
    expect(document.activeElement).to.equal(second)
    fireEvent.click(second as HTMLElement)
    await screen.findByText('These 2, and why', undefined, soon)
  })
  it('whoever may not lead runs sees what there is, and makes nothing', async () => {
    const screen = await open(undefined, 'tester')
    await screen.findByText('These 2, and why', undefined, soon)
    expect(screen.queryByText('Open as a run')).to.equal(null)
    press('j')
    expect(screen.queryByRole('dialog')).to.equal(null)
  })
})
