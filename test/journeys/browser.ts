import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Browser, type BrowserContext, chromium, type Page } from 'playwright-core'
import { demoData, type Running, startServer } from '../server.ts'

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

const executablePath = process.env['ROVANT_CHROMIUM'] ?? '/usr/bin/chromium'

const opened = new Set<BrowserContext>()
export const openContexts = (): readonly BrowserContext[] => [...opened]

/** Debian's Chromium with a profile of its own. */
export async function openBrowser(): Promise<BrowserContext> {
  const context = await chromium.launchPersistentContext(mkdtempSync(join(tmpdir(), 'rovant-browser-')), {
    executablePath,
    headless: true,
    viewport: { width: 1280, height: 800 },
    args: flags,
  })
  opened.add(context)
  context.on('close', () => opened.delete(context))
  return context
}

export async function signedIn(context: BrowserContext, server: Running, who: string): Promise<void> {
  const answer = await context.request.post(`${server.url}/api/v1/sign-in`, {
    data: { email: `${who}@tarnsey.example`, password: 'ferry-2024' },
  })
  if (!answer.ok()) throw new Error(await answer.text())
}

/** A page of the application, taken over by the browser and listening to keys. */
export async function openPage(context: BrowserContext, server: Running, path: string): Promise<Page> {
  const page = await context.newPage()
  await go(page, server, path)
  return page
}

/** The same, with time for what comes after: other answers, the stream of changes. */
export async function go(page: Page, server: Running, path: string): Promise<void> {
  await load(page, server, path)
  await page.waitForTimeout(400)
}

export async function load(page: Page, server: Running, path: string): Promise<void> {
  await page.goto(`${server.url}${path}`)
  await listening(page)
}

/** Until the browser has taken the page over and, where it has stations to go to, hears keys. */
export async function listening(page: Page): Promise<void> {
  await page.waitForFunction(
    () =>
      !document.querySelector('astro-island[ssr]') &&
      (document.documentElement.dataset['keys'] === 'heard' || !document.querySelector('nav[aria-label=Stations]')),
  )
}

/** Takes back what this notice tells, whichever others came after it. */
export const undo = (page: Page, told: string | RegExp): Promise<void> =>
  page.getByText(told).locator('..').getByRole('button', { name: 'Undo' }).click()

/** Lists and sheets of the demo, by their addresses within its project; the first is Today. */
export const places: readonly string[] = [
  '',
  '/requirements',
  '/RQ-4',
  '/cases',
  '/TC-17',
  '/plans',
  '/PL-2',
  '/suites',
  '/runs',
  '/RN-5',
  '/defects',
  '/DF-3',
]

export interface Visit {
  readonly server: Running
  /** Opens contexts as they are asked for: without scripts, on a phone. */
  readonly browser: Browser
}

/** A browser that opens contexts as they are asked for. */
export const launched = (): Promise<Browser> => chromium.launch({ executablePath, args: flags })

/** The demo, fresh, and a browser in which nobody has been yet. */
export async function startVisit(): Promise<Visit> {
  const server = await startServer({ command: 'demo', data: await demoData() })
  return { server, browser: await launched() }
}
export async function endVisit({ server, browser }: Visit): Promise<void> {
  await browser.close()
  await server.stop()
}

export interface Journey {
  readonly server: Running
  readonly context: BrowserContext
}

/** The demo, fresh, and a browser, with somebody signed in where `who` is given. */
export async function startJourney(who: string | null, args: readonly string[] = []): Promise<Journey> {
  const server = await startServer({ command: 'demo', data: await demoData(), args })
  const context = await openBrowser()
  if (who !== null) await signedIn(context, server, who)
  return { server, context }
}

export async function endJourney({ server, context }: Journey): Promise<void> {
  await context.close()
  await server.stop()
}
