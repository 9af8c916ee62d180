import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { codeFor } from '../authenticator.ts'
import { clientOf, type Running } from '../server.ts'
import { endJourney, go, launched, openBrowser, openPage, signedIn, startJourney } from './browser.ts'

let server: Running
let context: BrowserContext
describe('people', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira', ['--sign-on']))
  })
  after(() => endJourney({ server, context }))

  const good = 'nine green ferries'
  const notice = (page: Page, text: string | RegExp) => page.getByRole('status').getByText(text).waitFor()
  const enter = async (page: Page, email: string, password: string) => {
    await go(page, server, '/sign-in')
    await page.getByLabel('E-mail').fill(email)
    await page.getByLabel('Password').fill(password)
    await page.getByLabel('Password').press('Enter')
  }

  it('brings people in from a pasted list by keys, who read a letter, choose a password and begin', async () => {
    const page = await openPage(context, server, '/p/FERRY/set-up/people')
    await page.getByRole('button', { name: 'Bring people in…' }).press('Enter')
    const lines = page.getByLabel(/^A person a line/)
    await lines.fill(
      'Name;E-mail;Role\nGro Vik;gro@tarnsey.example;tester\nno address here\nNils Moe <nils@tarnsey.example>',
    )
    await page.getByText('2 people: Gro Vik (tester), Nils Moe').waitFor()
    await page.getByText(/Line 3, “no address here”: there is no e-mail address in it/).waitFor()
    // What was pasted outlives the dialog.
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Bring people in…' }).press('Enter')
    await page.getByText('2 people: Gro Vik (tester), Nils Moe').waitFor()
    await page.getByLabel('Role of those without one').selectOption('viewer')
    await page.getByRole('button', { name: 'Bring 2 people in' }).press('Enter')
    await page.getByText(/Gro Vik, Nils Moe were sent a link by mail/).waitFor()
    await page.getByRole('button', { name: 'Done' }).press('Enter')
    await page
      .getByRole('row', { name: /Nils Moe/ })
      .getByText('viewer')
      .first()
      .waitFor()

    const other = await openBrowser()
    const letters = await other.newPage()
    await letters.goto(server.letters)
    await letters.getByRole('article').filter({ hasText: 'gro@tarnsey.example' }).getByRole('link').click()
    await letters.getByRole('heading', { name: 'Welcome, Gro Vik' }).waitFor()
    await letters.getByLabel(/^A password of/).fill('passwordpassword')
    await letters.getByRole('button', { name: 'Come in' }).click()
    await letters.getByRole('alert').getByText('is used by many people').waitFor()
    await letters.getByLabel(/^A password of/).fill(good)
    await letters.getByRole('button', { name: 'Come in' }).click()
    await letters.waitForURL('**/sign-in')
    await enter(letters, 'gro@tarnsey.example', good)
    await letters.waitForURL('**/p/FERRY')
    await letters.goto(server.letters)
    await letters.getByRole('article').filter({ hasText: 'gro@tarnsey.example' }).getByRole('link').click()
    await letters
      .getByRole('alert')
      .getByText(/^This link does not work/)
      .waitFor()
    await other.close()
    await page.close()
  })

  it('signs in by a provider outside, and says why not where it does not', async () => {
    const other = await openBrowser()
    const page = await other.newPage()
    await go(page, server, '/p/FERRY/TC-17')
    await page.getByRole('link', { name: 'Sign in with Harbour account' }).click()
    await page.getByRole('link', { name: 'Emil Strøm' }).click()
    await page
      .getByRole('alert')
      .getByText(/^Nobody here has the address emil@tarnsey\.example/)
      .waitFor()
    await page.getByRole('link', { name: 'Sign in with Harbour account' }).click()
    await page.getByRole('link', { name: 'Tobin Rask' }).click()
    await page.waitForURL('**/p/FERRY')
    await other.close()
  })

  it('asks for a new password by mail, without saying who is here', async () => {
    const other = await openBrowser()
    const page = await other.newPage()
    await go(page, server, '/sign-in')
    await page.getByRole('link', { name: 'Forgotten your password?' }).click()
    await page.getByLabel('Your e-mail').fill('nobody@tarnsey.example')
    await page.getByRole('button', { name: 'Send me a link' }).click()
    await page.getByText(/^If this address is of one of the people here/).waitFor()
    await page.goto(`${server.url}/forgotten`)
    // Before its programs are there, and without them, the browser itself sends the form.
    const plain = await (await launched()).newContext({ javaScriptEnabled: false })
    const without = await plain.newPage()
    await without.goto(`${server.url}/forgotten`)
    await without.getByLabel('Your e-mail').fill('nobody@tarnsey.example')
    await without.getByRole('button', { name: 'Send me a link' }).click()
    await without.getByText(/^If this address is of one of the people here/).waitFor()
    await plain.browser()?.close()
    await go(page, server, '/password#too-short')
    await page.getByText(/only a part of a link/).waitFor()
    await other.close()
  })

  it('sets up a second factor, and signs in with its code and with a recovery code', async () => {
    const other = await openBrowser()
    await signedIn(other, server, 'tobin')
    const page = await openPage(other, server, '/me')
    await page.getByRole('button', { name: 'Set one up' }).click()
    await page.getByLabel('Your password').fill('wrong')
    await page.getByRole('button', { name: 'Go on' }).click()
    await page.getByRole('alert').getByText('is not your password').waitFor()
    await page.getByLabel('Your password').fill('ferry-2024')
    await page.getByRole('button', { name: 'Go on' }).click()
    const secret = (await page.getByLabel('Secret', { exact: true }).textContent()) ?? ''
    const [code = ''] = ((await page.getByLabel('Recovery codes').textContent()) ?? '').split('\n')
    await page.getByLabel('The code it shows now').fill(codeFor(secret))
    await page.getByRole('button', { name: 'Turn it on' }).click()
    await notice(page, 'Your second factor is on.')
    await page.getByText(/10 recovery codes left/).waitFor()

    for (const [entered, left] of [
      [async () => codeFor(secret), 10],
      [async () => code, 9],
    ] as const) {
      await other.clearCookies()
      await enter(page, 'tobin@tarnsey.example', 'ferry-2024')
      await page.getByLabel('The code your authenticator shows').fill('000000')
      await page.getByRole('button', { name: 'Sign in' }).click()
      await page
        .getByRole('alert')
        .getByText(/^That code is not right/)
        .waitFor()
      await page.getByLabel('The code your authenticator shows').fill(await entered())
      await page.getByRole('button', { name: 'Sign in' }).click()
      await page.waitForURL('**/p/FERRY')
      await go(page, server, '/me')
      await page.getByText(new RegExp(`${left} recovery codes left`)).waitFor()
    }
    await page.getByRole('button', { name: 'Take it away' }).click()
    await page.getByLabel('Your password').fill('ferry-2024')
    await page.getByRole('dialog').getByRole('button', { name: 'Take it away' }).click()
    await notice(page, 'You come in by your password alone.')
    await other.close()
  })

  it('asks for a code without scripts as well', async () => {
    const by = await openBrowser()
    await signedIn(by, server, 'ansa')
    const set = await openPage(by, server, '/me')
    await set.getByRole('button', { name: 'Set one up' }).click()
    await set.getByLabel('Your password').fill('ferry-2024')
    await set.getByRole('button', { name: 'Go on' }).click()
    const secret = (await set.getByLabel('Secret', { exact: true }).textContent()) ?? ''
    await set.getByLabel('The code it shows now').fill(codeFor(secret))
    await set.getByRole('button', { name: 'Turn it on' }).click()
    await notice(set, 'Your second factor is on.')
    const plain = await launched()
    const page = await (await plain.newContext({ javaScriptEnabled: false })).newPage()
    await page.goto(`${server.url}/sign-in`)
    await page.getByLabel('E-mail').fill('ansa@tarnsey.example')
    await page.getByLabel('Password').fill('ferry-2024')
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await page.getByLabel('The code your authenticator shows').fill('000000')
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await page
      .getByRole('alert')
      .getByText(/^That code is not right/)
      .waitFor()
    await page.getByLabel('The code your authenticator shows').fill(codeFor(secret))
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await page.waitForURL('**/p/FERRY')
    await plain.close()
    await by.close()
  })

  it('shows what somebody does and when they are away, and hands their work over and back', async () => {
    const page = await openPage(context, server, '/p/FERRY/people/yusra')
    await page.getByRole('heading', { name: 'Yusra Dahl' }).waitFor()
    await page.getByText(/, holiday/).waitFor()
    const items = async () =>
      Number(/(\d+) items?/.exec((await page.getByRole('heading', { name: /^To execute/ }).textContent()) ?? '')?.[1])
    const before = await items()
    expect(before).to.be.greaterThan(0)
    await page.getByLabel(/^Free for testing/).click()
    await page.getByRole('textbox', { name: 'Free for testing' }).fill('a lot')
    await page.keyboard.press('Enter')
    await page.getByText('“a lot” is no share from 0 to 100 %; it stays as it was.').waitFor()
    await page.getByRole('button', { name: 'hand over their work…' }).press('Enter')
    await page.getByLabel('Who takes it over').selectOption({ label: 'Tobin Rask' })
    await page.getByRole('button', { name: 'Hand over', exact: true }).press('Enter')
    await notice(page, /^Tobin Rask has \d+ more things to do\.$/)
    await page.getByRole('heading', { name: 'To execute: 0 items' }).waitFor()
    await page
      .getByText(/more things to do/)
      .locator('..')
      .getByRole('button', { name: 'Undo' })
      .click()
    await page.getByRole('heading', { name: `To execute: ${before} items` }).waitFor()
    await page.close()
  })

  it('ends the access of somebody as an administrator, who is out at once, and lets them in again', async () => {
    const piet = await openBrowser()
    await signedIn(piet, server, 'piet')
    const theirs = await openPage(piet, server, '/p/FERRY')
    const admin = await openBrowser()
    await signedIn(admin, server, 'ilo')
    const page = await openPage(admin, server, '/p/FERRY/set-up/everybody')
    await page.getByLabel('Find people').fill('piet')
    await page.getByRole('button', { name: 'Piet Vonk' }).click()
    await page.getByRole('button', { name: 'End access' }).click()
    await notice(page, 'The access of Piet Vonk has ended.')
    expect((await theirs.goto(`${server.url}/p/FERRY/cases`))?.url()).to.contain('/sign-in')
    await page.getByRole('button', { name: 'Let them in again' }).click()
    await notice(page, 'Piet Vonk may come in again.')
    await page.keyboard.press('Escape')
    await go(page, server, '/p/FERRY/set-up/security')
    await page.getByRole('row', { name: /The access of Piet Vonk was ended/ }).waitFor()
    await page.getByLabel('Kind').selectOption('token')
    await page.getByText('Tobin Rask made the token “nightly” for results').waitFor()
    await page.getByText('The access of Piet Vonk was ended').waitFor({ state: 'detached' })
    await piet.close()
    await admin.close()
  })

  it('gives a group a role, and everybody in it has it at once', async () => {
    const admin = await openBrowser()
    await signedIn(admin, server, 'ilo')
    const page = await openPage(admin, server, '/p/FERRY/set-up/groups')
    await page.getByLabel(/^A new group/).fill('Night crew')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Night crew', exact: true }).click()
    await page.getByLabel('Put somebody in').fill('oda')
    await page.getByRole('button', { name: 'Oda Brandt', exact: true }).click()
    await notice(page, 'Oda Brandt is in Night crew.')
    await page.getByLabel('Role in Spare-parts store').selectOption('tester')
    await notice(page, 'Night crew gives tester in DEPOT.')
    const oda = await clientOf(server.url, 'oda')
    expect((await oda.get('/projects/DEPOT')).body.role).to.equal('tester')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: /^take away Night crew/ }).click()
    await notice(page, /The group Night crew is taken away/)
    expect((await oda.get('/projects/DEPOT')).status).to.equal(404)
    await admin.close()
  })

  it('tells who did what, by person and kind, which stand in the address, and takes a rule back', async () => {
    const page = await openPage(context, server, '/p/FERRY/set-up/rules')
    await page.getByLabel('Reason of a version').selectOption('yes')
    await notice(page, 'Reason of a version: is asked for.')
    await go(page, server, '/p/FERRY/history')
    await page.getByLabel('To what').selectOption('project')
    await page.getByLabel('By whom').selectOption({ label: 'by Mira Kell' })
    await page
      .getByText(/reasonAsked: false → true/)
      .first()
      .waitFor()
    expect(new URL(page.url()).search).to.equal('?kind=project&person=mira')
    await page.getByRole('button', { name: 'take it back' }).first().click()
    await notice(page, 'It is as it was before that.')
    const mira = await clientOf(server.url, 'mira')
    expect((await mira.get('/projects/FERRY')).body.reasonAsked).to.equal(false)
    await page.close()
  })
})
