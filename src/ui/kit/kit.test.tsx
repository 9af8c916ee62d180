import { expect } from 'chai'
import { act, cleanup, fireEvent, render, waitFor } from '@testing-library/react'
import { type ReactNode, useEffect, useState } from 'react'
import { renderToString } from 'react-dom/server'
import { Choice } from './Choice.tsx'
import { Dialog } from './Dialog.tsx'
import { KeepingFor, KeptNote, useKept } from './kept.tsx'
import { Notices, notify } from './notices.tsx'
import { EditText } from './EditText.tsx'
import { LineList } from './LineList.tsx'
import { Lines } from './Lines.tsx'
import { keyOf, listenForKeys, readKeySettings, useKeys, writeKeySettings } from './keys.ts'
import { Split } from './Split.tsx'
import { Counted, namedRow, ownKnot, Thread } from './Thread.tsx'
import { hearTypedBefore } from './typed-before.ts'
import { Unfold } from './Unfold.tsx'
import { Words } from './Words.tsx'

afterEach(() => {
  cleanup()
  localStorage.clear()
})

describe('text that is edited where it stands', () => {
  const edited = () => {
    const stored: string[] = []
    const { getByLabelText } = render(<EditText label="Title" value="Pay" onStore={(value) => stored.push(value)} />)
    fireEvent.click(getByLabelText('Title: Pay. Edit'))
    return { input: getByLabelText('Title'), stored }
  }
  it('is stored once by Enter, without the blanks at its ends', () => {
    const { input, stored } = edited()
    fireEvent.change(input, { target: { value: ' Pay by card ' } })
    fireEvent.keyDown(input, { key: 'Enter' })
    fireEvent.blur(input)
    expect(stored).to.deep.equal(['Pay by card'])
  })
  it('is taken back by Esc, and not stored where nothing changed', () => {
    const first = edited()
    fireEvent.change(first.input, { target: { value: 'Other' } })
    fireEvent.keyDown(first.input, { key: 'Escape' })
    expect(first.stored).to.deep.equal([])
    cleanup()
    const second = edited()
    fireEvent.blur(second.input)
    expect(second.stored).to.deep.equal([])
  })
  it('is not stored over what somebody else stored while one wrote, unless one says so', async () => {
    const stored: string[] = []
    const shown = (value: string) => (
      <>
        <EditText label="Title" value={value} onStore={(to) => stored.push(to)} />
        <Notices />
      </>
    )
    const { getByLabelText, rerender, findByText, getByText } = render(shown('Pay'))
    fireEvent.click(getByLabelText('Title: Pay. Edit'))
    fireEvent.change(getByLabelText('Title'), { target: { value: 'Pay by card' } })
    rerender(shown('Pay at the desk'))
    fireEvent.keyDown(getByLabelText('Title'), { key: 'Enter' })
    await findByText('Somebody else stored “Pay at the desk” while you wrote “Pay by card”. Yours is not stored.')
    expect(stored).to.deep.equal([])
    fireEvent.click(getByText('Store mine'))
    expect(stored).to.deep.equal(['Pay by card'])
  })
})

describe('a choice', () => {
  it('tells what was chosen by its value, and shows a value it does not know', () => {
    const chosen: string[] = []
    const { getByLabelText, container } = render(
      <Choice label="Build" value="gone" options={[{ value: '1', label: '1.0' }]} onChoose={(to) => chosen.push(to)} />,
    )
    expect(container.textContent).to.include('gone')
    fireEvent.change(getByLabelText('Build'), { target: { value: '1' } })
    expect(chosen).to.deep.equal(['1'])
  })
})

describe('lines', () => {
  function List() {
    const [lines, setLines] = useState<readonly string[]>(['age: integer', '  child: 4 to 15'])
    return <LineList label="Inputs" lines={lines} onChange={setLines} placeholder="name" indents />
  }
  const texts = (container: HTMLElement) => [...container.querySelectorAll('input')].map(({ value }) => value)
  it('are begun by Enter, which keeps the indent and moves the focus', () => {
    const { container, getByLabelText } = render(<List />)
    fireEvent.keyDown(getByLabelText('Inputs, line 2'), { key: 'Enter' })
    expect(texts(container)).to.deep.equal(['age: integer', '  child: 4 to 15', '  ', ''])
    expect(document.activeElement?.getAttribute('aria-label')).to.equal('Inputs, line 3')
  })
  it('are swapped by Alt and an arrow, indented by Tab, and left by Esc and Tab', () => {
    const { container, getByLabelText } = render(<List />)
    fireEvent.keyDown(getByLabelText('Inputs, line 2'), { key: 'ArrowUp', altKey: true })
    expect(texts(container).slice(0, 2)).to.deep.equal(['  child: 4 to 15', 'age: integer'])
    fireEvent.keyDown(getByLabelText('Inputs, line 2'), { key: 'Tab' })
    expect(texts(container)[1]).to.equal('  age: integer')
    fireEvent.keyDown(getByLabelText('Inputs, line 2'), { key: 'Escape' })
    const tab = fireEvent.keyDown(getByLabelText('Inputs, line 2'), { key: 'Tab' })
    expect(tab).to.equal(true)
    expect(texts(container)[1]).to.equal('  age: integer')
  })
  it('keep their indent in a box where Enter begins another', () => {
    const { getByLabelText } = render(
      <Lines label="Titles" place="titles" placeholder="" action="Store" onStore={async () => true} />,
    )
    const box = getByLabelText('Titles')
    fireEvent.change(box, { target: { value: 'Pay\n\tOpen' } })
    if (box instanceof HTMLTextAreaElement) box.setSelectionRange(9, 9)
    fireEvent.keyDown(box, { key: 'Enter' })
    expect(box).to.have.property('value', 'Pay\n\tOpen\n\t')
    expect(box).to.have.property('selectionStart', 11)
  })
  it('are counted in a box, stored by Ctrl and Enter, and stay when they are refused', async () => {
    const stored: string[] = []
    const store = async (lines: string) => stored.push(lines) > 1
    const { getByLabelText, findByText } = render(
      <Lines label="Titles" place="titles" placeholder="" action="Store" onStore={store} />,
    )
    const box = getByLabelText('Titles')
    fireEvent.change(box, { target: { value: 'one\n\ntwo' } })
    await findByText('Store 2 lines')
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await findByText('Store 2 lines')
    expect(box).to.have.property('value', 'one\n\ntwo')
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await findByText('Store')
    expect(box).to.have.property('value', '')
    expect(document.activeElement).to.equal(box)
    expect(stored).to.deep.equal(['one\n\ntwo', 'one\n\ntwo'])
  })
})

describe('a dialog', () => {
  it('takes the focus to what is written first, and gives it back', () => {
    const before = document.createElement('button')
    document.body.append(before)
    before.focus()
    const { getByLabelText, unmount } = render(
      <Dialog title="Ask" onClose={() => undefined}>
        <input type="checkbox" aria-label="Tick" />
        <input aria-label="Words" />
      </Dialog>,
    )
    expect(document.activeElement).to.equal(getByLabelText('Words'))
    unmount()
    expect(document.activeElement).to.equal(before)
    before.remove()
  })
  it('is closed by a click beside, but not by a selection let go outside', () => {
    let closed = 0
    const { getByRole, getByLabelText } = render(
      <Dialog title="Ask" onClose={() => (closed += 1)}>
        <input aria-label="Words" />
      </Dialog>,
    )
    const beside = getByRole('dialog')
    fireEvent.pointerDown(getByLabelText('Words'))
    fireEvent.click(beside)
    expect(closed).to.equal(0)
    fireEvent.pointerDown(beside)
    fireEvent.click(beside)
    expect(closed).to.equal(1)
  })
  it('shows what is told meanwhile in front of the page, and leaves it to the page when it closes', () => {
    let undone = 0
    const page = (open: boolean) => (
      <>
        {open && <Dialog title="Ask" onClose={() => undefined} children="Which?" />}
        <Notices />
      </>
    )
    const { getByRole, getByText, rerender, queryAllByText } = render(page(true))
    const within = () => getByRole('dialog').contains(getByText('Stored.'))
    act(() => notify('Stored.', { undo: () => (undone += 1) }))
    expect(within()).to.equal(true)
    rerender(page(false))
    expect(queryAllByText('Stored.')).to.have.length(1)
    rerender(page(true))
    expect(within()).to.equal(true)
    fireEvent.click(getByText('Undo'))
    expect([undone, queryAllByText('Stored.').length]).to.deep.equal([1, 0])
  })
})

describe('what is typed and not stored', () => {
  function Box({ place = 'box' }: { place?: string }) {
    const [typed, set, keeping] = useKept(place, { words: '', sure: false })
    return (
      <>
        <input
          aria-label="Words"
          value={typed.words}
          onChange={({ target }) => set({ ...typed, words: target.value })}
        />
        <button onClick={keeping.done}>Store</button>
        <KeptNote of={keeping} />
      </>
    )
  }
  const boxOf = (person: string, place?: string) => {
    const box = render(
      <KeepingFor value={person}>
        <Box {...(place !== undefined && { place })} />
      </KeepingFor>,
    )
    return { ...box, words: () => box.getByLabelText('Words') }
  }
  const type = (to: HTMLElement, value: string) => fireEvent.change(to, { target: { value } })
  const textOf = (of: HTMLElement) => Object(of).value

  it('is there when the box opens again, and says so, until it is discarded', () => {
    const first = boxOf('mira')
    type(first.words(), 'Fog horn')
    expect(first.queryByRole('status')).to.equal(null)
    first.unmount()
    const again = boxOf('mira')
    expect(textOf(again.words())).to.equal('Fog horn')
    fireEvent.click(again.getByText('discard it'))
    expect(textOf(again.words())).to.equal('')
    again.unmount()
    expect(textOf(boxOf('mira').words())).to.equal('')
  })
  it('is nobody else’s, stands in no other place, and is gone once it is stored', () => {
    const first = boxOf('mira')
    type(first.words(), 'Fog horn')
    cleanup()
    expect(textOf(boxOf('jon').words())).to.equal('')
    cleanup()
    expect(textOf(boxOf('mira', 'other').words())).to.equal('')
    cleanup()
    const own = boxOf('mira')
    fireEvent.click(own.getByText('Store'))
    expect(localStorage).to.have.lengthOf(0)
  })
  it('is kept beside what another window keeps at the same place', () => {
    const here = boxOf('mira')
    const there = boxOf('mira')
    const [one, two] = [here, there].map(({ container }) => container.querySelector('input'))
    if (one) type(one, 'one')
    if (two) type(two, 'two')
    const [store] = here.getAllByText('Store')
    if (store) fireEvent.click(store)
    cleanup()
    expect(textOf(boxOf('mira').words())).to.equal('two')
  })
  it('of another kind than is asked for is left alone', () => {
    localStorage.setItem('rovant.kept.mira.box', JSON.stringify({ at: 1, value: { words: ['old'] } }))
    expect(textOf(boxOf('mira').words())).to.equal('')
  })
})

describe('keys', () => {
  function Bound({ run, keys = 'n' }: { run: () => void; keys?: string }) {
    useKeys([{ id: 'new', keys, label: 'new', run }])
    return <input aria-label="Text" />
  }
  const counting = () => {
    let count = 0
    return { run: () => (count += 1), count: () => count }
  }
  it('run what they are bound to, but not where somebody writes', () => {
    const stop = listenForKeys()
    const bound = counting()
    const { getByLabelText } = render(<Bound run={bound.run} />)
    fireEvent.keyDown(document.body, { key: 'n' })
    fireEvent.keyDown(getByLabelText('Text'), { key: 'n' })
    expect(bound.count()).to.equal(1)
    stop()
  })
  it('may be a person’s own, or silent', () => {
    const stop = listenForKeys()
    const bound = counting()
    render(<Bound run={bound.run} />)
    writeKeySettings({ letters: true, own: { new: 'Ctrl+j' } })
    fireEvent.keyDown(document.body, { key: 'n' })
    fireEvent.keyDown(document.body, { key: 'j', ctrlKey: true })
    expect(bound.count()).to.equal(1)
    writeKeySettings({ letters: false, own: {} })
    fireEvent.keyDown(document.body, { key: 'n' })
    expect(bound.count()).to.equal(1)
    stop()
  })
  it('are read from what is kept, and as they come where that is broken', () => {
    localStorage.setItem('rovant.keys', '{"letters":false,"own":{"new":"x","odd":7}}')
    expect(readKeySettings()).to.deep.equal({ letters: false, own: { new: 'x' } })
    localStorage.setItem('rovant.keys', 'broken')
    expect(readKeySettings()).to.deep.equal({ letters: true, own: {} })
    const binding = { id: 'new', keys: 'n', label: 'new', run: () => undefined }
    expect(keyOf(binding, { letters: true, own: { new: 'x' } })).to.equal('x')
  })
})

describe('what is shown of objects', () => {
  it('is a thread whose knots open, but not one’s own', () => {
    const { container, getByLabelText } = render(
      <Thread
        knots={[
          ownKnot('case', 'TC-1', 'version 1.0'),
          {
            name: 'defects',
            text: <Counted n={1} one="open defect" />,
            rows: [namedRow('/p/SHOP/DF-1', 'DF-1', 'Late')],
          },
          { name: 'results', text: 'no result', rows: [] },
        ]}
      />,
    )
    expect(getByLabelText('defects, open').textContent).to.equal('1 open defect')
    expect(container.querySelectorAll('details')).to.have.length(1)
    expect(container.querySelector('[data-own]')?.textContent).to.equal('TC-1 version 1.0')
    expect(container.querySelector('a')?.getAttribute('href')).to.equal('/p/SHOP/DF-1')
  })
  it('is a text with what was put in and taken out', () => {
    const { container } = render(
      <Words
        of={[
          { kind: 'same', text: 'Pay ' },
          { kind: 'removed', text: 'cash' },
          { kind: 'added', text: 'card' },
        ]}
      />,
    )
    expect(container.innerHTML).to.include('<del>cash</del><ins>card</ins>')
  })
  it('stands beside its list, with a divider that keys move within bounds', () => {
    const { getByRole } = render(<Split index="list" sheet="sheet" full={false} label="Cases" />)
    const divider = getByRole('separator')
    for (let at = 0; at < 30; at++) fireEvent.keyDown(divider, { key: 'ArrowLeft' })
    expect(divider.getAttribute('aria-valuenow')).to.equal('25')
    expect(localStorage.getItem('rovant.divider')).to.equal('25')
  })
})

describe('a page whose programs are not there yet', () => {
  /** The page as the server sent it, then what a person does there, then the programs take it over. */
  function takenOver(page: ReactNode, does: (page: HTMLElement) => void): HTMLElement {
    const place = document.body.appendChild(document.createElement('div'))
    place.innerHTML = renderToString(page)
    does(place)
    render(page, { container: place, hydrate: true })
    return place
  }
  function Notes() {
    const [lines, setLines] = useState<readonly string[]>(['One'])
    useEffect(hearTypedBefore, [])
    return (
      <>
        <LineList label="Notes" lines={lines} placeholder="" onChange={setLines} />
        <output>{lines.join(', ')}</output>
      </>
    )
  }
  it('has heard, once they are, what was typed in several of its boxes', async () => {
    const write = (box: HTMLInputElement | undefined, text: string) => {
      if (!box) throw new Error('there is no box')
      box.value = text
      window.typedBefore?.set(box, text)
    }
    window.typedBefore = new Map()
    const page = takenOver(<Notes />, (place) => {
      const [one, fresh] = place.querySelectorAll('input')
      write(one, 'First')
      write(fresh, 'Second')
    })
    await waitFor(() => expect(page.querySelector('output')?.textContent).to.equal('First, Second'))
    expect([...page.querySelectorAll('input')].map(({ value }) => value)).to.deep.equal(['First', 'Second', ''])
  })
  it('writes nothing where nobody typed, whatever the browser itself put there', async () => {
    window.typedBefore = new Map()
    const page = takenOver(<Notes />, (place) => {
      const [one] = place.querySelectorAll('input')
      if (one) one.value = 'from the last time'
    })
    await new Promise((resolve) => setTimeout(resolve, 50))
    expect(page.querySelector('output')?.textContent).to.equal('One')
  })
  it('shows what stands below a line that was unfolded before', async () => {
    const page = takenOver(<Unfold summary="More">below</Unfold>, (place) => {
      const details = place.querySelector('details')
      if (details) details.open = true
    })
    await waitFor(() => expect(page.textContent).to.contain('below'))
  })
})
