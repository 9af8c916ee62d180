import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { addFile, listAttachments, listComments, listInbox } from '#core/talk/contract.ts'
import { makeCase } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { closeScreen, screenOf } from '#test/screen/screen.tsx'
import { Attachments } from './Attachments.tsx'
import { Comments } from './Comments.tsx'
import { Inbox } from './Inbox.tsx'

const soon = { timeout: 20_000 }

describe('what people say', () => {
  let own: Shop
  let key: string
  beforeEach(async () => {
    own = shop()
    key = await makeCase(own.lead, 'Pay by card')
  })
  afterEach(() => closeScreen())
  const comment = async () => {
    const screen = await screenOf(own, 'lead', <Comments about={key} />)
    const box = await screen.findByLabelText('Comment')
    const type = (value: string) => fireEvent.change(box, { target: { value, selectionStart: value.length } })
    return { screen, box, type }
  }

  it('names people by @, the one the arrows choose', async () => {
    const { screen, box, type } = await comment()
    type('@')
    expect((await screen.findByLabelText('People')).textContent).to.equal('Second PersonTester PersonViewer Person')
    fireEvent.keyDown(box, { key: 'ArrowDown' })
    fireEvent.keyDown(box, { key: 'Enter' })
    expect(box).to.have.property('value', '@Tester Person ')
    expect(screen.queryByLabelText('People')).to.equal(null)
  })

  it('is stored as it reads, and tells who is named', async () => {
    const { screen, box, type } = await comment()
    type('@Tester Person is 2 < 3?\n\nAnd the fare')
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await screen.findByText('Tester Person is told.', undefined, soon)
    const { rows } = await own.lead.ask(listComments, { query: { ref: key } })
    expect(rows[0]?.text).to.equal('<p>@Tester Person is 2 &lt; 3?</p><p>And the fare</p>')
    expect(box).to.have.property('value', '')
    expect((await own.tester.ask(listInbox)).unread).to.equal(1)
  })

  it('keeps what was typed when the server cannot take it', async () => {
    const { screen, box, type } = await comment()
    screen.line.between = async (asked, answer) =>
      asked.startsWith('POST') ? new Response('{}', { status: 500 }) : answer()
    type('Not lost')
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await waitFor(() => expect(screen.line.sent.some((asked) => asked.startsWith('POST'))).to.equal(true))
    expect(box).to.have.property('value', 'Not lost')
  })
})

describe('the inbox', () => {
  afterEach(() => closeScreen())
  it('counts what is not seen, and forgets it when all is', async () => {
    const own = shop()
    const key = await makeCase(own.lead, 'Pay by card')
    const said = await screenOf(own, 'lead', <Comments about={key} />)
    fireEvent.change(await said.findByLabelText('Comment'), { target: { value: '@Tester Person look' } })
    fireEvent.click(await said.findByText('Comment', { selector: 'button' }))
    await said.findByText('Tester Person is told.', undefined, soon)
    closeScreen()
    const screen = await screenOf(own, 'tester', <Inbox />)
    await waitFor(() => expect(screen.getByText('Inbox', { selector: 'button' }).textContent).to.equal('Inbox1'), soon)
    fireEvent.click(screen.getByText('Inbox', { selector: 'button' }))
    expect(screen.getByLabelText('Inbox').textContent).to.include('Lead P.: @Tester Person look')
    fireEvent.click(screen.getByText('all seen'))
    await waitFor(async () => expect((await own.tester.ask(listInbox)).unread).to.equal(0), soon)
    fireEvent.keyDown(screen.getByLabelText('Inbox'), { key: 'Escape' })
    expect(screen.queryByLabelText('Inbox')).to.equal(null)
  })
})

describe('files of an object', () => {
  afterEach(() => closeScreen())
  it('are taken away and given back', async () => {
    const own = shop()
    const key = await makeCase(own.lead, 'Pay by card')
    const query = { ref: key, name: 'fare.txt' }
    await own.lead.ask(addFile, { query, file: 'twelve', mime: 'text/plain' })
    const screen = await screenOf(own, 'lead', <Attachments about={key} />)
    await screen.findByText('fare.txt')
    expect(screen.container.textContent).to.include('6 B, Lead P.')
    fireEvent.click(screen.getByText(/take fare.txt away/))
    await screen.findByText('None. Drop one here.', undefined, soon)
    fireEvent.click(screen.getByText('Undo'))
    await screen.findByText('fare.txt', undefined, soon)
    expect((await own.lead.ask(listAttachments, { query: { ref: key } })).rows).to.have.length(1)
  })
})
