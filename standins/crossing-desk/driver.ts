import type { Page } from 'playwright-core'
import type { Build, Looking } from './builds.ts'
import type { Who } from './seen.ts'

// Somebody at a browser before Crossing Desk: what the proofs of its faults and the automated checks have in common.

/** Somebody at a browser before one build, in its known state. */
export interface Driver {
  readonly page: Page
  readonly base: string
}

export const at = ({ page, base }: Driver, path: string) => page.goto(`${base}${path}`)
// What the application answers machines is read freely here; what matters of it is looked at.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export async function api({ page, base }: Driver, path: string, body?: object): Promise<any> {
  const answer = await page.request.fetch(`${base}/api${path}`, {
    ...(body !== undefined && { method: 'POST', data: JSON.stringify(body) }),
  })
  return answer.json()
}
export const clock = (of: Driver, time: string, date = '2026-05-12') => api(of, '/clock', { at: `${date}T${time}:00` })
export const move = (of: Driver, minutes: number) => api(of, '/clock', { move: minutes })

export async function look({ page, base }: Driver, as: Partial<Looking> & { who?: Who }): Promise<void> {
  const { engine, device, language, who } = as
  const kept = { 'cd-engine': engine, 'cd-device': device, 'cd-language': language, 'cd-who': who }
  await page
    .context()
    .addCookies(Object.entries(kept).flatMap(([name, value]) => (value ? [{ name, value, url: base }] : [])))
}

export const card = '4000 0000 0000 0077'
export const wednesday = '260513'
export const ten40 = `OVTA-${wednesday}-1040`
export const lowSkerrin = `OVLS-${wednesday}-1040`

/** Holds a place by the page of search; answers the code. */
export async function hold(of: Driver, sailing = ten40): Promise<string> {
  const [, from = '', to = '', day = ''] = /^(..)(..)-(\d+)/.exec(sailing) ?? []
  const date = `20${day.slice(0, 2)}-${day.slice(2, 4)}-${day.slice(4)}`
  await at(of, `/?from=${from}&to=${to}&date=${date}`)
  await of.page.click(`[data-sailing="${sailing}"] :is(button, [data-mouse-only])`)
  await of.page.waitForURL(/\/booking\//)
  return of.page.url().split('/').at(-1)!.split('?')[0]!
}

export async function add({ page }: Driver, who: { name?: string; born?: string; card?: string }): Promise<void> {
  const form = page.locator('form[action$="/travellers"]')
  await form.locator('[name=name]').fill(who.name ?? 'Ada Lund')
  await form.locator('[name=born]').fill(who.born ?? '1984-03-02')
  await form.locator('[name=card]').fill(who.card ?? '')
  await form.getByRole('button').click()
}

export async function vehicle({ page }: Driver, of: { kind?: string; length: string; height?: string }): Promise<void> {
  const form = page.locator('form[action$="/vehicle"]')
  await form.locator('[name=kind]').selectOption(of.kind ?? 'car')
  await form.locator('[name=length]').fill(of.length)
  await form.locator('[name=height]').fill(of.height ?? '1.60')
  await form.getByRole('button').click()
}

export async function pay(
  of: Driver,
  code: string,
  how: { card?: string; voucher?: string; account?: string },
): Promise<void> {
  await at(of, `/booking/${code}/pay`)
  for (const [name, value] of Object.entries(how)) await of.page.fill(`[name=${name}]`, value)
  await of.page.click('form[action$="/pay"] button')
}

export const text = ({ page }: Driver, selector = 'main') => page.locator(selector).first().innerText()
export const says = async (of: Driver, what: string | RegExp, selector?: string) => {
  const found = await text(of, selector)
  return typeof what === 'string' ? found.includes(what) : what.test(found)
}
export const isRefused = async ({ page }: Driver) => (await page.locator('.refused[role=alert]').count()) > 0

/** A booking made beside, by machine; answers its code, or `null` where it was refused. */
export async function made(of: Driver, booking: object): Promise<string | null> {
  return (await api(of, '/bookings', { sailing: ten40, travellers: [{}], ...booking })).code ?? null
}
export const car = (more: object = {}) => ({ kind: 'car', length: 440, height: 160, ...more })
export const van = (more: object = {}) => ({
  kind: 'van',
  length: 500,
  height: 250,
  weight: 1000,
  declared: true,
  ...more,
})
export const deck = async (of: Driver, sailing = ten40) => {
  await look(of, { who: 'clerk' })
  await at(of, `/deck?sailing=${sailing}`)
}
export const lane = (of: Driver, name: string) => text(of, `[data-lane=${name}]`)
export const free = (of: Driver, name: string) => text(of, `[data-lane=${name}] [data-free]`)
export const charges = async (of: Driver, code: string): Promise<number[]> => {
  await at(of, '/bank')
  const amounts = await of.page.locator(`[data-code="${code}"] .amount`).allInnerTexts()
  return amounts.map(Number)
}
export async function cancelled(of: Driver, sailing = ten40): Promise<void> {
  await look(of, { who: 'officer' })
  await at(of, '/weather')
  await of.page.click(`form[action$="/weather/${sailing}/cancel"] button`)
}
export async function quay(
  of: Driver,
  form: string,
  field: string,
  value: string,
  sailing = 'OVTA-260512-1040',
): Promise<void> {
  await look(of, { who: 'quay' })
  if (!of.page.url().includes('/quay?')) await at(of, `/quay?sailing=${sailing}`)
  await of.page.fill(`form[action$="/${form}"] [name=${field}]`, value)
  await of.page.click(`form[action$="/${form}"] button`)
}

export async function signedIn(of: Driver, who: Who = 'clerk'): Promise<void> {
  await at(of, '/sign-in')
  await of.page.fill('[name=who]', who)
  await of.page.fill('[name=password]', 'ferry')
  await of.page.click('form[action$="/sign-in"] button')
}

/** Somebody before a build in its known state, who looks as the usual ones do. */
export async function atBuild(page: Page, url: string, of: { build: Build; as: Partial<Looking> }): Promise<Driver> {
  const driver = { page, base: `${url}/${of.build}` }
  await page.goto('about:blank')
  await page.context().clearCookies()
  await page.setViewportSize({ width: 1280, height: 800 })
  await api(driver, '/reset', {})
  await look(driver, { engine: 'Chromium', device: 'desk', language: 'en', ...of.as })
  return driver
}
