import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Build, builds, type Looking } from '../../standins/crossing-desk/builds.ts'
import { type FaultId, faultIds, faults, isIn, shows } from '../../standins/crossing-desk/faults.ts'
import { type CrossingDesk, startCrossingDesk } from '../../standins/crossing-desk/main.ts'
import { isSeen, lookingFor } from '../../standins/crossing-desk/proofs.ts'
import { openBrowser } from '../journeys/browser.ts'

/** All nine where somebody asks for it; else those that have the fault, those beside them, and the one that has none. */
const triedFor = (id: FaultId): readonly Build[] =>
  process.env['ROVANT_EVERY_BUILD'] === '1'
    ? builds
    : builds.filter(
        (build, at) => build === '2.3.4' || [-1, 0, 1].some((by) => builds[at + by] && isIn(builds[at + by]!, id)),
      )

const plain: Looking = { engine: 'Chromium', device: 'desk', language: 'en' }

describe('faults of Crossing Desk', () => {
  let desk: CrossingDesk
  let context: BrowserContext
  let page: Page
  before(async () => {
    desk = await startCrossingDesk({ port: 0 })
    context = await openBrowser()
    page = await context.newPage()
  })
  after(async () => {
    await context.close()
    await desk.stop()
  })
  const seenIn = async (id: FaultId, as: Partial<Looking>): Promise<Build[]> => {
    const found: Build[] = []
    for (const build of triedFor(id)) if (await isSeen(page, desk.url, { id, build, as })) found.push(build)
    return found
  }

  for (const id of faultIds)
    it(`${id}: seen in the browser in its builds and in no other`, async function () {
      this.timeout(120_000)
      expect(await seenIn(id, lookingFor(id))).to.deep.equal(builds.filter((build) => isIn(build, id)))
    })

  it('those of one engine, device or language are seen by nobody else', async function () {
    this.timeout(120_000)
    for (const id of faultIds.filter((each) => faults[each].only !== undefined)) {
      const build = builds.find((each) => isIn(each, id)) ?? builds[0]
      for (const what of Object.keys(lookingFor(id)) as (keyof Looking)[]) {
        const as = { ...lookingFor(id), [what]: plain[what] }
        expect(await isSeen(page, desk.url, { id, build, as }), `${id} as ${JSON.stringify(as)}`).to.equal(
          shows(id, build, { ...plain, ...as }),
        )
      }
    }
  })
})

it('has faults of every kind: mended, come back, of one engine, device or language, under load, by luck', () => {
  const all = Object.values(faults)
  const count = (which: (of: (typeof all)[number]) => boolean) => all.filter(which).length
  expect(all.length).to.be.at.least(30)
  expect(count(({ fixed }) => fixed !== null)).to.be.at.least(15)
  expect(count(({ again }) => again !== undefined)).to.be.at.least(2)
  for (const what of ['engine', 'device', 'language'] as const)
    expect(count(({ only }) => only?.[what] !== undefined)).to.be.at.least(1)
  for (const needs of ['load', 'luck'] as const) expect(count((each) => each.needs === needs)).to.equal(1)
  expect(new Set(all.map(({ defect }) => defect)).size).to.equal(all.length)
})
