import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { readRequirement } from '#core/requirements/contract.ts'
import { createModel, readDrafting } from '#core/techniques/contract.ts'
import type { DraftInput } from '#core/techniques/draft.ts'
import { makeRequirements } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 5000 }
const combos: DraftInput = {
  technique: 'combos',
  body: { parameters: { device: ['phone', 'desk'], age: ['child', 'adult'], pay: ['card', 'cash'] } },
}
const decisions: DraftInput = {
  technique: 'decisions',
  body: {
    conditions: { resident: ['yes', 'no'], age: ['child', 'adult'] },
    rules: [{ when: { resident: ['yes'] }, then: { fare: 'half' } }],
  },
}

describe('the drafting table', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    await makeRequirements(own.lead, 'Fares of a crossing')
  })
  afterEach(() => closeScreen())
  const model = (name: string, of: DraftInput) =>
    own.lead.ask(createModel, { params: { ref: 'RQ-1' }, body: { name, model: of } })
  const open = (person = 'lead') => pageOf(own, person, 'RQ-1/draft')
  const table = async () => (await own.lead.ask(readDrafting, { params: { ref: 'RQ-1' } })).models[0]
  const press = (key: string) => fireEvent.keyDown(document.body, { key })

  it('begins with no model, and makes one by a key', async () => {
    const screen = await open()
    await screen.findByText('No model yet')
    press('2')
    await screen.findByText('Combinations', { selector: 'a' }, soon)
    expect((await table())?.technique).to.equal('combos')
  })

  it('accepts all rows as cases linked to the requirement, and takes that back', async () => {
    await model('Devices', combos)
    const screen = await open()
    fireEvent.click(await screen.findByText('Accept 4 as cases', undefined, soon))
    await screen.findByText(/written and linked to RQ-1/, undefined, soon)
    const linked = async () => (await own.lead.ask(readRequirement, { params: { ref: 'RQ-1' } })).linked
    expect(await linked()).to.have.length(4)
    await screen.findByText('All accepted', undefined, soon)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await linked()).to.have.length(0), soon)
  })

  it('leaves a row out by a key, and proposes it again', async () => {
    await model('Devices', combos)
    const screen = await open()
    await screen.findByText('Accept 4 as cases', undefined, soon)
    press('j')
    press('o')
    await screen.findByText('Accept 3 as cases', undefined, soon)
    fireEvent.click(await screen.findByText('propose again', undefined, soon))
    await screen.findByText('Accept 4 as cases', undefined, soon)
    expect((await table())?.rows).to.deep.equal([])
  })

  it('stores what is typed, and says what cannot be computed at its line', async () => {
    await model('Devices', combos)
    const screen = await open()
    const line = await screen.findByLabelText('New line of Parameters', undefined, soon)
    fireEvent.change(line, { target: { value: 'deck: car, foot' } })
    await waitFor(async () => expect(JSON.stringify((await table())?.model)).to.include('deck'), soon)
    const rule = screen.getByLabelText('New line of Rules')
    fireEvent.change(rule, { target: { value: 'never deck car with harbour Ove' } })
    await waitFor(
      () => expect(screen.getByLabelText('Rules, line 1').getAttribute('aria-invalid')).to.equal('true'),
      soon,
    )
  })

  it('finds what a decision table leaves out, and adds the rules for it', async () => {
    await model('Fares', decisions)
    const screen = await open()
    await screen.findByText(/No rule for/, undefined, soon)
    fireEvent.click(screen.getByText('add it'))
    await screen.findByText('Every possible combination has a rule.', undefined, soon)
    fireEvent.click(screen.getByText('Undo'))
    await screen.findByText(/No rule for/, undefined, soon)
  })

  it('refuses a value that a condition does not have, and keeps the cell as it was', async () => {
    await model('Fares', decisions)
    const screen = await open()
    const cell = await screen.findByLabelText('age in rule 1', undefined, soon)
    fireEvent.change(cell, { target: { value: 'pensioner' } })
    fireEvent.blur(cell)
    await screen.findByText(/age has no value “pensioner”/)
    expect(cell).to.have.property('value', '')
  })

  it('is read and not changed by a viewer', async () => {
    await model('Devices', combos)
    const screen = await open('viewer')
    await screen.findByText(/^4 cases proposed/, undefined, soon)
    expect(screen.queryByText(/^Accept/)).to.equal(null)
    expect(screen.queryByText('take away')).to.equal(null)
  })
})
