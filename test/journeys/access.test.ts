import { AxeBuilder } from '@axe-core/playwright'
import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import type { Running } from '../server.ts'
import { endJourney, go, listening, openPage, signedIn, startJourney } from './browser.ts'

let server: Running
let context: BrowserContext
describe('access', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
  })
  after(() => endJourney({ server, context }))

  const pages = [
    '/p/FERRY',
    '/p/FERRY/requirements',
    '/p/FERRY/RQ-4',
    '/p/FERRY/RQ-3/draft',
    '/p/FERRY/RQ-4/draft?model=3',
    '/p/FERRY/RQ-14/draft',
    '/p/FERRY/RQ-40/draft',
    '/p/FERRY/RQ-5',
    '/p/FERRY/TC-17',
    '/p/FERRY/TC-8',
    '/p/FERRY/TC-34',
    '/p/FERRY/cases?tree=yes',
    '/p/FERRY/RT-1',
    '/p/FERRY/PL-2',
    '/p/FERRY/PL-2?part=what',
    '/p/FERRY/PL-2?part=where',
    '/p/FERRY/PL-2?part=when',
    '/p/FERRY/PL-2?part=enough',
    '/p/FERRY/PL-2?version=2',
    '/p/FERRY/PL-3?version=1',
    '/p/FERRY/PL-1?carry=yes',
    '/p/FERRY/reports/readiness',
    '/p/FERRY/suites?tray=plans',
    '/p/FERRY/TS-1',
    '/p/FERRY/runs',
    '/p/FERRY/RN-5',
    '/p/FERRY/RN-5?full=yes',
    '/p/FERRY/RN-5?full=yes&item=1300',
    '/p/FERRY/RN-5?full=yes&add=yes',
    '/p/FERRY/desk/beside?items=1299,1300',
    '/p/FERRY/runs/again?runs=RN-5',
    '/p/FERRY/runs/line?run=RN-5',
    '/p/FERRY/runs/line?plan=PL-2',
    '/p/FERRY/runs/line?mine',
    '/p/FERRY/runs/what-if?run=RN-5',
    '/p/FERRY/runs/calendar',
    '/p/FERRY/runs/calendar?by=weeks',
    '/p/FERRY/runs/minutes',
    '/p/FERRY/desk/1300?mine=no',
    '/p/FERRY/DF-3',
    '/p/FERRY/runs/attempts',
    '/p/FERRY/reports',
    '/p/FERRY/reports/risk',
    '/p/FERRY/reports/board',
    '/p/FERRY/reports/gaps',
    '/p/FERRY/reports/stale',
    '/p/FERRY/sample',
    '/p/FERRY/set-up',
    ...['time', 'people', 'roles', 'releases', 'environments', 'fields', 'verdicts', 'policies', 'tracker'].map(
      (part) => `/p/FERRY/set-up/${part}`,
    ),
    '/p/FERRY/people/yusra',
    '/p/FERRY/history',
    '/me',
    '/styleguide',
    '/p/NOWHERE',
  ]
  const administratorsPages = ['everybody', 'groups', 'sign-in', 'storage', 'security'].map(
    (part) => `/p/FERRY/set-up/${part}`,
  )

  /** What axe finds on this page, with the first elements of each kind; of these rules only, where some are named. */
  async function found(page: Page, ...rules: string[]): Promise<string[]> {
    // What passes is not written down node by node.
    const axe = new AxeBuilder({ page }).options({ resultTypes: ['violations'] })
    const { violations } = await (rules.length > 0 ? axe.withRules(rules) : axe).analyze()
    const shown = (html: string) => html.slice(0, 160)
    return violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map(({ html }) => shown(html))
          .slice(0, 3)
          .join(' | ')}`,
    )
  }

  describe('axe finds nothing, in the light theme or the dark', () => {
    let page: Page
    before(async () => {
      page = await context.newPage()
      // A colour on its way from one theme to the other is neither.
      await page.emulateMedia({ reducedMotion: 'reduce' })
    })
    after(() => page.close())
    const clean = (path: string) =>
      it(`on ${path}`, async () => {
        await go(page, server, path)
        expect(await found(page), 'light').to.deep.equal([])
        // The themes differ in nothing but their colours.
        await page.evaluate(() => (document.documentElement.dataset['theme'] = 'dark'))
        expect(await found(page, 'color-contrast'), 'dark').to.deep.equal([])
      })
    pages.forEach(clean)
    describe('for an administrator', () => {
      before(() => signedIn(context, server, 'ilo'))
      after(() => signedIn(context, server, 'mira'))
      administratorsPages.forEach(clean)
    })
  })

  it('has nothing for axe to find on the sign-in page and in dialogs', async () => {
    const page = await openPage(context, server, '/p/FERRY/requirements')
    const clean = async (what: string) => expect(await found(page), what).to.deep.equal([])
    for (const keys of ['n', 'F1', 'Control+k']) {
      await page.keyboard.press(keys)
      await page.getByRole('dialog').waitFor()
      await page.waitForTimeout(300)
      await clean(keys)
      await page.keyboard.press('Escape')
      await page.waitForTimeout(200)
    }
    await go(page, server, '/p/FERRY/cases')
    await page.keyboard.press('Control+h')
    await page.getByRole('textbox', { name: 'Find' }).fill('clerk')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Replace in/ }).waitFor()
    await clean('find and replace')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+i')
    await page.getByLabel('File', { exact: true }).setInputFiles({
      name: 'some.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('case,action,importance,remark\nA,Do,Huge,x\nB,Do,High,y\n'),
    })
    await page.getByText(/“Huge” \(1 row\) is read as Medium/).waitFor()
    await clean('import')
    await page.keyboard.press('Escape')
    await go(page, server, '/p/FERRY/TC-26')
    await page.getByRole('button', { name: 'compare the last two' }).press('Enter')
    await page.getByRole('region', { name: 'Comparison of two versions' }).locator('ins').first().waitFor()
    await clean('comparison')
    await go(page, server, '/p/FERRY/cases')
    await page.getByRole('button', { name: 'repeats' }).click()
    await page.getByText(/runs of steps stand in more than one case/).waitFor()
    await clean('repeated steps')
    await page.getByLabel('cases that say nearly the same').check()
    await page.getByText(/of what their words tell/).waitFor()
    await clean('cases that are alike')
    await page.keyboard.press('Escape')
    await go(page, server, '/p/FERRY/TC-113')
    await page.getByRole('button', { name: 'Insert a routine or a case' }).click()
    await page.getByLabel('Find a routine or a case').waitFor()
    await clean('inserting')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Ask for review' }).click()
    await page.getByRole('dialog').waitFor()
    await clean('asking for review')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: /^Inbox/ }).click()
    await page.getByRole('heading', { name: 'Inbox' }).waitFor()
    await clean('inbox')
    await context.clearCookies()
    await go(page, server, '/sign-in')
    await clean('sign-in')
    await signedIn(context, server, 'mira')
    await page.close()
  })

  it('has the theme of the system, until a person chooses one, and again when one says so', async () => {
    const page = await context.newPage()
    const themed = (to: string) => page.waitForFunction((is) => document.documentElement.dataset['theme'] === is, to)
    await page.emulateMedia({ colorScheme: 'dark' })
    await go(page, server, '/p/FERRY/plans')
    await themed('dark')
    await page.emulateMedia({ colorScheme: 'light' })
    await themed('light')
    const menu = page.getByLabel(/open the menu/)
    await menu.click()
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await page.reload()
    await themed('dark')
    await listening(page)
    await menu.click()
    await page.getByRole('button', { name: 'Theme as the system has it' }).click()
    await themed('light')
    await page.close()
  })

  it('serves a strict content policy, and no page breaks it', async () => {
    const page = await context.newPage()
    const said: string[] = []
    page.on('console', (message) => {
      if (message.type() === 'error') said.push(message.text())
    })
    page.on('pageerror', (error) => said.push(String(error)))
    for (const path of [
      '/p/FERRY',
      '/p/FERRY/RQ-4',
      '/p/FERRY/RQ-4/draft?model=3',
      '/p/FERRY/RQ-40/draft',
      '/p/FERRY/RQ-5',
      '/p/FERRY/TC-17',
      '/p/FERRY/TC-8',
      '/p/FERRY/TC-34',
      '/p/FERRY/cases?tree=yes',
      '/p/FERRY/RT-1',
      '/p/FERRY/reports/risk',
      '/p/FERRY/desk/1300?mine=no',
    ])
      await go(page, server, path)
    expect(said).to.deep.equal([])
    const policy = (await context.request.get(`${server.url}/p/FERRY`)).headers()['content-security-policy']
    expect(policy)
      .to.match(/script-src 'self'( 'sha256-[\w+/=]+')+/)
      .and.not.match(/unsafe-eval|script-src[^;]*unsafe-inline/)
    await page.close()
  })

  it('reaches every station and report by keys', async () => {
    const page = await openPage(context, server, '/p/FERRY')
    for (const [keys, url] of [
      ['Alt+1', /requirements$/],
      ['Alt+4', /runs$/],
      ['Alt+6', /reports$/],
      ['2', /reports\/readiness$/],
      ['3', /reports\/risk$/],
      ['4', /reports\/board$/],
      ['Alt+0', /FERRY$/],
    ] as const) {
      await page.keyboard.press(keys)
      await page.waitForURL(url)
      await listening(page)
      await page.waitForTimeout(500)
    }
    await page.close()
  })
})
