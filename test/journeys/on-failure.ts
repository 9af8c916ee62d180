import { join } from 'node:path'
import type { Context } from 'mocha'
import { openContexts } from './browser.ts'

/** With `ROVANT_SHOTS` naming a folder, what every page showed when a journey failed is kept there. */
export const mochaHooks = {
  async afterEach(this: Context) {
    const folder = process.env['ROVANT_SHOTS']
    const test = this.currentTest
    if (folder === undefined || test?.state !== 'failed') return
    const pages = openContexts().flatMap((context) => context.pages())
    const name = test.title.replace(/\W+/g, '-').slice(0, 60)
    for (const [at, page] of pages.entries())
      await page.screenshot({ path: join(folder, `${name}-${at}.png`) }).catch(() => undefined)
  },
}
