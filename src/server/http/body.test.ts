import { expect } from 'chai'
import { Refusal } from '#core/lib/refusal.ts'
import { type BodyLimit, bytesOf, json } from './body.ts'

const limit: BodyLimit = { bytes: 1000, seconds: 5, tooLarge: 'Too much.' }

/** A request whose body comes in parts, with no length said. */
const sending = (pull: (controller: ReadableStreamDefaultController<Uint8Array>) => void | Promise<void>) => {
  const body = new ReadableStream<Uint8Array>({ pull }, { highWaterMark: 0 })
  const init: RequestInit & { duplex: 'half' } = { method: 'POST', body, duplex: 'half' }
  return new Request('http://here.invalid/', init)
}

const refusalOf = async (work: Promise<unknown>): Promise<string> => {
  try {
    await work
    return 'answered'
  } catch (error) {
    return error instanceof Refusal ? error.code : String(error)
  }
}

it('reads a body to its end', async () => {
  const parts = ['{"a":', '1}']
  const request = sending((controller) => {
    const part = parts.shift()
    if (part === undefined) controller.close()
    else controller.enqueue(new TextEncoder().encode(part))
  })
  expect((await bytesOf(request, limit)).toString()).to.equal('{"a":1}')
})
it('counts while it reads, and reads no further than it must', async () => {
  let sent = 0
  const endless = sending((controller) => {
    sent += 400
    controller.enqueue(new Uint8Array(400))
  })
  expect(await refusalOf(bytesOf(endless, limit))).to.equal('too-large')
  expect(sent).to.be.lessThan(2000)
})
it('does not begin with one that says it is too large', async () => {
  let asked = 0
  const request = sending(() => {
    asked += 1
  })
  request.headers.set('content-length', '1001')
  expect([await refusalOf(bytesOf(request, limit)), asked]).to.deep.equal(['too-large', 0])
})
it('waits for a slow body, and not for ever', async () => {
  const slow = sending((controller) => {
    controller.enqueue(new Uint8Array(1))
    return new Promise((resolve) => setTimeout(resolve, 30))
  })
  expect(await refusalOf(bytesOf(slow, { ...limit, seconds: 0.2 }))).to.equal('too-slow')
  const silent = sending(() => new Promise(() => undefined))
  expect(await refusalOf(bytesOf(silent, { ...limit, seconds: 0.1 }))).to.equal('too-slow')
})
it('refuses the sign NUL as it is escaped, and leaves letters that only look like it', () => {
  const slash = '\\'
  expect(() => json(`{"name":"a${slash}u0000b"}`)).to.throw(Refusal, 'NUL')
  expect(() => json(`{"name":"a${slash.repeat(3)}u0000b"}`)).to.throw(Refusal, 'NUL')
  expect(json(`{"name":"a${slash.repeat(2)}u0000b"}`)).to.deep.equal({ name: `a${slash}u0000b` })
  expect(() => json('{"name":')).to.throw(Refusal, 'not JSON')
})
