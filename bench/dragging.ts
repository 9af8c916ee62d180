import type { Page } from 'playwright-core'
import { longTasksOf, signedInBrowser } from './browser.ts'
import { type Measured, ms, type Setting } from './measure.ts'

const drags = 4
const moves = 400

interface Drag {
  readonly rows: number
  /** Tasks of the page of more than 50 ms: what the browser calls a long task. */
  readonly long: readonly number[]
}

/**
 * The line dragged over thousands of rows by a mouse in a real browser. What holds up a page there may be the machine: a plain list of
 * as many rows, pulled along as far by as many moves in the same browser, is the baseline. The same drag does the same work each
 * time, so the quietest of some tells what the page itself takes.
 */
export async function benchDragging(setting: Setting, key: string): Promise<Measured> {
  const context = await signedInBrowser(setting)
  const [own, floor]: [Drag[], Drag[]] = [[], []]
  // Each in a page of its own: what an earlier one left is not swept up while the next is dragged.
  const alone = async (drag: (page: Page) => Promise<Drag>): Promise<Drag> => {
    const page = await context.newPage()
    const told = await drag(page)
    await page.close()
    return told
  }
  for (let n = 0; n < drags; n++) {
    floor.push(await alone(plainDrag))
    own.push(await alone((page) => lineDrag(page, `${setting.url}/p/LARGE/runs/line?run=${key}&minutes=2000`)))
  }
  await context.close()
  const least = Math.min(...own.map(longest))
  return {
    name: 'dragging the line over 5,000 items: no task of the page above 50 ms',
    text: `${own.map(({ rows }) => rows).join(', ')} rows passed in ${moves} moves each; longer tasks ${told(own)}; a plain list pulled along as far ${told(floor)}`,
    figures: { least, longest: Math.max(...own.map(longest)), floor: Math.max(...floor.map(longest)) },
    met: least === 0 && own.every(({ rows }) => rows > 0),
  }
}

const longest = ({ long }: Drag): number => Math.max(0, ...long)
const told = (all: readonly Drag[]): string =>
  all.map((each) => (each.long.length === 0 ? 'none' : `${each.long.length} (${ms(longest(each))})`)).join(', ')

async function lineDrag(page: Page, url: string): Promise<Drag> {
  await page.goto(url)
  const line = page.getByLabel('The line where the time ends')
  await page.getByRole('grid', { name: 'Open items' }).waitFor()
  const bring = () =>
    page.evaluate(() => {
      const [grid, at] = [document.querySelector('[role=grid]'), document.querySelector('[role=slider]')]
      if (grid && !at) grid.scrollTop += 300
      return at !== null
    })
  while (!(await bring())) await page.waitForTimeout(30)
  // Rows are drawn a little beyond what is in sight.
  await line.evaluate((each) => each.scrollIntoView({ block: 'center' }))
  const at = async () => Number(await line.getAttribute('aria-valuenow'))
  const [box, list] = [await line.boundingBox(), await page.getByRole('grid', { name: 'Open items' }).boundingBox()]
  if (!box || !list) throw new Error('the line is not in sight')
  const before = await at()
  const long = await pulledAlong(page, { x: box.x + 200, from: box.y + 16, edge: list.y + list.height })
  const rows = (await at()) - before
  await page.mouse.up()
  return { rows, long }
}

async function plainDrag(page: Page): Promise<Drag> {
  const row =
    '<p style="height:32px;margin:0">An item of a run that takes three minutes, with what it is worth and why</p>'
  await page.setContent(`<div style="height:500px;overflow:auto">${row.repeat(5000)}</div>`)
  await page.evaluate(() => {
    const list = document.querySelector('div')
    list?.addEventListener('pointermove', () => (list.scrollTop += 32))
  })
  const long = await pulledAlong(page, { x: 200, from: 200, edge: 500 })
  const rows = Math.round(await page.evaluate(() => (document.querySelector('div')?.scrollTop ?? 0) / 32))
  await page.mouse.up()
  return { rows, long }
}

/** Down at once to the lower edge, where a list is pulled along, and about there for a while. */
async function pulledAlong(
  page: Page,
  { x, from, edge }: { x: number; from: number; edge: number },
): Promise<number[]> {
  await page.waitForTimeout(1000)
  const longTasks = await longTasksOf(page)
  await page.mouse.move(x, from)
  await page.mouse.down()
  for (let n = 0; n < moves; n++) await page.mouse.move(x + (n % 7), edge - 8 - (n % 5))
  // What was held up last is told a little later.
  await page.waitForTimeout(200)
  return longTasks()
}
