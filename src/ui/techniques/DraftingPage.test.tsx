import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { readRequirement } from '#core/requirements/contract.ts'
import { createModel, readDrafting, updateModel } from '#core/techniques/contract.ts'
import type { DraftInput } from '#core/techniques/draft.ts'
import { makeRequirements } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, closeTab, lineDown, type Shown } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }
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

  it('has the focus in a model that was just made as soon as it is shown, and leaves it to whoever writes there since', async () => {
    const screen = await open()
    await screen.findByText('No model yet')
    let release = (): void => undefined
    const held = new Promise<void>((resolve) => {
      release = resolve
    })
    screen.line.between = async (asked, answer) => {
      if (/^GET .*\/frame/.test(asked)) await held
      return answer()
    }
    press('2')
    const first = await screen.findByLabelText('New line of Parameters', undefined, soon)
    await waitFor(() => expect(document.activeElement).to.equal(first))
    fireEvent.change(first, { target: { value: 'deck: car, foot' } })
    const second = screen.getByLabelText('New line of Parameters')
    second.focus()
    release()
    await waitFor(() => expect(location.search).to.match(/model=/), soon)
    expect(document.activeElement).to.equal(second)
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

  it('refuses a value that a condition does not have, marks it and leaves it as typed; Esc puts back what was there', async () => {
    await model('Fares', decisions)
    const screen = await open()
    const cell = await screen.findByLabelText('age in rule 1', undefined, soon)
    fireEvent.change(cell, { target: { value: 'pensioner' } })
    fireEvent.blur(cell)
    await screen.findByText(/age has no value “pensioner”/)
    expect(cell).to.have.property('value', 'pensioner')
    expect(cell.getAttribute('aria-invalid')).to.equal('true')
    fireEvent.keyDown(cell, { key: 'Escape' })
    fireEvent.blur(cell)
    await waitFor(() => expect(cell.getAttribute('aria-invalid')).to.equal(null))
    expect(cell).to.have.property('value', '')
  })

  it('keeps the first outcome typed, with Enter or by leaving the box, and says when there is one already', async () => {
    await model('Fares', { technique: 'decisions', body: { conditions: { age: ['child', 'adult'] }, rules: [] } })
    const screen = await open()
    const box = await screen.findByLabelText('Name of another outcome', undefined, soon)
    fireEvent.change(box, { target: { value: 'fare' } })
    fireEvent.blur(box)
    const cell = await screen.findByLabelText('fare of rule 1', undefined, soon)
    fireEvent.change(cell, { target: { value: 'half' } })
    fireEvent.blur(cell)
    await waitFor(async () => expect(JSON.stringify((await table())?.model)).to.include('"fare":"half"'), soon)
    fireEvent.change(box, { target: { value: 'fare' } })
    fireEvent.keyDown(box, { key: 'Enter' })
    await screen.findByText('There is an outcome fare already.')
    expect(box).to.have.property('value', 'fare')
  })

  it('leaves a rule aside whose condition is being written anew, and shows what it said', async () => {
    await model('Fares', decisions)
    const screen = await open()
    const line = await screen.findByLabelText('Conditions, line 1', undefined, soon)
    fireEvent.change(line, { target: { value: 'lives here: yes, no' } })
    await screen.findByText('Rule 1: There is no condition resident. The rule is left aside.', undefined, soon)
    expect(screen.getByLabelText('resident in rule 1')).to.have.property('value', 'yes')
    expect(screen.queryByText('No cases')).to.equal(null)
    fireEvent.change(line, { target: { value: 'resident: yes, no' } })
    await screen.findByText(/^1 case proposed/, undefined, soon)
    await waitFor(
      async () => expect(JSON.stringify((await table())?.model)).to.include('"when":{"resident":["yes"]}'),
      soon,
    )
  })

  it('goes on with the other ranges while one is wrong, and says so above the cases', async () => {
    await model('Ages', {
      technique: 'boundaries',
      body: { inputs: { age: { type: 'integer', partitions: [{ name: 'child', from: 4, to: 15 }] } } },
    })
    const screen = await open()
    await screen.findByText(/^4 cases proposed/, undefined, soon)
    fireEvent.change(screen.getByLabelText('New line of Inputs'), { target: { value: '  adult: 64 to 16' } })
    await screen.findByText('adult begins at 64 and ends before, at 16.', undefined, soon)
    await screen.findByText('without 1 line that cannot be read')
    await screen.findByText(/^4 cases proposed/)
  })

  const typed = async (screen: Shown, text: string) =>
    fireEvent.change(await screen.findByLabelText('Parameters, line 1', undefined, soon), { target: { value: text } })
  const source = async () => (await table())?.source['parameters'] ?? []
  /** What somebody else stores meanwhile. */
  const theirs = async (parameters: Record<string, string[]>, strength = 2) => {
    const now = await table()
    const body = { model: { technique: 'combos' as const, body: { parameters, strength } }, source: {} }
    await own.lead.ask(updateModel, { params: { id: now?.id ?? 0 }, body, version: now?.version ?? 0 })
  }
  const devices = { device: ['phone', 'desk'], age: ['child', 'adult'], pay: ['card', 'cash'] }

  it('keeps what is typed while the line is down, and sends it when it is back', async () => {
    await model('Devices', combos)
    const screen = await open()
    await screen.findByText('Accept 4 as cases', undefined, soon)
    screen.line.between = lineDown
    await typed(screen, 'device: phone, desk, kiosk')
    await screen.findByText(/kept in this browser and sent when the server answers/, undefined, soon)
    fireEvent.click(screen.getByText(/^Accept \d as cases/))
    await screen.findByText(/not stored yet, so nothing is done/, undefined, soon)
    screen.line.between = (_, answer) => answer()
    await waitFor(async () => expect((await source())[0]).to.equal('device: phone, desk, kiosk'), { timeout: 8000 })
  })

  it('finds what was typed in a closed tab and stores it', async () => {
    await model('Devices', combos)
    const screen = await open()
    await screen.findByText('Accept 4 as cases', undefined, soon)
    screen.line.between = lineDown
    await typed(screen, 'device: phone, desk, kiosk')
    closeTab()
    expect((await source()).join()).to.not.include('kiosk')
    const again = await open()
    await again.findByText(/^What you typed here on .* was found; it was not stored yet\.$/, undefined, soon)
    await waitFor(async () => expect((await source())[0]).to.equal('device: phone, desk, kiosk'), soon)
  })

  it('brings together what two typed in different parts, and asks where they wrote in one', async () => {
    await model('Devices', combos)
    const screen = await open()
    await screen.findByText('Accept 4 as cases', undefined, soon)
    screen.line.between = lineDown
    await typed(screen, 'device: phone, desk, kiosk')
    await theirs(devices, 3)
    screen.line.between = (_, answer) => answer()
    await waitFor(async () => expect((await source())[0]).to.equal('device: phone, desk, kiosk'), { timeout: 8000 })
    expect(JSON.stringify((await table())?.model), 'theirs of another part').to.include('"strength":3')
    screen.line.between = lineDown
    await typed(screen, 'device: phone, desk, watch')
    await theirs({ ...devices, device: ['phone', 'tablet'] }, 3)
    screen.line.between = (_, answer) => answer()
    const both = await screen.findByLabelText('Two texts of Parameters', undefined, { timeout: 8000 })
    expect(both.textContent).to.include('tablet').and.to.include('watch')
    expect((await source()).join(), 'theirs stands until one chooses').to.not.include('watch')
    fireEvent.click(screen.getByText('Keep yours'))
    await waitFor(async () => expect((await source())[0]).to.equal('device: phone, desk, watch'), soon)
    expect(screen.queryByLabelText('Two texts of Parameters')).to.equal(null)
  })

  it('is never kept for another person at the same browser', async () => {
    await model('Devices', combos)
    const screen = await open()
    await screen.findByText('Accept 4 as cases', undefined, soon)
    screen.line.between = lineDown
    await typed(screen, 'device: phone, desk, kiosk')
    closeTab()
    const other = await open('tester')
    await other.findByText('Accept 4 as cases', undefined, soon)
    expect(other.queryByText(/was found/)).to.equal(null)
    expect((await source()).join()).to.not.include('kiosk')
  })

  it('is read and not changed by a viewer', async () => {
    await model('Devices', combos)
    const screen = await open('viewer')
    await screen.findByText(/^4 cases proposed/, undefined, soon)
    expect(screen.queryByText(/^Accept/)).to.equal(null)
    expect(screen.queryByText('take away')).to.equal(null)
  })
})
