import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readProject } from '#core/projects/contract.ts'
import { addReason, addVerdict, setPolicy } from '#core/projects/words-contract.ts'
import { readRun } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { type Policy, usualPolicy } from '#core/projects/policy.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }
const choose = (input: HTMLElement, value: string) => fireEvent.change(input, { target: { value } })

describe('the policy of runs', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
    localStorage.clear()
  })
  afterEach(() => closeScreen())
  const stored = async () => (await own.lead.ask(readProject)).policy
  const rule = (rules: Partial<Policy>) => own.lead.ask(setPolicy, { body: { ...usualPolicy, ...rules }, version: 0 })

  it('is stored as its four sentences say, and taken back', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/policies')
    expect(await screen.findByText('Store the rules')).to.have.property('disabled', true)
    choose(screen.getByLabelText('Who decides'), 'tester')
    choose(screen.getByLabelText('Who records'), 'named')
    choose(screen.getByLabelText('What becomes of a free item'), 'free')
    expect(screen.getByText(/a lead gives every item to somebody/)).to.not.equal(null)
    fireEvent.click(screen.getByLabelText('On Failed: a defect'))
    choose(screen.getByLabelText('When the run closes'), 'at its end')
    choose(screen.getByLabelText('What may be done to results afterwards'), 'everybody')
    choose(screen.getByLabelText('Days in which results may be amended'), '3')
    choose(screen.getByLabelText('Which versions are executed'), 'approved')
    fireEvent.click(screen.getByLabelText('another build of the run'))
    fireEvent.click(screen.getByText('Store the rules'))
    await screen.findByText(/^The rules are changed/, undefined, soon)
    expect(await stored()).to.deep.equal({
      decides: 'tester',
      records: 'named',
      opens: 'free',
      asked: { Failed: ['a defect'] },
      closes: 'at its end',
      amends: 'everybody',
      amendDays: 3,
      approvedOnly: true,
      spoiledByCase: false,
      spoiledByBuild: true,
    })
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await stored()).to.deep.equal(usualPolicy), soon)
  })
  it('is read by everybody, and changed by leads alone', async () => {
    const screen = await pageOf(own, 'tester', 'set-up/policies')
    expect(await screen.findByLabelText('Who decides')).to.have.property('disabled', true)
    expect(screen.queryByText('Store the rules')).to.equal(null)
  })
  it('of a run marks what differs from the project, and goes back to it', async () => {
    const run = await makeRun(own, [await makeCase(own.lead, 'Adult')])
    const screen = await pageOf(own, 'lead', `${run.key}?full=yes`)
    const side = within(await screen.findByRole('region', { name: 'Policy' }, soon))
    expect(side.getByText(/^As the/)).to.not.equal(null)
    fireEvent.click(side.getByText('change'))
    const dialog = within(await screen.findByRole('dialog', undefined, soon))
    choose(dialog.getByLabelText('Who decides'), 'tester')
    expect(dialog.getByText('(not as in the project)')).to.not.equal(null)
    fireEvent.click(dialog.getByText('Change the policy'))
    const sheet = async () => own.lead.ask(readRun, { params: { ref: run.key } })
    await waitFor(async () => expect((await sheet()).policy.decides).to.equal('tester'), soon)
    await side.findByText(/^The tester decides/, undefined, soon)
    fireEvent.click(side.getByText('change'))
    fireEvent.click(within(await screen.findByRole('dialog', undefined, soon)).getByText('As the project'))
    await waitFor(async () => expect((await sheet()).ownPolicy).to.equal(false), soon)
  })
  it('asks at the desk for what a verdict needs, with a reason to choose, until it is there', async () => {
    await rule({ asked: { Blocked: ['a reason'] } })
    await own.lead.ask(addReason, { body: { verdict: 'Blocked', word: 'Harbour closed' } })
    const run = await makeRun(own, [await makeCase(own.lead, 'Adult', { steps: ['Do'] })])
    const id = run.items[0]?.id ?? 0
    await execute(own, id, 'Blocked')
    const screen = await pageOf(own, 'tester', `desk/${id}`)
    const asked = within(await screen.findByRole('status', { name: 'Asked for' }, soon))
    expect(asked.getByText(/Blocked asks for/)).to.not.equal(null)
    choose(asked.getByLabelText('Reason for Blocked'), 'Harbour closed')
    await asked.findByText(/Reason:/, undefined, soon)
    expect(asked.queryByText(/asks for/)).to.equal(null)
    expect((await own.lead.ask(readDesk, { params: { id } })).attempt?.reason).to.equal('Harbour closed')
  })
  it('lets a tester decide: the steps are notes until Shift and a letter say what the whole is', async () => {
    await rule({ decides: 'tester' })
    const run = await makeRun(own, [await makeCase(own.lead, 'Adult', { steps: ['Do'] })])
    const id = run.items[0]?.id ?? 0
    const screen = await pageOf(own, 'tester', `desk/${id}`)
    await screen.findByText(/^You decide/, undefined, soon)
    fireEvent.keyDown(document.body, { key: 'f' })
    const verdict = async () => (await own.lead.ask(readDesk, { params: { id } })).item.verdict
    await waitFor(async () => expect(await verdict()).to.equal('In progress'), soon)
    fireEvent.keyDown(document.body, { key: 'P', shiftKey: true })
    await waitFor(async () => expect(await verdict()).to.equal('Passed'), soon)
    await waitFor(() => expect(screen.queryByText(/^You decide/)).to.equal(null), soon)
  })
})

describe('the project’s own verdicts', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())
  const kinds = async () => (await own.lead.ask(readProject)).verdictKinds

  it('are added, drawn, retired and taken into use again in the set-up', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/verdicts')
    choose(await screen.findByLabelText('Word of a new verdict'), 'With a remark')
    choose(screen.getByLabelText('Counts as'), 'Passed')
    choose(screen.getByLabelText('Sign of the new verdict'), 'wave')
    fireEvent.click(screen.getByText('Add it'))
    await screen.findByText(/^With a remark can be given from now on/, undefined, soon)
    choose(await screen.findByLabelText('Tint of With a remark', undefined, soon), 'teal')
    await waitFor(async () => expect((await kinds())[0]?.tint).to.equal('teal'), soon)
    fireEvent.click(await screen.findByText(/^retire$/, { selector: 'button' }, soon))
    await waitFor(async () => expect((await kinds())[0]?.retiredAt).to.be.a('number'), soon)
    fireEvent.click(await screen.findByText(/^use again/, { selector: 'button' }, soon))
    await waitFor(async () => expect((await kinds())[0]?.retiredAt).to.equal(null), soon)
    choose(screen.getByLabelText('Word of a new verdict'), 'with a REMARK')
    fireEvent.click(screen.getByText('Add it'))
    await screen.findByText('“With a remark” is there already; nothing was stored.', undefined, soon)
  })
  it('have keys at the desk: a digit for the step, and the same behind w for the whole', async () => {
    const word = { final: true, forItems: true, forSteps: true, sign: 'dot', tint: 'grey' } as const
    await own.lead.ask(addVerdict, { body: { ...word, word: 'Known fault', countsAs: 'Failed' } })
    await own.lead.ask(addVerdict, { body: { ...word, word: 'With a remark', countsAs: 'Passed' } })
    const run = await makeRun(own, [await makeCase(own.lead, 'Adult', { steps: ['Do'] })])
    const id = run.items[0]?.id ?? 0
    const screen = await pageOf(own, 'tester', `desk/${id}`)
    await screen.findByText('Known fault', undefined, soon)
    const item = async () => {
      const row = (await own.lead.ask(readDesk, { params: { id } })).item
      return [row.verdict, row.word]
    }
    fireEvent.keyDown(document.body, { key: '1' })
    await waitFor(async () => expect(await item()).to.deep.equal(['Failed', 'Known fault']), soon)
    fireEvent.keyDown(document.body, { key: 'p' })
    await waitFor(async () => expect(await item()).to.deep.equal(['Passed', null]), soon)
    fireEvent.keyDown(document.body, { key: 'w' })
    await screen.findByRole('group', { name: 'Verdict of the whole item' }, soon)
    // Where the platform has put the focus.
    fireEvent.keyDown(document.activeElement ?? document.body, { key: '2' })
    await waitFor(async () => expect(await item()).to.deep.equal(['Passed', 'With a remark']), soon)
    await screen.findByText('The whole item is With a remark.', undefined, soon)
  })
})
