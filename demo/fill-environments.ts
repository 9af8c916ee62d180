import type { Ask } from '#core/plans/asks.ts'
import { slotsAsked } from '#core/plans/asks.ts'
import { findCase, saveCase } from '#db/cases/cases.ts'
import { numberOf } from '#db/installation/samples.ts'
import type { Tx } from '#db/open.ts'
import { askedNow, saveDeals, setAsks } from '#db/plans/asked.ts'
import { setPlanEnvironments } from '#db/plans/plans.ts'
import { addInstalled } from '#db/runs/installed.ts'
import { addOutageTo, blockedSpan, saveEnvironment } from '#db/projects/environments.ts'
import { saveProject } from '#db/projects/projects.ts'
import { addBuild, saveBuild } from '#db/projects/releases.ts'
import { day, hour } from '../standins/crossing-desk/clock.ts'
import { requirementNamed } from './named.ts'
import type { Frame } from './fill.ts'
import type { organise } from './fill-plans.ts'

const factors = 'engine: Chromium, Gecko, WebKit\ndevice: desk, phone, tablet\ndatabase: Tern, Otter'
const rules = 'never engine Gecko with device tablet\nwhen engine is WebKit, database is Otter'
const paths = [
  'src/booking/: Booking',
  'src/fares/: Fares',
  'src/payment/: Payment',
  'src/deck/: Deck plan',
  'src/quay/: Quay',
  'src/weather/: Weather',
  'src/: Platform',
].join('\n')

const kept: Readonly<Record<string, { owner: string; notes: string }>> = {
  'Chromium, desk': { owner: 'mira', notes: 'Set back to the known state every night at two.' },
  'Gecko, desk': { owner: 'mira', notes: 'Shared with the web team on Thursdays.' },
  'WebKit, phone': { owner: 'tobin', notes: 'One telephone, in the drawer below the window; charge it after use.' },
  'Chromium, phone': { owner: 'tobin', notes: 'Two telephones.' },
  'WebKit, tablet': { owner: 'yusra', notes: 'The tablet of the quay at Ovia; hangs by its own mast.' },
}

/** Where Crossing Desk is tested: factors, owners, outages, what is asked of which environment, and a build in intake. */
export function fillEnvironments(
  tx: Tx,
  frame: Frame,
  { plans, suites }: Pick<ReturnType<typeof organise>, 'plans' | 'suites'>,
  now: number,
): void {
  const { projectId, environments } = frame
  saveProject(tx, projectId, { factors, factorRules: rules, paths, smokeSuiteId: suites.smoke })
  const named = (name: string): number => environments.get(name) ?? 0
  for (const [name, { owner, notes }] of Object.entries(kept))
    saveEnvironment(tx, named(name), {
      ownerId: owner,
      notes,
      address: `https://bench-${named(name)}.tarnsey.example/`,
    })
  fillOutages(tx, frame, now)
  fillAsks(tx, frame, { plans, suites })
  fillBuilds(tx, frame, now)
  fillInstalled(tx, frame, now)
}

/** The day on which the phones had no network, and a mast that is down since this morning. */
function fillOutages(tx: Tx, { projectId, environments }: Frame, now: number): void {
  const say = (name: string, of: { fromAt: number; untilAt: number | null; reason: string; personId: string }) =>
    addOutageTo(tx, { projectId, environmentId: environments.get(name) ?? 0, ...of })
  for (const name of ['Chromium, phone', 'WebKit, phone']) {
    const dark = blockedSpan(tx, { run: 'Rc1 regression', environment: environments.get(name) ?? 0 })
    if (dark)
      say(name, {
        fromAt: dark.from - hour / 2,
        untilAt: dark.until + hour / 2,
        reason: 'No network for phones',
        personId: 'tobin',
      })
  }
  say('WebKit, tablet', { fromAt: now - 5 * hour, untilAt: null, reason: 'Mast down on the quay', personId: 'yusra' })
}

function fillAsks(
  tx: Tx,
  { projectId, environments }: Frame,
  { plans, suites }: Pick<ReturnType<typeof organise>, 'plans' | 'suites'>,
): void {
  const ids = (...names: string[]) => names.map((name) => environments.get(name) ?? 0)
  const requirement = (title: string) => requirementNamed(tx, projectId, title)
  setPlanEnvironments(tx, plans.current, [...environments.values()])
  const both = ids('Chromium, desk', 'WebKit, phone')
  const asks: Ask[] = [
    { about: 'plan', id: 0, way: 'all', environments: both },
    { about: 'suite', id: suites.access, way: 'spread', environments: null },
    { about: 'requirement', id: requirement('Deck plan'), way: 'pairs', environments: null },
  ]
  setAsks(
    tx,
    plans.current,
    asks.filter(({ about, id }) => about === 'plan' || id > 0),
  )
  const { world, plans: asked } = askedNow(tx, projectId, [plans.current])
  for (const [id, plan] of asked)
    saveDeals(
      tx,
      id,
      [...slotsAsked(plan, world).fresh].map(([own, environment]) => ({ case: own, environment })),
    )
}

function fillBuilds(tx: Tx, { projectId, builds, releases }: Frame, now: number): void {
  const said: Readonly<Record<string, string>> = {
    '2.4.0-rc1': 'Vehicle bands and the new fare table are complete.',
    '2.4.0-rc2': 'Repairs in payment and the hold; the deck plan places trailers behind their car.',
  }
  for (const [name, notes] of Object.entries(said)) {
    const id = builds.get(name)
    if (id !== undefined) saveBuild(tx, id, { notes })
  }
  addBuild(tx, projectId, {
    releaseId: releases.get('2.4') ?? 0,
    name: '2.4.0-rc4',
    state: 'Intake',
    offeredAt: now - 0.2 * day,
    notes: 'Sign-in mended; nothing else since rc2 but the words of two messages of the weather.',
    touches: JSON.stringify({ components: ['Platform', 'Weather'], requirements: [] }),
  })
}

/** Every bench was set up anew for the release candidate, but the one that the web team held on to. */
function fillInstalled(tx: Tx, { projectId, builds, environments }: Frame, now: number): void {
  const say = (name: string, build: string, of: { days: number; note: string; personId: string | null }) =>
    addInstalled(tx, {
      projectId,
      environmentId: environments.get(name) ?? 0,
      buildId: builds.get(build) ?? null,
      fromAt: now - of.days * day,
      note: of.note,
      personId: of.personId,
      saidAt: now - of.days * day,
    })
  for (const name of ['Chromium, desk', 'WebKit, desk', 'Gecko, desk'])
    say(name, '2.4.0-rc1', { days: 12, note: '', personId: null })
  for (const name of ['Chromium, desk', 'WebKit, desk']) say(name, '2.4.0-rc2', { days: 4.5, note: '', personId: null })
  say('WebKit, phone', '2.4.0-rc2', { days: 4.3, note: 'By cable, from the desk', personId: 'tobin' })
}

/** A case of the plan before, which is tested no more. */
export function retireCase(tx: Tx, projectId: number, now: number): void {
  const number = numberOf(tx, { kind: 'case', projectId, title: 'Bicycle counts as on foot' })
  const own = number === null ? undefined : findCase(tx, projectId, number)
  if (own) saveCase(tx, own.id, { retiredAt: now - 20 * day })
}
