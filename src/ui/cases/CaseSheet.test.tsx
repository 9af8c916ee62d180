import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readVersion, storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import { listenForKeys } from '#ui/kit/keys.ts'
import { addRemark, caseOf, makeCase, makeRun, remark } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { closeScreen, lineDown, screenOf, type Screen } from '#test/screen/screen.tsx'
import { CaseSheetView } from './CaseSheet.tsx'

const textIn = (cell: HTMLElement): string => (cell instanceof HTMLTextAreaElement ? cell.value : '')
/** Stored after a pause in typing. */
const soon = { timeout: 4000 }

describe('a case that is written', () => {
  let own: Shop
  let key: string
  beforeEach(async () => {
    own = shop()
    key = await makeCase(own.lead, 'Pay by card', { steps: ['Open the desk => It asks who you are', 'Tap Pay'] })
  })
  afterEach(() => closeScreen())
  const kept = () => `rovant.working.lead.SHOP.${key}`
  const keepUnsent = (content: object, base: object, stamp: string) =>
    localStorage.setItem(kept(), JSON.stringify({ content, base, stamp, at: Date.now() }))
  const open = (person = 'lead') =>
    screenOf(own, person, <CaseSheetView about={key} served={null} onClose={() => undefined} />)
  const cell = (screen: Screen, step: number, field = 'action') => screen.findByLabelText(`Step ${step}, ${field}`)
  const type = async (screen: Screen, step: number, text: string, field = 'action') =>
    fireEvent.change(await cell(screen, step, field), { target: { value: text } })
  const stored = async () =>
    (await caseOf(own.lead, key)).content.steps.map(({ action, expected }) => [action, expected])

  it('is stored as it is typed', async () => {
    const screen = await open()
    await type(screen, 2, 'Tap Pay twice')
    await screen.findByText(/^Stored \d\d:\d\d$/, undefined, soon)
    expect(await stored()).to.deep.equal([
      ['Open the desk', 'It asks who you are'],
      ['Tap Pay twice', ''],
    ])
  })

  it('shows over builds what each attempt came to, in the project’s own word', async () => {
    addRemark(own)
    const { items } = await makeRun(own, [key])
    const attempt = await remark(own, items[0]?.id ?? 0)
    const screen = await open('viewer')
    await screen.findByText('Red: With a remark', undefined, soon)
    const strip = within(await screen.findByRole('region', { name: 'Results over builds' }, soon))
    expect(strip.getByRole('link', { name: 'With a remark on 1.0.1, Red' }).getAttribute('href')).to.include(
      `attempt=${attempt.id}`,
    )
  })

  it('gets a step by Enter, loses an empty one by Backspace, and the focus goes along', async () => {
    const screen = await open()
    fireEvent.keyDown(await cell(screen, 1), { key: 'Enter' })
    const fresh = await cell(screen, 2)
    expect(document.activeElement).to.equal(fresh)
    fireEvent.keyDown(fresh, { key: 'Backspace' })
    expect(document.activeElement).to.equal(await cell(screen, 1))
    expect(screen.queryByLabelText('Step 3, action')).to.equal(null)
  })

  it('has its steps moved by Alt and an arrow', async () => {
    const screen = await open()
    fireEvent.keyDown(await cell(screen, 2), { key: 'ArrowUp', altKey: true })
    expect(textIn(await cell(screen, 1))).to.equal('Tap Pay')
    await waitFor(async () => expect((await stored())[0]![0]).to.equal('Tap Pay'), soon)
  })

  it('takes the columns of a spreadsheet where they are pasted', async () => {
    const screen = await open()
    fireEvent.paste(await cell(screen, 2, 'expected'), {
      clipboardData: { getData: () => 'Paid\tcard 4000\nOne charge\t' },
    })
    await waitFor(
      async () =>
        expect((await caseOf(own.lead, key)).content.steps.map(({ expected, data }) => [expected, data])).to.deep.equal(
          [
            ['It asks who you are', ''],
            ['Paid', 'card 4000'],
            ['One charge', ''],
          ],
        ),
      soon,
    )
  })

  it('keeps lines that are pasted into a cell in that cell, and makes steps of them when one asks', async () => {
    const screen = await open()
    const text = 'Show the card\nShow the pass'
    const paste = async (field: string) =>
      fireEvent.paste(await cell(screen, 1, field), { clipboardData: { getData: () => text } })
    expect(await paste('expected'), 'left to the browser').to.equal(true)
    expect(textIn(await cell(screen, 2, 'expected'))).to.equal('')
    expect(await paste('action'), 'left to the browser').to.equal(true)
    fireEvent.click(await screen.findByText('Make 2 steps of them'))
    await waitFor(
      async () =>
        expect((await stored()).map(([action]) => action)).to.deep.equal([
          'Open the desk',
          'Show the card',
          'Show the pass',
          'Tap Pay',
        ]),
      soon,
    )
  })

  it('takes back a paste, a removed step and a move in order, and no typing in another cell', async () => {
    const screen = await open()
    const actions = () =>
      [...document.querySelectorAll('[data-step-cell$=":action"]')].map((each) => Object(each).value)
    fireEvent.paste(await cell(screen, 1), { clipboardData: { getData: () => 'One\tseen\nTwo\t' } })
    fireEvent.click(screen.getByLabelText('Remove step 1'))
    fireEvent.keyDown(await cell(screen, 1), { key: 'ArrowDown', altKey: true })
    await type(screen, 3, 'Tap it')
    expect(actions()).to.deep.equal(['Two', 'One', 'Tap it'])
    const undo = async () => fireEvent.keyDown(await cell(screen, 1), { key: 'z', ctrlKey: true })
    await undo()
    expect(actions()).to.deep.equal(['One', 'Two', 'Tap it'])
    await undo()
    expect(actions()).to.deep.equal(['Open the desk', 'One', 'Two', 'Tap it'])
    await undo()
    expect(actions()).to.deep.equal(['Open the desk', 'Tap it'])
    expect(await undo(), 'nothing is left to the browser').to.equal(false)
    expect(actions()).to.deep.equal(['Open the desk', 'Tap it'])
    fireEvent.keyDown(await cell(screen, 1), { key: 'z', ctrlKey: true, shiftKey: true })
    expect(actions()).to.deep.equal(['Open the desk', 'One', 'Two', 'Tap it'])
  })

  it('is cut as a version from within a step, with the last letters', async () => {
    const stop = listenForKeys()
    const screen = await open()
    await type(screen, 1, 'Open the hatch')
    fireEvent.keyDown(await cell(screen, 1), { key: 's', ctrlKey: true })
    await screen.findByText(/^Version 0\.\d is cut\.$/, undefined, soon)
    const { versions } = await caseOf(own.lead, key)
    const { content } = await own.lead.ask(readVersion, { params: { id: versions[0]?.id ?? 0 } })
    expect(content.steps[0]?.action).to.equal('Open the hatch')
    stop()
  })

  it('is kept in the browser while the line is down, and sent when it is back', async () => {
    const screen = await open()
    await cell(screen, 1)
    screen.line.between = lineDown
    await type(screen, 1, 'Open the desk on the phone')
    await screen.findByText(/kept in this browser/, undefined, soon)
    expect((await stored())[0]![0]).to.equal('Open the desk')
    expect(localStorage.getItem(kept())).to.include('on the phone')
    screen.line.between = (_, answer) => answer()
    await screen.findByText(/^Stored/, undefined, { timeout: 6000 })
    expect((await stored())[0]![0]).to.equal('Open the desk on the phone')
    expect(localStorage.getItem(kept())).to.equal(null)
  })

  it('finds what was typed here before and never sent', async () => {
    const { content, contentStamp } = await caseOf(own.lead, key)
    const typed = { ...content, preconditions: 'A held place' }
    keepUnsent(typed, content, contentStamp)
    const screen = await open()
    await screen.findByText(/What you typed here at .* was found/)
    await waitFor(async () => expect((await caseOf(own.lead, key)).content.preconditions).to.include('held'), soon)
  })

  it('is shown beside what others stored since it was typed here and not sent, and one chooses', async () => {
    const { content, contentStamp } = await caseOf(own.lead, key)
    const [first, ...rest] = content.steps
    const wrote = (action: string) => ({ ...content, steps: first ? [{ ...first, action }, ...rest] : rest })
    keepUnsent({ ...wrote('Open the window'), preconditions: 'A held place' }, content, contentStamp)
    await own.tester.ask(storeWorkingCopy, {
      params: { ref: key },
      body: { content: wrote('Open the door'), stamp: contentStamp },
    })
    const screen = await open()
    const clash = await screen.findByRole('group', { name: 'Two texts of Step 1 action' }, soon)
    expect(clash.textContent).to.include('Open the door').and.to.include('window')
    expect((await stored())[0]![0]).to.equal('Open the door')
    fireEvent.click(screen.getByText('Keep yours'))
    await waitFor(async () => expect((await stored())[0]![0]).to.equal('Open the window'), soon)
    expect((await caseOf(own.lead, key)).content.preconditions).to.equal('A held place')
  })

  it('is sent once when the server refuses it, and again when it is changed', async () => {
    const screen = await open()
    await type(screen, 1, 'x'.repeat(30_000))
    await screen.findByText(/kept in this browser/, undefined, soon)
    const sent = () =>
      screen.line.sent.filter((asked) => asked.startsWith(storeWorkingCopy.method) && asked.includes('working'))
    const { length } = sent()
    await new Promise((resolve) => setTimeout(resolve, 1600))
    expect(sent()).to.have.length(length)
    await type(screen, 1, 'Open it')
    await screen.findByText(/^Stored/, undefined, soon)
    expect((await stored())[0]![0]).to.equal('Open it')
  })

  describe('by two at once', () => {
    const theirs = async () => {
      const { content, contentStamp } = await caseOf(own.tester, key)
      const steps = [{ ...content.steps[0]!, action: 'Open the door' }, ...content.steps.slice(1)]
      await own.tester.ask(storeWorkingCopy, {
        params: { ref: key },
        body: { content: { ...content, steps }, stamp: contentStamp },
      })
    }
    const clash = async () => {
      const screen = await open()
      await cell(screen, 1)
      await theirs()
      await type(screen, 1, 'Open the window')
      await screen.findByText('Take theirs', undefined, soon)
      return screen
    }
    it('stands together where they wrote in different cells, without a question', async () => {
      const screen = await open()
      await cell(screen, 1)
      await theirs()
      await type(screen, 2, 'Pay by card')
      await screen.findByText(/^Stored/, undefined, soon)
      expect((await stored()).map(([action]) => action)).to.deep.equal(['Open the door', 'Pay by card'])
      expect(textIn(await cell(screen, 1))).to.equal('Open the door')
      expect(screen.queryByText('Take theirs')).to.equal(null)
    })
    it('is theirs when one takes it', async () => {
      const screen = await clash()
      fireEvent.click(screen.getByText('Take theirs'))
      expect(textIn(await cell(screen, 1))).to.equal('Open the door')
      await screen.findByText(/^Stored/, undefined, soon)
      expect((await stored())[0]![0]).to.equal('Open the door')
    })
    it('is both when they are joined', async () => {
      const screen = await clash()
      fireEvent.click(screen.getByText('Join both'))
      await waitFor(async () => expect((await stored())[0]![0]).to.equal('Open the door\nOpen the window'), soon)
    })
    it('is one’s own when one keeps it, and is not asked twice meanwhile', async () => {
      const screen = await clash()
      const asked = screen.line.sent.length
      await new Promise((resolve) => setTimeout(resolve, 1500))
      expect(screen.line.sent.slice(asked).filter((each) => !each.startsWith('GET'))).to.deep.equal([])
      fireEvent.click(screen.getByText('Keep yours'))
      await waitFor(async () => expect((await stored())[0]![0]).to.equal('Open the window'), soon)
    })
    it('waits for the choice over a reload', async () => {
      const screen = await clash()
      screen.unmount()
      const again = await open()
      await again.findByText('Take theirs', undefined, soon)
      expect(textIn(await cell(again, 1))).to.equal('Open the window')
      expect((await stored())[0]![0]).to.equal('Open the door')
    })
  })

  describe('by its facts', () => {
    const choose = async (screen: Screen, name: string, value: string) =>
      fireEvent.change(await screen.findByLabelText(name, { selector: 'select' }), { target: { value } })
    it('takes quick changes of several fields one after the other', async () => {
      const screen = await open()
      await choose(screen, 'Importance', 'Critical')
      await choose(screen, 'Automation', 'Candidate')
      await choose(screen, 'Owner', 'tester')
      await waitFor(async () => {
        const { importance, automation, ownerId } = await caseOf(own.lead, key)
        expect([importance, automation, ownerId]).to.deep.equal(['Critical', 'Candidate', 'tester'])
      }, soon)
      expect(screen.queryByText(/store it over/)).to.equal(null)
    })
    it('stand beside what somebody else stored in other fields, without a question', async () => {
      const screen = await open()
      await screen.findByLabelText('Importance')
      const { version } = await caseOf(own.tester, key)
      await own.tester.ask(updateCase, { params: { ref: key }, body: { component: 'Fares' }, version })
      await choose(screen, 'Importance', 'Low')
      await waitFor(async () => expect((await caseOf(own.lead, key)).importance).to.equal('Low'), soon)
      expect((await caseOf(own.lead, key)).component).to.equal('Fares')
    })
    const addTag = async (screen: Screen, tag: string) => {
      fireEvent.click(await screen.findByLabelText(/^A new tag/))
      const input = screen.getByLabelText('A new tag', { selector: 'input' })
      fireEvent.change(input, { target: { value: tag } })
      fireEvent.keyDown(input, { key: 'Enter' })
    }
    it('keep the tags of both who added one, and two that one adds in a row on a slow line', async () => {
      const screen = await open()
      await screen.findByLabelText('Importance')
      const { version } = await caseOf(own.tester, key)
      await own.tester.ask(updateCase, { params: { ref: key }, body: { tags: ['theirs'] }, version })
      screen.line.between = async (_, answer) => {
        await new Promise((resolve) => setTimeout(resolve, 400))
        return answer()
      }
      await addTag(screen, 'one')
      await addTag(screen, 'two')
      await waitFor(
        async () => expect((await caseOf(own.lead, key)).tags).to.deep.equal(['one', 'theirs', 'two']),
        soon,
      )
    })
    it('are asked about where somebody else stored the same field, with both, and stored when one says so', async () => {
      const screen = await open()
      await screen.findByLabelText('Importance')
      const { version } = await caseOf(own.tester, key)
      await own.tester.ask(updateCase, { params: { ref: key }, body: { importance: 'High' }, version })
      await choose(screen, 'Importance', 'Low')
      await screen.findByText(/importance “High”; yours is “Low”/, undefined, soon)
      expect((await caseOf(own.lead, key)).importance).to.equal('High')
      fireEvent.click(screen.getByText('Store mine'))
      await waitFor(async () => expect((await caseOf(own.lead, key)).importance).to.equal('Low'), soon)
    })
    it('are not stored without the server, which is said, and tried again when one asks', async () => {
      const screen = await open()
      await screen.findByLabelText('Importance')
      screen.line.between = lineDown
      await choose(screen, 'Importance', 'Low')
      await screen.findByText('The server cannot be reached; this is not stored.', undefined, soon)
      screen.line.between = (_, answer) => answer()
      fireEvent.click(screen.getByText('Try again'))
      await waitFor(async () => expect((await caseOf(own.lead, key)).importance).to.equal('Low'), soon)
    })
    it('keep an estimate over one that cannot be read, and read hours', async () => {
      const screen = await open()
      const estimate = async (text: string) => {
        fireEvent.click(await screen.findByLabelText(/^Estimate in minutes: .*\. Edit$/))
        const input = screen.getByLabelText('Estimate in minutes')
        fireEvent.change(input, { target: { value: text } })
        fireEvent.keyDown(input, { key: 'Enter' })
      }
      await estimate('1h 30')
      await waitFor(async () => expect((await caseOf(own.lead, key)).estimate).to.equal(90), soon)
      await screen.findByLabelText('Estimate in minutes: 90. Edit', undefined, soon)
      await estimate('12.5')
      await screen.findByText(/“12.5” is no estimate; it stays as it was/)
      expect((await caseOf(own.lead, key)).estimate).to.equal(90)
    })
    it('says what was refused to whom', async () => {
      const screen = await open('viewer')
      await choose(screen, 'Importance', 'Low')
      await waitFor(
        () => expect(screen.container.ownerDocument.body.textContent).to.match(/viewer|may not|cannot/i),
        soon,
      )
      expect((await caseOf(own.lead, key)).importance).to.equal('Medium')
    })
  })
})
