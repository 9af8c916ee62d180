import { listCases, readCase, writeCaseLines } from '#core/cases/contract.ts'
import { createLinks } from '#core/cases/link-contract.ts'
import { createDefect } from '#core/defects/contract.ts'
import { createPlan } from '#core/plans/contract.ts'
import { createSuite, readSuite } from '#core/plans/suite-contract.ts'
import { readRequirement, writeRequirementLines } from '#core/requirements/contract.ts'
import { createRun, dealItems, listItems } from '#core/runs/contract.ts'
import { recordStep, recordWhole, startAttempt } from '#core/runs/desk-contract.ts'
import { addPerson } from '#db/people/people.ts'
import { addVerdictKind } from '#db/projects/verdict-kinds.ts'
import type { FinalVerdict } from '#core/lib/verdict.ts'
import type { App, Person, Shop } from './app.ts'

// Test data as a person would make it: by the same contracts, as the lead of the shop. Each says only what the test is about.

let sequence = 0
/** Who sends a verdict and as which of theirs: never the same twice. */
export const sent = (app: Pick<App, 'now'>) => ({ client: 'test-client-1', sequence: ++sequence, at: app.now() })

/** An administrator of the installation, who is of no project. */
export function makeAdministrator(of: Pick<Shop, 'db' | 'now' | 'as'>): Person {
  const who = { id: 'admin', name: 'Ada Min', email: 'admin@shop.example', administrator: true, passwordHash: 'none' }
  addPerson(of.db, who, of.now())
  return of.as(who.id)
}

/** Requirements, a title each; answers their keys. */
export const makeRequirements = async (by: Person, ...titles: string[]): Promise<string[]> =>
  (await by.ask(writeRequirementLines, { body: { lines: titles.join('\n') } })).keys

export const requirement = (by: Person, ref: string) => by.ask(readRequirement, { params: { ref } })
export const caseOf = (by: Person, ref: string) => by.ask(readCase, { params: { ref } })

/** A case with steps written `action => expected`; answers its key. */
export async function makeCase(
  by: Person,
  title: string,
  of: { readonly steps?: readonly string[]; readonly proves?: string } = {},
): Promise<string> {
  const { steps = ['Look => It is there'] } = of
  const lines = [title, ...steps.map((step) => `\t${step}`)].join('\n')
  const { keys } = await by.ask(writeCaseLines, { body: { lines } })
  const [key = ''] = keys
  if (of.proves) await by.ask(createLinks, { body: { requirements: [of.proves], cases: [key] } })
  return key
}

/** Cases of one step each that prove one requirement. */
export async function makeProving(by: Person, ...titles: string[]): Promise<string[]> {
  const [proves = ''] = await makeRequirements(by, 'Pay')
  const keys: string[] = []
  for (const title of titles) keys.push(await makeCase(by, title, { steps: ['One'], proves }))
  return keys
}

export async function idOf(by: Person, key: string): Promise<number> {
  return (await caseOf(by, key)).id
}
export async function idsOf(by: Person, keys: readonly string[]): Promise<number[]> {
  const { rows } = await by.ask(listCases, { query: { limit: 500 } })
  return keys.map((key) => rows.find((row) => row.key === key)?.id ?? 0)
}

export async function makeSuite(by: Person, title: string, cases: readonly string[]) {
  const { key } = await by.ask(createSuite, { body: { title, cases: await idsOf(by, cases) } })
  return by.ask(readSuite, { params: { ref: key } })
}

/** A plan of the shop's release with these cases, in its first environment unless others are named. */
export async function makePlan(shop: Shop, cases: readonly string[], environments: readonly number[] = []) {
  const suite = await makeSuite(shop.lead, 'What is asked for', cases)
  return shop.lead.ask(createPlan, {
    body: { title: 'The plan', release: shop.release, suites: [suite.id], environments: [...environments] },
  })
}

interface RunOf {
  readonly environments?: readonly number[]
  readonly build?: number
  readonly people?: readonly string[]
  readonly state?: 'Planned' | 'Open'
}

/** An open run of these cases on the newest build; answers its key and items. */
export async function makeRun(shop: Shop, cases: readonly string[], of: RunOf = {}) {
  const made = await shop.lead.ask(createRun, {
    body: {
      title: 'The run',
      build: of.build ?? shop.builds[1],
      cases: await idsOf(shop.lead, cases),
      environments: [...(of.environments ?? [shop.environments[0]])],
      people: [...(of.people ?? ['tester'])],
      startOn: '2026-11-23',
      endOn: '2026-11-30',
      state: of.state ?? 'Open',
    },
  })
  const { rows: items } = await shop.lead.ask(listItems, { params: { ref: made.key } })
  return { ...made, items }
}

/** The same with every item given to the tester. */
export async function makeDealtRun(shop: Shop, cases: readonly string[]) {
  const run = await makeRun(shop, cases)
  await shop.lead.ask(dealItems, { params: { ref: run.key }, body: {} })
  return run
}

/** A run of one case with these steps; answers the run, the case's key, and its item's id. */
export async function makeItem(shop: Shop, steps: readonly string[] = ['One', 'Two']) {
  const key = await makeCase(shop.tester, 'Pays', { steps })
  const run = await makeRun(shop, [key])
  return { ...run, case: key, id: run.items[0]?.id ?? 0 }
}

/** Does `act` once so many transactions of something longer are through. */
export function meanwhile(of: Shop, act: () => void, transactions = 1): void {
  let through = 0
  const stop = of.services.events.listen(of.project().id, () => {
    if (++through < transactions) return
    stop()
    act()
  })
}

/** A word of the shop's own that counts as passed. */
export const addRemark = (shop: Shop): void =>
  void addVerdictKind(shop.db, shop.project().id, {
    word: 'With a remark',
    countsAs: 'Passed',
    final: true,
    forItems: true,
    forSteps: true,
    sign: 'wave',
    tint: 'amber',
  })

/** Starts an attempt on an item as the tester. */
export const start = (shop: Shop, item: number) => shop.tester.ask(startAttempt, { params: { id: item }, body: {} })

/** Gives the first step of a new attempt a verdict as the tester; answers the attempt. */
export async function execute(shop: Shop, item: number, verdict: FinalVerdict) {
  const attempt = await start(shop, item)
  const [step] = attempt.steps
  if (step)
    await shop.tester.ask(recordStep, {
      params: { id: attempt.id, row: 1, step: step.id },
      body: { verdict, ...sent(shop) },
    })
  if (verdict === 'Passed') await whole(shop, attempt.id, verdict)
  return attempt
}

export const whole = (shop: Shop, attempt: number, verdict: FinalVerdict | null, reason: string | null = null) =>
  shop.tester.ask(recordWhole, { params: { id: attempt }, body: { verdict, reason, ...sent(shop) } })

/** An attempt of the tester that passes with the word of `addRemark`. */
export async function remark(shop: Shop, item: number) {
  const attempt = await start(shop, item)
  const body = { verdict: 'Passed' as const, word: 'With a remark', ...sent(shop) }
  await shop.tester.ask(recordWhole, { params: { id: attempt.id }, body })
  return attempt
}

/** A defect of a failing attempt's first step. */
export const makeDefect = (shop: Shop, attempt: { readonly id: number; readonly steps: readonly { id: number }[] }) =>
  shop.tester.ask(createDefect, {
    body: {
      title: 'It is not there',
      severity: 'Major',
      from: { attempt: attempt.id, row: 1, step: attempt.steps[0]?.id ?? null },
    },
  })

/** The filter that shows what is retired. */
export const retiredFilter = JSON.stringify({ field: 'retired', op: 'is', values: ['yes'] })
