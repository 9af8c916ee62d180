import { expect } from 'chai'
import { saveProject } from '#db/projects/projects.ts'
import type { App } from '#test/app.ts'
import { codeFor } from '#test/authenticator.ts'
import { withMail } from '#test/letters.ts'
import { appWithSignIn } from '#test/signed-in.ts'

const password = 'right enough for this'
const next = 'nine green ferries'

const agent = 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0'

interface Jar {
  readonly send: (method: string, path: string, body?: unknown) => ReturnType<App['ask']>
  readonly cookie: () => string
}

/** The server with its real sign-in, two people of a project with a password. */
async function withPeople() {
  const app = await appWithSignIn(password, [
    { id: 'ada', name: 'ada', administrator: true },
    { id: 'ben', name: 'ben', administrator: false },
  ])
  /** A browser: it keeps the cookies it is given. */
  const browser = (): Jar => {
    const kept = new Map<string, string>()
    const cookie = () => [...kept].map(([name, value]) => `${name}=${value}`).join('; ')
    return {
      cookie,
      send: async (method, path, body) => {
        const answer = await app.ask(method, path, body, {
          'user-agent': agent,
          ...(kept.size > 0 && { cookie: cookie() }),
        })
        for (const set of answer.headers.getSetCookie()) {
          const [pair = '', ...rest] = set.split(';')
          const at = pair.indexOf('=')
          if (rest.some((part) => /max-age=0/i.test(part))) kept.delete(pair.slice(0, at))
          else kept.set(pair.slice(0, at), pair.slice(at + 1))
        }
        return answer
      },
    }
  }
  const signedIn = async (who = 'ben', as = password): Promise<Jar> => {
    const jar = browser()
    const { status } = await jar.send('POST', '/sign-in', { email: `${who}@shop.example`, password: as })
    expect(status).to.equal(200)
    return jar
  }
  const told = (): string[] =>
    app.db.$client.prepare('select told from security_event order by id').pluck().all().map(String)
  return { ...app, browser, signedIn, told }
}

type World = Awaited<ReturnType<typeof withPeople>>

describe('one’s own page', () => {
  let of: World
  beforeEach(async () => {
    of = await withPeople()
  })
  const me = async (jar: Jar) => (await jar.send('GET', '/me')).body

  it('changes name, language of dates and time zone, and refuses what is none', async () => {
    const jar = await of.signedIn()
    const set = { name: 'Ben Aa', language: 'nb-NO', timeZone: 'Europe/Oslo' }
    expect((await jar.send('PATCH', '/me', set)).status).to.equal(200)
    expect(await me(jar)).to.include(set)
    expect([(await jar.send('PATCH', '/me', {})).status, (await me(jar)).name]).to.deep.equal([200, 'Ben Aa'])
    const wrong = await jar.send('PATCH', '/me', { timeZone: 'Mars/Olympus', language: 'xx' })
    expect([wrong.status, wrong.body.field.map((each: { field: string }) => each.field).sort()]).to.deep.equal([
      400,
      ['language', 'timeZone'],
    ])
  })

  it('changes the password by the one there is, and ends every other sign-in', async () => {
    const [here, there] = [await of.signedIn(), await of.signedIn()]
    const refused = await here.send('POST', '/me/password', { password: 'wrong one', next })
    expect([refused.status, refused.body.detail]).to.deep.equal([
      400,
      'That is not your password; nothing was changed.',
    ])
    expect((await here.send('POST', '/me/password', { password, next: 'short' })).status).to.equal(400)
    expect((await here.send('POST', '/me/password', { password, next: 'passwordpassword' })).status).to.equal(400)
    expect((await here.send('POST', '/me/password', { password, next })).status).to.equal(200)
    expect([(await here.send('GET', '/me')).status, (await there.send('GET', '/me')).status]).to.deep.equal([200, 401])
    const old = await of.browser().send('POST', '/sign-in', { email: 'ben@shop.example', password })
    expect(old.status).to.equal(401)
    await of.signedIn('ben', next)
  })
  it('lets nobody guess the password of who left a page open', async () => {
    const jar = await of.signedIn()
    const statuses: number[] = []
    for (let n = 0; n < 12; n++)
      statuses.push((await jar.send('POST', '/me/password', { password: `guess ${n}`, next })).status)
    expect(statuses.filter((status) => status === 400)).to.have.length(10)
    expect(statuses.at(-1)).to.equal(429)
  })

  it('shows where one is signed in, and ends one of them or all others', async () => {
    const jars = [await of.signedIn(), await of.signedIn(), await of.signedIn()]
    const rows = (await jars[0]!.send('GET', '/me/sign-ins')).body.rows
    expect(rows.map(({ here }: { here: boolean }) => here).sort()).to.deep.equal([false, false, true])
    expect(rows[0]).to.include({ device: 'Firefox on Linux' })
    const other = rows.find(({ here }: { here: boolean }) => !here)
    expect((await jars[0]!.send('DELETE', `/me/sign-ins/${other.id}`)).status).to.equal(200)
    expect((await jars[0]!.send('DELETE', `/me/sign-ins/${other.id}`)).status).to.equal(404)
    expect((await jars[0]!.send('DELETE', '/me/sign-ins')).body.ended).to.equal(1)
    const statuses = await Promise.all(jars.map(async (jar) => (await jar.send('GET', '/me')).status))
    expect(statuses).to.deep.equal([200, 401, 401])
  })
  it('ends nobody else’s', async () => {
    const [ada, ben] = [await of.signedIn('ada'), await of.signedIn('ben')]
    const [own] = (await ada.send('GET', '/me/sign-ins')).body.rows
    expect((await ben.send('DELETE', `/me/sign-ins/${own.id}`)).status).to.equal(404)
    expect((await ada.send('GET', '/me')).status).to.equal(200)
  })

  it('makes a token by one’s password, shows it once, and revokes it', async () => {
    const jar = await of.signedIn()
    const ask = (body: object) => jar.send('POST', '/me/tokens', { password, name: 'nightly', scope: 'read', ...body })
    expect((await ask({ password: 'wrong one' })).status).to.equal(400)
    const { token } = (await ask({ project: 'SHOP', days: 30 })).body
    expect(token).to.match(/^rvt_/)
    expect((await ask({})).body.field).to.deep.equal([{ field: 'name', message: 'is taken' }])
    expect((await ask({ name: 'other', project: 'NONE' })).status).to.equal(404)
    const asToken = (path: string) => of.ask('GET', path, undefined, { authorization: `Bearer ${token}` })
    expect((await asToken('/projects/SHOP')).status).to.equal(200)
    const { rows } = (await jar.send('GET', '/me/tokens')).body
    expect(rows[0]).to.include({ name: 'nightly', scope: 'read', project: 'SHOP' })
    expect(JSON.stringify(of.db.$client.prepare('select * from api_token').all())).to.not.contain(token)
    await jar.send('DELETE', `/me/tokens/${rows[0].id}`)
    expect((await asToken('/projects/SHOP')).status).to.equal(401)
  })
  it('is not for tokens: who finds one cannot make it into a sign-in', async () => {
    const jar = await of.signedIn()
    const body = { password, name: 'all', scope: 'write' }
    const { token } = (await jar.send('POST', '/me/tokens', body)).body
    const as = { authorization: `Bearer ${token}` }
    for (const [method, path, sent] of [
      ['PATCH', '/me', { name: 'Eve' }],
      ['POST', '/me/password', { password, next }],
      ['POST', '/me/tokens', { ...body, name: 'more' }],
      ['POST', '/me/second-factor', { password }],
      ['DELETE', '/me/sign-ins', {}],
      ['DELETE', '/me/picture', {}],
    ] as const)
      expect((await of.ask(method, path, sent, as)).status, `${method} ${path}`).to.equal(403)
  })

  it('keeps a small picture, refuses what is none, and shows it to people of one’s projects', async () => {
    const jar = await of.signedIn()
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    )
    expect((await jar.send('PUT', '/me/picture', new Uint8Array(png))).status).to.equal(200)
    expect((await me(jar)).picture).to.equal(true)
    const ada = await of.signedIn('ada')
    expect((await ada.send('GET', '/people/ben/picture')).headers.get('content-type')).to.equal('image/png')
    expect((await jar.send('PUT', '/me/picture', '<svg onload=alert(1)>')).status).to.equal(415)
    expect((await jar.send('PUT', '/me/picture', new Uint8Array(200_001))).status).to.equal(413)
    await jar.send('DELETE', '/me/picture', {})
    expect((await ada.send('GET', '/people/ben/picture')).status).to.equal(404)
  })

  describe('a second factor', () => {
    const begin = async (jar: Jar) => (await jar.send('POST', '/me/second-factor', { password })).body
    const codeOf = (address: string) => codeFor(new URL(address).searchParams.get('secret') ?? '')
    const setUp = async (who = 'ben') => {
      const jar = await of.signedIn(who)
      const begun = await begin(jar)
      const confirmed = await jar.send('PUT', '/me/second-factor', { code: codeOf(begun.address) })
      expect(confirmed.status).to.equal(200)
      return { jar, begun }
    }
    const enter = async (jar = of.browser(), who = 'ben') => {
      const answer = await jar.send('POST', '/sign-in', { email: `${who}@shop.example`, password })
      return { jar, answer }
    }

    it('counts once a first code was right, and is asked for at the next sign-in', async () => {
      const jar = await of.signedIn()
      const begun = await begin(jar)
      expect([begun.codes.length, begun.secret.length > 20]).to.deep.equal([10, true])
      expect((await enter()).answer.body.id).to.equal('ben')
      const wrong = await jar.send('PUT', '/me/second-factor', { code: '000000' })
      expect([wrong.status, wrong.body.field]).to.deep.equal([400, [{ field: 'code', message: 'is not right' }]])
      await jar.send('PUT', '/me/second-factor', { code: codeOf(begun.address) })
      expect((await jar.send('GET', '/me/second-factor')).body).to.include({ on: true, codesLeft: 10 })
      const { jar: other, answer } = await enter()
      expect([answer.status, answer.body]).to.deep.equal([200, { code: 'asked' }])
      expect((await other.send('GET', '/me')).status).to.equal(401)
      const came = await other.send('POST', '/sign-in/code', { code: codeOf(begun.address) })
      expect([came.status, came.body.id]).to.deep.equal([200, 'ben'])
      expect((await other.send('GET', '/me')).status).to.equal(200)
    })
    it('takes a recovery code once', async () => {
      const { begun } = await setUp()
      const [code] = begun.codes
      const first = await enter()
      expect((await first.jar.send('POST', '/sign-in/code', { code })).status).to.equal(200)
      const second = await enter()
      expect((await second.jar.send('POST', '/sign-in/code', { code })).status).to.equal(401)
    })
    it('takes a code of the authenticator once, and leaves no sign-in of the second time', async () => {
      const { begun } = await setUp()
      const code = codeOf(begun.address)
      const first = await enter()
      expect((await first.jar.send('POST', '/sign-in/code', { code })).status).to.equal(200)
      const signIns = async () => (await first.jar.send('GET', '/me/sign-ins')).body.rows.length
      const before = await signIns()
      const second = await enter()
      expect((await second.jar.send('POST', '/sign-in/code', { code })).status).to.equal(401)
      expect([(await second.jar.send('GET', '/me')).status, await signIns()]).to.deep.equal([401, before])
    })
    it('lets no code in without the password before it', async () => {
      const { begun } = await setUp()
      const alone = await of.browser().send('POST', '/sign-in/code', { code: codeOf(begun.address) })
      expect(alone.status).to.equal(401)
    })
    it('lets nobody guess codes', async () => {
      await setUp()
      const { jar } = await enter()
      const statuses: number[] = []
      for (let n = 0; n < 12; n++)
        statuses.push((await jar.send('POST', '/sign-in/code', { code: String(100_000 + n) })).status)
      expect(new Set(statuses)).to.deep.equal(new Set([401, 429]))
      expect(statuses.at(-1)).to.equal(429)
    })
    it('is taken away, and its codes made anew, by the password', async () => {
      const { jar, begun } = await setUp()
      expect((await jar.send('DELETE', '/me/second-factor', { password: 'wrong one' })).status).to.equal(400)
      const { codes } = (await jar.send('POST', '/me/second-factor/codes', { password })).body
      expect([codes.length, codes.includes(begun.codes[0])]).to.deep.equal([10, false])
      expect((await jar.send('DELETE', '/me/second-factor', { password })).status).to.equal(200)
      expect((await enter()).answer.body.id).to.equal('ben')
    })
    it('that a project asks for keeps out of it who has none, and nowhere else; tokens go on', async () => {
      const jar = await of.signedIn()
      const { token } = (await jar.send('POST', '/me/tokens', { password, name: 'CI', scope: 'read' })).body
      saveProject(of.db, of.projectId, { secondFactorAsked: true })
      const refused = await jar.send('GET', '/projects/SHOP')
      expect([refused.status, refused.body.detail]).to.deep.equal([
        403,
        'Shop asks for a second factor. Set one up on your own page, then go on.',
      ])
      expect((await jar.send('GET', '/me/second-factor')).body.wantedBy).to.deep.equal(['Shop'])
      expect((await of.ask('GET', '/projects/SHOP', undefined, { authorization: `Bearer ${token}` })).status).to.equal(
        200,
      )
      const begun = await begin(jar)
      await jar.send('PUT', '/me/second-factor', { code: codeOf(begun.address) })
      expect((await jar.send('GET', '/projects/SHOP')).status).to.equal(200)
      const kept = await jar.send('DELETE', '/me/second-factor', { password })
      expect([kept.status, kept.body.detail]).to.deep.equal([
        422,
        'A second factor is asked for by Shop. When your device is lost, an administrator takes it away and you set up a new one.',
      ])
    })
    it('is asked of everybody only by an administrator who has one', async () => {
      const ada = await of.signedIn('ada')
      const ask = (jar: Jar) => jar.send('PATCH', '/signing-in', { secondFactorAsked: true })
      expect((await ask(ada)).body.detail).to.match(/^Set up a second factor of your own first/)
      const { jar } = await setUp('ada')
      expect((await ask(jar)).status).to.equal(200)
      const ben = await of.signedIn('ben')
      expect((await ben.send('GET', '/projects/SHOP')).status).to.equal(403)
      expect((await jar.send('GET', '/projects/SHOP')).status).to.equal(200)
    })
    it('is taken from who lost it by an administrator', async () => {
      await setUp()
      const ada = await of.signedIn('ada')
      expect((await ada.send('DELETE', '/people/ben/second-factor', {})).status).to.equal(200)
      expect((await enter()).answer.body.id).to.equal('ben')
    })
  })

  it('is told by letter whenever how one comes in is changed, and works as well where no letter leaves', async () => {
    const { letters, refuse } = withMail(of)
    const jar = await of.signedIn()
    const begun = (await jar.send('POST', '/me/second-factor', { password })).body
    const secret = new URL(begun.address).searchParams.get('secret') ?? ''
    await jar.send('PUT', '/me/second-factor', { code: codeFor(secret) })
    await jar.send('POST', '/me/second-factor/codes', { password })
    await jar.send('DELETE', '/me/second-factor', { password })
    await jar.send('POST', '/me/tokens', { password, name: 'CI', scope: 'read' })
    await jar.send('POST', '/me/password', { password: 'wrong one', next })
    expect((await jar.send('POST', '/me/password', { password, next })).status).to.equal(200)
    expect(letters.map(({ text }) => text.split('\n')[2]?.split(', on ')[0])).to.deep.equal([
      'A second factor was set up for you',
      'New recovery codes were made for you; the ones before end',
      'Your second factor was taken away',
      'The API token “CI” was made in your name',
      'Your password was changed',
    ])
    expect(new Set(letters.map(({ to }) => to.address))).to.deep.equal(new Set(['ben@shop.example']))
    for (const hidden of [password, next, secret, ...begun.codes])
      expect(JSON.stringify(letters)).to.not.contain(hidden)
    refuse(true)
    expect((await jar.send('POST', '/me/password', { password: next, next: password })).status).to.equal(200)
  })
  it('writes down who came in, who tried to, and what changed, and no secret', async () => {
    await of.browser().send('POST', '/sign-in', { email: 'ben@shop.example', password: 'a wrong one' })
    const jar = await of.signedIn()
    await jar.send('POST', '/me/password', { password, next })
    await jar.send('DELETE', '/sign-in', {})
    expect(of.told()).to.deep.equal([
      'Wrong password for ben@shop.example',
      'ben signed in',
      'ben changed their password; their other sign-ins ended',
      'Signed out',
    ])
    for (const secret of [password, next, 'a wrong one']) expect(of.told().join()).to.not.contain(secret)
  })
})
