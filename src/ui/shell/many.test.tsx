import { act } from '@testing-library/react'
import { expect } from 'chai'
import { changeCases, type CaseSet } from '#core/cases/contract.ts'
import { shop } from '#test/app.ts'
import { screenOf } from '#test/screen/screen.tsx'
import { useMany } from './many.ts'

const ids = Array.from({ length: 300 }, (_, at) => at + 1)
const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status })

/** A button that changes all of them. */
function ChangeAll() {
  const { set } = useMany<CaseSet>(changeCases, { params: { key: 'SHOP' }, one: 'case', nothing: {} })
  return <button onClick={() => void set(ids, { importance: 'High' })}>Change them</button>
}

describe('a change of many that takes longer than a moment', () => {
  it('says how far it is, is stopped from there, and says what stayed with its way back', async () => {
    const of = await screenOf(shop(), 'tester', <ChangeAll />)
    const answers: ((answer: Response) => void)[] = []
    const bodies: string[] = []
    of.line.between = (asked) => {
      if (asked.startsWith('PATCH ')) return new Promise((resolve) => answers.push(resolve))
      bodies.push(asked)
      if (asked.startsWith('DELETE '))
        answers.at(-1)?.(
          json({
            changed: 30,
            undo: ids.slice(0, 30).map((id) => ({ id, set: { importance: 'Low' } })),
            stopped: 'Stopped after 30 of 300; what was done so far stays.',
          }),
        )
      return Promise.resolve(json(asked.startsWith('GET ') ? { done: 30, of: 300 } : { ok: true }))
    }
    await of.user.click(of.getByText('Change them'))
    expect(of.queryByRole('progressbar')).to.equal(null)
    const bar = await of.findByRole('progressbar', { name: 'Changing 300 cases …' }, { timeout: 3000 })
    expect(bar.getAttribute('value')).to.equal('0.1')
    await of.user.click(of.getByText('Stop'))
    await of.findByText('30 of 300 cases changed. Stopped after 30 of 300; what was done so far stays.')
    expect(of.queryByRole('progressbar')).to.equal(null)
    const names = new Set(bodies.map((asked) => /going\/([\w-]+)/.exec(asked)?.[1]))
    expect([...names]).to.have.length(1)
    await of.user.click(of.getByText('Undo'))
    expect(of.line.sent.filter((asked) => asked.startsWith('PATCH '))).to.have.length(2)
    answers.at(-1)?.(json({ changed: 30, undo: [] }))
  })
  it('says nothing of it where it is done at once', async () => {
    const of = await screenOf(shop(), 'tester', <ChangeAll />)
    of.line.between = async (asked) => json(asked.startsWith('PATCH ') ? { changed: 300, undo: [] } : {}, 200)
    await of.user.click(of.getByText('Change them'))
    await of.findByText('300 cases changed.')
    await act(() => new Promise((resolve) => setTimeout(resolve, 900)))
    expect(of.queryByRole('progressbar')).to.equal(null)
    expect(of.line.sent.filter((asked) => asked.includes('/going/'))).to.deep.equal([])
  })
})
