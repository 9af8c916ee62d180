import type { BrowserContext, Page } from 'playwright-core'
import { openBrowser } from '../test/journeys/browser.ts'
import { type Measured, ms, quantile, type Setting } from './measure.ts'

const words = ['booking', 'refund', 'lane', 'sailing', 'vehicle']

/** A browser in which the person of the bench is signed in. */
export async function signedInBrowser(setting: Setting): Promise<BrowserContext> {
  const context = await openBrowser()
  await context.addCookies(
    setting.cookie.split('; ').map((pair) => {
      const at = pair.indexOf('=')
      return { name: pair.slice(0, at), value: pair.slice(at + 1), url: setting.url }
    }),
  )
  return context
}

/** Collects how long each task of a page takes from now on that the browser calls a long one (more than 50 ms); answers how to read them. */
export async function longTasksOf(page: Page): Promise<() => Promise<number[]>> {
  await page.evaluate(() => {
    const long: number[] = []
    Object.assign(window, { long })
    new PerformanceObserver((list) => long.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    })
  })
  return () => page.evaluate((): number[] => Object(window).long)
}

/** The list of cases as a person feels it: jumps to any row, and keystrokes of the filter, timed inside the page between the act and the frame that shows the answer. */
export async function benchBrowser(setting: Setting): Promise<Measured[]> {
  const context = await signedInBrowser(setting)
  const page = await context.newPage()
  await page.goto(`${setting.url}/p/LARGE/cases`)
  await page.waitForFunction(
    () => Number(document.querySelector('[role=grid]')?.getAttribute('aria-rowcount') ?? 0) > 1000,
  )
  await page.waitForTimeout(500)
  const rows = Number(await page.getAttribute('[role=grid]', 'aria-rowcount'))
  const jumps: number[] = []
  let heights = 0
  for (let n = 0; n < 60; n++) {
    const jump = await jumpTo(page, ((n * 7919) % rows) / rows)
    jumps.push(jump.time)
    heights = Math.max(heights, jump.odd)
  }
  const keys: number[] = []
  for (const word of words) {
    await page.fill('#list-filter', '')
    await page.waitForFunction(
      (all) => Number(document.querySelector('[role=grid]')?.getAttribute('aria-rowcount')) === all,
      rows,
    )
    await page.focus('#list-filter')
    for (let at = 1; at <= word.length; at++) keys.push(await keystroke(page, word.slice(0, at)))
  }
  await context.close()
  const [jump, key] = [quantile(jumps, 0.95), quantile(keys, 0.95)]
  return [
    {
      name: `a jump to any of ${rows - 1} rows, until it is filled`,
      met: jump <= 150 && heights === 0,
      figures: { p50: quantile(jumps, 0.5), p95: jump, oddHeights: heights },
      text: `p50 ${ms(quantile(jumps, 0.5))}, p95 ${ms(jump)} over ${jumps.length} (aim 150 ms); ${heights === 0 ? 'every placeholder had its height' : `${heights} rows changed their height`}`,
    },
    {
      name: 'a keystroke of the filter, until its rows are shown',
      met: key <= 100,
      figures: { p50: quantile(keys, 0.5), p95: key },
      text: `p50 ${ms(quantile(keys, 0.5))}, p95 ${ms(key)} over ${keys.length} (aim 100 ms)`,
    },
  ]
}

/** Scrolls to a share of the list; answers the time until every row in sight is there, and how many placeholders were not of a row's height. */
const jumpTo = (page: Page, share: number): Promise<{ time: number; odd: number }> =>
  page.evaluate(
    (to) =>
      new Promise<{ time: number; odd: number }>((resolve, reject) => {
        const grid = document.querySelector('[role=grid]')
        if (!grid) return reject(new Error('there is no list'))
        const start = performance.now()
        grid.scrollTop = to * (grid.scrollHeight - grid.clientHeight)
        const odd = new Set<number>()
        // A method, since a named function would ask the page for a helper of the compiler.
        const watch = {
          look() {
            const view = grid.getBoundingClientRect()
            const seen = [...grid.querySelectorAll('[role=row][id]')].filter((row) => {
              const box = row.getBoundingClientRect()
              return box.bottom > view.top + 34 && box.top < view.bottom
            })
            for (const row of seen)
              if (Math.abs(row.getBoundingClientRect().height - 32) > 0.6)
                odd.add(Number(row.getAttribute('aria-rowindex')))
            if (seen.length > 5 && seen.every((row) => row.getAttribute('aria-busy') !== 'true'))
              return resolve({ time: performance.now() - start, odd: odd.size })
            if (performance.now() - start > 5000) return reject(new Error('the rows did not come'))
            requestAnimationFrame(watch.look)
          },
        }
        requestAnimationFrame(watch.look)
      }),
    share,
  )

/** Types as a person does: the text of the field changes, and the list shows rows that fit it, all of them here. */
const keystroke = (page: Page, text: string): Promise<number> =>
  page.evaluate(
    (typed) =>
      new Promise<number>((resolve, reject) => {
        const field = document.querySelector('#list-filter')
        const grid = document.querySelector('[role=grid]')
        if (!(field instanceof HTMLInputElement) || !grid) return reject(new Error('there is no filter'))
        const start = performance.now()
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, typed)
        field.dispatchEvent(new Event('input', { bubbles: true }))
        const watch = {
          look() {
            const asked = new URL(location.href).searchParams.get('text') === typed
            const rows = [...grid.querySelectorAll('[role=row][id]')].slice(0, 20)
            const shown =
              rows.length > 0 &&
              rows.every(
                (row) =>
                  row.getAttribute('aria-busy') !== 'true' && (row.textContent ?? '').toLowerCase().includes(typed),
              )
            if (asked && shown && grid.getAttribute('data-asked') === typed) return resolve(performance.now() - start)
            if (performance.now() - start > 5000) return reject(new Error(`the filter did not answer “${typed}”`))
            requestAnimationFrame(watch.look)
          },
        }
        requestAnimationFrame(watch.look)
      }),
    text,
  )
