import { createServer, type RequestListener, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { expect } from 'chai'
import { askOutside, hostOf, isInside, OutsideProblem } from './outside.ts'

let server: Server
let heard: string[] = []
let answer: RequestListener
before(
  () =>
    new Promise<void>((resolve) => {
      server = createServer((request, response) => {
        heard.push(`${request.method} ${request.url} ${request.headers.authorization ?? ''}`)
        answer(request, response)
      }).listen(0, '127.0.0.1', resolve)
    }),
)
after(() => {
  server.closeAllConnections()
  server.close()
})
beforeEach(() => {
  heard = []
  answer = (_, response) => response.end('{"issues":[]}')
})

const port = () => (server.address() as AddressInfo).port
const ask = async (host: string, allowed: readonly string[] = []): Promise<string> => {
  try {
    const told = await askOutside({
      url: new URL(`http://${host}:${port()}/api/issues`),
      headers: { authorization: 'Bearer x' },
      allowed,
    })
    return `${told.status} ${told.text.slice(0, 20)}`
  } catch (error) {
    return error instanceof OutsideProblem ? error.message : `broke: ${String(error)}`
  }
}

it('asks no address inside, however it is written, and sends it nothing', async () => {
  for (const host of [
    '127.0.0.1',
    'localhost',
    '127.1',
    '0x7f.1',
    '2130706433',
    '[::1]',
    '[::ffff:127.0.0.1]',
    '0.0.0.0',
  ])
    expect(await ask(host), host).to.match(/which is inside this network; an administrator can allow that very host/)
  expect(heard).to.deep.equal([])
})
it('asks a host that an administrator allows, and that one only', async () => {
  expect(await ask('127.0.0.1', ['127.0.0.1'])).to.equal('200 {"issues":[]}')
  expect(await ask('localhost', ['127.0.0.1'])).to.match(/inside this network/)
  expect(heard).to.deep.equal(['GET /api/issues Bearer x'])
})
it('knows what is inside: this machine, private networks, what is set apart', () => {
  for (const address of [
    '10.1.2.3',
    '172.31.0.1',
    '192.168.1.1',
    '169.254.169.254',
    '100.64.0.1',
    'fd00::1',
    'fe80::1',
    '::',
    '::1',
    '::ffff:10.0.0.1',
    '224.0.0.1',
    '255.255.255.255',
    '64:ff9b::a00:1',
  ])
    expect(isInside(address), address).to.equal(true)
  for (const address of ['203.0.113.9', '8.8.8.8', '172.32.0.1', '192.167.1.1', '2a00::1'])
    expect(isInside(address), address).to.equal(false)
  expect(hostOf(new URL('http://[::1]:80/'))).to.equal('::1')
})
it('follows nothing elsewhere, and cuts an answer while it is read', async () => {
  answer = (_, response) => response.writeHead(302, { location: 'http://169.254.169.254/' }).end()
  expect(await ask('127.0.0.1', ['127.0.0.1'])).to.equal('302 ')
  let sent = 0
  answer = (_, response) => {
    const more = () => {
      while (sent < 400_000_000 && !response.destroyed) {
        sent += 1_000_000
        if (!response.write(Buffer.alloc(1_000_000, 'x'))) return void response.once('drain', more)
      }
    }
    more()
  }
  expect(await ask('127.0.0.1', ['127.0.0.1'])).to.equal('answered more than can be read')
  expect(sent).to.be.lessThan(50_000_000)
})
it('says of one that is not there that it cannot be reached', async () => {
  expect(await ask('nowhere.invalid')).to.equal('cannot be reached: its name stands for no address')
  answer = (request) => request.socket.destroy()
  expect(await ask('127.0.0.1', ['127.0.0.1'])).to.equal('cannot be reached')
})
