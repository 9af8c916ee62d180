import { longTasksOf, signedInBrowser } from './browser.ts'
import { ask, type Measured, ms, type Setting } from './measure.ts'

/** Typing in a model of a hundred parameters: the longest task of the page's own thread, while its worker searches. */
export async function benchDrafting(setting: Setting): Promise<Measured[]> {
  const parameters = Object.fromEntries(Array.from({ length: 100 }, (_, at) => [`p${at}`, ['a', 'b', 'c', 'd']]))
  const made = await ask(setting, 'POST', '/projects/LARGE/requirements/RQ-1/models', {
    name: 'Typing',
    model: { technique: 'combos', body: { parameters } },
  })
  const id = Number(Object(made).id)
  const context = await signedInBrowser(setting)
  const page = await context.newPage()
  await page.goto(`${setting.url}/p/LARGE/RQ-1/draft?model=${id}`)
  const start = Date.now()
  await page.getByText(/\d+ cases proposed/).waitFor()
  const first = Date.now() - start
  await page.waitForTimeout(1500)
  const longTasks = await longTasksOf(page)
  const line = page.getByLabel('Parameters, line 50')
  await line.focus()
  await page.keyboard.press('End')
  for (const letter of ', another value, and one more') {
    await page.keyboard.type(letter)
    await page.waitForTimeout(120)
  }
  await page.waitForTimeout(3000)
  const tasks = await longTasks()
  await context.close()
  await ask(setting, 'DELETE', `/projects/LARGE/models/${id}`)
  const longest = Math.max(0, ...tasks)
  return [
    {
      name: 'typing in a model of 100 parameters × 4 values: longest task of the page',
      met: longest <= 50,
      figures: { longest, tasks: tasks.length, first },
      text: `${longest === 0 ? 'none above 50 ms' : `${ms(longest)}, ${tasks.length} above 50 ms`} (aim 50 ms); cases shown ${first} ms after the page`,
    },
  ]
}
