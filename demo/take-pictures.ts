import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium } from 'playwright-core'
import { builds } from '../standins/crossing-desk/builds.ts'
import { type FaultId, faultIds, isIn } from '../standins/crossing-desk/faults.ts'
import { startCrossingDesk } from '../standins/crossing-desk/main.ts'
import { isSeen, lookingFor } from '../standins/crossing-desk/proofs.ts'

// Takes the pictures of `demo/pictures` anew: what a tester sees of some faults, in the first build that has them. They are kept, since
// the demo starts where there is no browser.

/** Where on the page it is seen. */
const pictured: Readonly<Partial<Record<FaultId, 'top' | 'end'>>> = {
  'band-cut-to-decimetres': 'end',
  'voucher-rest-lost': 'top',
  'hold-begins-again': 'top',
  'trailer-in-another-lane': 'top',
  'double-tap-charges-twice': 'top',
  'receipt-translates-twice': 'top',
  'return-below-72': 'end',
  'below-lowest-fare': 'end',
  'told-twice': 'top',
}
const folder = fileURLToPath(new URL('pictures', import.meta.url))

const desk = await startCrossingDesk({ port: 0 })
const context = await chromium.launchPersistentContext(mkdtempSync(join(tmpdir(), 'rovant-pictures-')), {
  executablePath: process.env['ROVANT_CHROMIUM'] ?? '/usr/bin/chromium',
  viewport: { width: 820, height: 560 },
  args: ['--no-sandbox'],
})
const page = await context.newPage()
for (const id of faultIds) {
  const place = pictured[id]
  if (!place) continue
  const build = builds.find((each) => isIn(each, id)) ?? builds[0]
  if (!(await isSeen(page, desk.url, { id, build, as: lookingFor(id) })))
    throw new Error(`${id} is not seen on ${build}`)
  if (place === 'end') await page.evaluate('scrollTo(0, document.body.scrollHeight)')
  await page.screenshot({ path: join(folder, `${id}.png`) })
}
await context.close()
await desk.stop()
