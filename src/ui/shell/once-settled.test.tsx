import { fireEvent, waitFor } from '@testing-library/react'
import { expect } from 'chai'
import { shop } from '#test/app.ts'
import { makeCase } from '#test/make.ts'
import { closeScreen, screenOf } from '#test/screen/screen.tsx'
import { InsertDialog } from '#ui/reuse/InsertDialog.tsx'
import { FindOrDo } from './FindOrDo.tsx'
import { LinkBox } from './LinkBox.tsx'

// A practised hand types and presses Enter before the server answers: what is taken is what was asked for.

async function shopWithCases() {
  const of = shop()
  for (const title of ['Anchor is weighed', 'Beacon is lit'])
    await makeCase(of.lead, title, { steps: ['Go to the quay'] })
  return of
}

/** Answers what is found only when let go. */
function slowFinding(line: Awaited<ReturnType<typeof screenOf>>['line']) {
  const waiting: (() => void)[] = []
  line.between = async (asked, answer) => {
    if (asked.includes('Beacon') || asked.includes('beacon')) await new Promise<void>((go) => waiting.push(go))
    return answer()
  }
  return async () => {
    await waitFor(() => expect(waiting).not.to.have.length(0))
    for (const go of waiting.splice(0)) go()
  }
}

describe('Enter before the answer is here', () => {
  afterEach(() => closeScreen())
  it('links what the words find, not what the list said of the words before', async () => {
    const linked: string[][] = []
    const of = await screenOf(
      await shopWithCases(),
      'lead',
      <LinkBox onLink={async (refs) => void linked.push(refs)} />,
    )
    const answer = slowFinding(of.line)
    const box = of.getByLabelText(/^Keys to link/)
    fireEvent.change(box, { target: { value: 'Anchor' } })
    await of.findByText('Anchor is weighed')
    fireEvent.change(box, { target: { value: 'Beacon' } })
    await of.user.click(of.getByText('Link'))
    expect(linked).to.deep.equal([])
    await answer()
    await waitFor(() => expect(linked).to.deep.equal([['TC-2']]))
  })
  it('links keys at once, which need no answer', async () => {
    const linked: string[][] = []
    const of = await screenOf(
      await shopWithCases(),
      'lead',
      <LinkBox onLink={async (refs) => void linked.push(refs)} />,
    )
    fireEvent.change(of.getByLabelText(/^Keys to link/), { target: { value: 'tc-1, 2' } })
    await of.user.click(of.getByText('Link'))
    expect(linked).to.deep.equal([['TC-1', 'TC-2']])
  })
  it('inserts the steps of the case that was asked for', async () => {
    const inserted: string[] = []
    const dialog = (
      <InsertDialog
        own="TC-9"
        onInsert={(steps) => inserted.push(...steps.map(({ use }) => use?.ref ?? ''))}
        onClose={() => undefined}
      />
    )
    const of = await screenOf(await shopWithCases(), 'lead', dialog)
    const answer = slowFinding(of.line)
    const box = of.getByLabelText('Find a routine or a case')
    fireEvent.change(box, { target: { value: 'Anchor' } })
    await of.findByText('Anchor is weighed')
    fireEvent.change(box, { target: { value: 'Beacon' } })
    fireEvent.keyDown(box, { key: 'Enter' })
    expect(inserted).to.deep.equal([])
    await answer()
    await waitFor(() => expect(inserted).to.deep.equal(['TC-2']))
  })
  it('goes to what is found, once it is found', async () => {
    const of = await screenOf(
      await shopWithCases(),
      'lead',
      <FindOrDo onClose={() => undefined} onKeys={() => undefined} />,
    )
    const answer = slowFinding(of.line)
    const box = of.getByPlaceholderText(/^A key, some words/)
    fireEvent.change(box, { target: { value: 'Anchor' } })
    await of.findByText('Anchor is weighed')
    const presses: boolean[] = []
    box.addEventListener('keydown', (event) => {
      presses.push(event.isTrusted)
      event.stopPropagation()
    })
    fireEvent.change(box, { target: { value: 'Beacon' } })
    fireEvent.keyDown(box.closest('[cmdk-root]')!, { key: 'Enter' })
    expect(presses).to.deep.equal([])
    await answer()
    await of.findByText('Beacon is lit')
    await waitFor(() => expect(presses).to.have.length(1))
  })
})
