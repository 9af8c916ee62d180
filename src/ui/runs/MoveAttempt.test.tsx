import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { listAttempts, readAttempt } from '#core/runs/attempts-contract.ts'
import { listItems, readRun } from '#core/runs/contract.ts'
import { recordStep } from '#core/runs/desk-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makeRun, sent, start, whole } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, type Shown } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('an attempt recorded in the wrong place', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    await makeCase(own.lead, 'Adult', { steps: ['Enter it', 'Pay'] })
    await makeCase(own.lead, 'Child', { steps: ['Look'] })
    await makeRun(own, ['TC-1', 'TC-2'], { environments: own.environments })
  })
  afterEach(() => closeScreen())
  const items = async (ref = 'RN-1') => (await own.viewer.ask(listItems, { params: { ref } })).rows
  const attempts = async () => (await own.viewer.ask(listAttempts)).rows
  const found = async (key: string, environment = 'Red') => {
    const row = (await items()).find((each) => each.case === key && each.environment === environment)
    return row?.verdict
  }
  const failed = async () => {
    const attempt = await execute(own, (await items())[0]?.id ?? 0, 'Failed')
    await whole(own, attempt.id, 'Failed')
    return attempt
  }
  const opened = async (attempt: number, who = 'lead') => {
    const screen = await pageOf(own, who, `runs/attempts?attempt=${attempt}`)
    await screen.findByRole('article', undefined, soon)
    return screen
  }
  const move = async (screen: Shown, to: { run?: string; case?: string; environment?: string }) => {
    fireEvent.click(await screen.findByText('move it', { selector: 'button' }, soon))
    const of = await screen.findByLabelText('Case', { selector: 'input' }, soon)
    if (to.case !== undefined) fireEvent.change(of, { target: { value: to.case } })
    if (to.run !== undefined) fireEvent.change(screen.getByLabelText('Run'), { target: { value: to.run } })
    if (to.environment !== undefined) {
      const form = within(of.closest('form') ?? document.body)
      const choice = form.getByLabelText<HTMLSelectElement>('Environment', { selector: 'select' })
      const option = [...choice.options].find(({ text }) => text === to.environment)
      fireEvent.change(choice, { target: { value: option?.value } })
    }
    fireEvent.submit(of.closest('form') ?? of)
  }

  it('goes to its item in another environment, and back by undo', async () => {
    const screen = await opened((await failed()).id)
    await move(screen, { environment: 'Blue' })
    await screen.findByText('It stands at TC-1 in RN-1 now.', undefined, soon)
    expect([await found('TC-1', 'Red'), await found('TC-1', 'Blue')]).to.deep.equal(['Not run', 'Failed'])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await found('TC-1', 'Red')).to.equal('Failed'), soon)
    expect(await found('TC-1', 'Blue')).to.equal('Not run')
    expect((await attempts()).length).to.equal(1)
  })
  it('goes to another case, typed in small letters; the old one stays and says so, and undo brings it back', async () => {
    const { id } = await failed()
    const screen = await opened(id)
    await move(screen, { case: ' tc-2 ' })
    await screen.findByText(/Its verdict stands at TC-2 now/, undefined, soon)
    expect([await found('TC-1'), await found('TC-2')]).to.deep.equal(['Not run', 'Failed'])
    expect((await attempts()).map((row) => [row.case, row.struck !== null])).to.have.deep.members([
      ['TC-1', true],
      ['TC-2', false],
    ])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(
      async () => expect([await found('TC-1'), await found('TC-2')]).to.deep.equal(['Failed', 'Not run']),
      soon,
    )
  })
  it('is refused in a sentence where there is no such item, and keeps what was typed', async () => {
    const screen = await opened((await failed()).id)
    await move(screen, { run: 'rn-7' })
    await screen.findByText(/RN-7/, undefined, soon)
    expect(screen.getByLabelText('Run')).to.have.property('value', 'RN-7')
    expect(await found('TC-1')).to.equal('Failed')
  })
  it('is moved by nobody but leads', async () => {
    const screen = await opened((await failed()).id, 'tester')
    expect(screen.queryByText('move it')).to.equal(null)
  })
  it('has a data row changed for another, and back by undo', async () => {
    const { content, contentStamp } = await caseOf(own.lead, 'TC-1')
    await own.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, parameters: ['age'], rows: [{ age: '4' }, { age: '40' }] }, stamp: contentStamp },
    })
    const attempt = await start(own, (await items())[0]?.id ?? 0)
    const [step] = attempt.steps
    await own.tester.ask(recordStep, {
      params: { id: attempt.id, row: 1, step: step?.id ?? 0 },
      body: { verdict: 'Failed', ...sent(own) },
    })
    const marked = async () =>
      (await own.viewer.ask(readAttempt, { params: { id: attempt.id } })).attempt.marks.map(({ row }) => row)
    const screen = await opened(attempt.id)
    const article = within(screen.getByRole('article'))
    fireEvent.change(await article.findByLabelText('Row 1 belongs to', { selector: 'select' }, soon), {
      target: { value: '2' },
    })
    await screen.findByText('What was said of rows 1 and 2 has changed places.', undefined, soon)
    expect(await marked()).to.deep.equal([2])
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await marked()).to.deep.equal([1]), soon)
    expect((await own.viewer.ask(readRun, { params: { ref: 'RN-1' } })).items).to.equal(4)
  })
})
