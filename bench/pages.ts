import { clientOf, freshData, startServer } from '../test/server.ts'
import { openBrowser, signedIn } from '../test/journeys/browser.ts'
import type { Measured } from './measure.ts'

const paths = [
  '/sign-in',
  '/p/FERRY',
  '/p/FERRY/RQ-4',
  '/p/FERRY/TC-17',
  '/p/FERRY/PL-2',
  '/p/FERRY/RN-5',
  '/p/FERRY/desk/1300?mine=no',
  '/p/FERRY/DF-3',
  '/p/FERRY/reports',
  '/p/FERRY/reports/risk',
  '/p/FERRY/reports/board',
]
const most = 250

/** JavaScript per page until the network is idle, in kB as it came over the wire. */
export async function benchPages(): Promise<Measured[]> {
  const server = await startServer({ command: 'demo', data: freshData() })
  await clientOf(server.url, 'mira')
  const measured: Measured[] = []
  for (const path of paths) {
    const context = await openBrowser()
    if (path !== '/sign-in') await signedIn(context, server, 'mira')
    const page = await context.newPage()
    const wire = await context.newCDPSession(page)
    await wire.send('Network.enable')
    const scripts = new Set<string>()
    let bytes = 0
    wire.on('Network.responseReceived', ({ requestId, response }) => {
      if (/javascript/.test(response.mimeType)) scripts.add(requestId)
    })
    wire.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (scripts.has(requestId)) bytes += encodedDataLength
    })
    await page.goto(`${server.url}${path}`, { waitUntil: 'load' })
    await page.waitForTimeout(1500)
    measured.push({
      name: `JavaScript of ${path}`,
      met: bytes / 1000 <= most,
      figures: { kB: bytes / 1000 },
      text: `${(bytes / 1000).toFixed(0)} kB in ${scripts.size} files (aim ${most} kB)`,
    })
    await context.close()
  }
  await server.stop()
  return measured
}
