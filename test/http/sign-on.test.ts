import { expect } from 'chai'
import { type Client, clientOf, demoData, type Running, startServer } from '../server.ts'

let server: Running
let ilo: Client
describe('sign on', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData(), args: ['--sign-on'] })
    ilo = await clientOf(server.url, 'ilo')
  })
  after(() => server.stop())

  /** A browser that follows nothing by itself and keeps its cookies per place. */
  function browser() {
    const kept = new Map<string, Map<string, string>>()
    const of = (url: URL) => kept.get(url.origin) ?? kept.set(url.origin, new Map()).get(url.origin)!
    return async (address: string): Promise<{ status: number; to: string; url: string }> => {
      const url = new URL(address, server.url)
      const cookie = [...of(url)].map(([name, value]) => `${name}=${value}`).join('; ')
      const answer = await fetch(url, { redirect: 'manual', headers: cookie === '' ? {} : { cookie } })
      for (const set of answer.headers.getSetCookie()) {
        const [pair = ''] = set.split(';')
        const at = pair.indexOf('=')
        of(url).set(pair.slice(0, at), pair.slice(at + 1))
      }
      const to = answer.headers.get('location')
      return { status: answer.status, to: to === null ? '' : new URL(to, url).href, url: url.href }
    }
  }
  type Ask = ReturnType<typeof browser>

  /** The way out to the provider and, as somebody, back; answers the address that leads back to us. */
  async function chosen(ask: Ask, email: string): Promise<string> {
    const out = await ask('/sso/begin?to=/p/FERRY')
    expect(out.status).to.equal(303)
    const as = new URL(out.to)
    as.searchParams.set('as', email)
    return (await ask(as.href)).to
  }
  const me = async (ask: Ask) => (await ask('/api/v1/me')).status
  async function refusedTo(ask: Ask, back: string): Promise<string> {
    const { to } = await ask(back)
    expect(new URL(to).pathname).to.equal('/sign-in')
    const page = await (await fetch(to)).text()
    expect(await me(ask)).to.equal(401)
    return page
  }
  const behave = async (how: string) => void (await fetch(`${server.provider}/behave?${how}`, { method: 'POST' }))
  const mira = 'mira@tarnsey.example'

  it('signs in who the provider says they are, and leads on to where they wanted', async () => {
    const ask = browser()
    const { to } = await ask(await chosen(ask, mira))
    expect([new URL(to).pathname, await me(ask)]).to.deep.equal(['/p/FERRY', 200])
    const told = (await ilo.get('/security-events?kind=sign-in')).body.rows[0].told
    expect(told).to.equal('Mira Kell signed in by Harbour account')
  })
  it('signs nobody in whose address is not verified, or whose word is signed by another key or for another sign-in', async () => {
    for (const [how, says] of [
      ['unverified=yes', 'has not verified your e-mail address'],
      ['nonce=wrong', 'could not be asked who you are'],
      ['key=other', 'could not be asked who you are'],
      ['token=no', 'could not be asked who you are'],
    ] as const) {
      const ask = browser()
      const back = await chosen(ask, mira)
      await behave(how)
      expect(await refusedTo(ask, back), how).to.contain(says)
      await behave('')
    }
  })
  it('says so when the provider is down, and goes on when it is back', async () => {
    await behave('down=yes')
    const ask = browser()
    expect(await refusedTo(ask, '/sso/begin')).to.contain('could not be asked who you are')
    await behave('')
    expect((await ask(await chosen(ask, mira))).status).to.equal(303)
  })
  it('takes a way back once, in the browser it was begun in, and soon', async () => {
    const [ask, other] = [browser(), browser()]
    const back = await chosen(ask, mira)
    expect(await refusedTo(other, back)).to.contain('in another browser')
    expect((await ask(back)).status).to.equal(303)
    expect(await me(ask)).to.equal(200)
    const again = browser()
    const begun = await again('/sso/begin')
    expect(begun.status).to.equal(303)
    // The code was used by somebody else before.
    expect(await refusedTo(again, back)).to.contain('could not be asked who you are')
  })
  it('lets somebody nobody knows in only by a group, with the roles it gives, and takes them when they are no longer in it', async () => {
    const emil = browser()
    expect(await refusedTo(emil, await chosen(emil, 'emil@tarnsey.example'))).to.contain('Nobody here has the address')
    const nora = browser()
    await nora(await chosen(nora, 'nora@tarnsey.example'))
    expect(await me(nora)).to.equal(200)
    const person = async () =>
      (await ilo.get('/people?text=nora')).body.rows[0] as { state: string; groups: string[]; roles: unknown[] }
    expect(await person()).to.deep.include({
      state: 'active',
      groups: ['Load crew'],
      roles: [{ project: 'DEPOT', role: 'viewer', given: null }],
    })
    const { groups } = (await ilo.get('/single-sign-on')).body
    await ilo.send('PATCH', '/single-sign-on', { groups: [{ ...groups[0], outside: 'another' }] })
    await nora(await chosen(nora, 'nora@tarnsey.example'))
    expect(await person()).to.deep.include({ groups: [], roles: [] })
  })
  it('is not believed on the page when somebody else wrote the reason', async () => {
    const page = await (await fetch(`${server.url}/sign-in?refused=Call%20this%20number`)).text()
    expect(page).to.not.contain('Call this number')
  })
  it('can be the only way in, but for administrators', async () => {
    expect((await ilo.send('PATCH', '/single-sign-on', { only: true })).status).to.equal(200)
    const byPassword = (who: string) =>
      clientOf(server.url, who).then(
        () => 'in',
        (error: unknown) => String(error),
      )
    expect(await byPassword('mira')).to.contain('People sign in by Harbour account here')
    expect(await byPassword('ilo')).to.equal('in')
    const ask = browser()
    await ask(await chosen(ask, mira))
    expect(await me(ask)).to.equal(200)
    await ilo.send('PATCH', '/single-sign-on', { only: false })
    expect(await byPassword('mira')).to.equal('in')
  })
  it('is set up only with a provider that can be asked, and its secret is told to nobody', async () => {
    const refused = await ilo.send('PATCH', '/single-sign-on', { issuer: 'http://127.0.0.1:9/nothing' })
    expect([refused.status, refused.body.detail]).to.satisfy(
      ([status, detail]: [number, string]) => status === 422 && detail.includes('could not be asked who you are'),
    )
    const { body } = await ilo.get('/single-sign-on')
    expect([body.secret, JSON.stringify(body).includes('harbour-secret')]).to.deep.equal([true, false])
  })
})
