import { keyOf } from '#core/lib/key.ts'
import { emptyContent, type StepText, type StepUse, type VersionContent } from '#core/cases/steps.ts'
import { addTable, addTableRow } from '#db/reuse/data-tables.ts'
import { addVersion, readContent, setVersionState, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { caseById, saveCase } from '#db/cases/cases.ts'
import { addSuggestion, askReview } from '#db/review/reviews.ts'
import { addRoutine, addRoutineVersion, routineWorking, saveRoutine, writeRoutineSteps } from '#db/reuse/routines.ts'
import { addTemplate } from '#db/reuse/templates.ts'
import { addStanding } from '#db/formats/imports.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { tell } from '#db/talk/inbox.ts'
import { addComment } from '#db/talk/queries.ts'

interface ReuseOf {
  readonly projectId: number
  readonly now: number
  readonly cases: readonly { readonly id: number; readonly title: string; readonly written: boolean }[]
}
const day = 86_400_000
const step = (action: string, expected = '', data = ''): StepText => ({ id: null, action, expected, data })
interface Made {
  readonly id: number
  readonly ref: string
  readonly title: string
}

/** Routines, shared tables, a template, a review that goes on: what the people of Crossing Desk use again and talk about. */
export function fillReuse(tx: Tx, of: ReuseOf): void {
  const routines = writeRoutines(tx, of)
  const cards = addCards(tx, of.projectId)
  insertRoutines(tx, of, routines)
  payByCard(tx, of, routines, cards)
  talkAboutFares(tx, of)
  keepTemplate(tx, of)
  addStanding(tx, {
    projectId: of.projectId,
    name: 'Harbour office',
    file: 'harbour-office.xlsx',
    what: 'cases',
    everyMinutes: null,
    personId: 'ansa',
  })
  mentionClock(tx, of)
}

const caseNamed = ({ cases }: ReuseOf, title: string) => cases.find((each) => each.title === title)

function writeRoutines(tx: Tx, of: ReuseOf) {
  const sign = routine(tx, of, {
    title: 'Sign in as a clerk',
    steps: [
      step('Open the desk on this device', 'It asks who you are'),
      step('Sign in as {clerk}', 'The first page shows today’s sailings of {port}'),
    ],
    versions: 2,
  })
  const hold = routine(tx, of, {
    title: 'Hold a place on a sailing',
    steps: [
      step('Choose {sailing} for one adult', 'The fare reads 12.00'),
      step('Take the place', 'The hold clock starts at 20:00'),
    ],
    versions: 1,
  })
  const pay = routine(tx, of, {
    title: 'Pay with a test card',
    steps: [
      step('Go to payment and fill in {card}', 'The amount is what was shown before'),
      step('Tap Pay', 'The booking is paid'),
      step('Look at the bank’s test desk', 'There is one charge'),
    ],
    versions: 1,
  })
  return { sign, hold, pay }
}
type Routines = ReturnType<typeof writeRoutines>

function addCards(tx: Tx, projectId: number): number {
  const cards = addTable(tx, projectId, 'Test cards', ['card', 'kind'])
  const rows = [
    { card: '4000 0000 0000 0077', kind: 'accepted' },
    { card: '4000 0000 0000 0085', kind: 'refused by the bank' },
    { card: '5100 0000 0000 0040', kind: 'asks for a second word' },
    { card: '4000 0000 0000 0093', kind: 'accepted, slowly' },
  ]
  for (const [index, values] of rows.entries()) addTableRow(tx, cards, index + 1, values)
  return cards
}

/** Cases whose first steps are a routine's; one of them behind its newest version. */
function insertRoutines(tx: Tx, of: ReuseOf, { sign, hold }: Routines): void {
  const begin = (
    title: string,
    uses: readonly ReturnType<typeof use>[],
    why: string,
    also: Partial<VersionContent> = {},
  ) =>
    put(
      tx,
      of,
      caseNamed(of, title),
      (content) => ({ ...content, steps: [...uses, ...content.steps.slice(uses.length)], ...also }),
      `uses ${why}`,
    )
  begin(
    'Sailings of a day are listed by departure',
    [use(sign.first, { clerk: 'Yusra', port: 'Ovemouth' })],
    sign.first.ref,
  )
  begin(
    'No sailing on the chosen day offers the next one',
    [use(sign.newest, { clerk: 'Tobin', port: 'Low Skerrin' })],
    sign.newest.ref,
  )
  begin(
    'Hold ends after 20 minutes and frees the place',
    [use(sign.first, { clerk: 'Piet', port: 'Ovemouth' }), use(hold.newest, { sailing: 'the 10:40 to Low Skerrin' })],
    hold.newest.ref,
  )
  begin(doubleTap, [use(hold.newest, { sailing: '{sailing}' })], hold.newest.ref, {
    parameters: ['sailing'],
    rows: [{ sailing: 'the 10:40 to Low Skerrin' }, { sailing: 'the 17:05 to Ove' }],
    environment: 'Chromium, phone',
  })
}

const doubleTap = 'Card is charged once on a double tap'

/** Cases that take a free test card each time they are executed. */
function payByCard(tx: Tx, of: ReuseOf, { pay }: Routines, cards: number): void {
  const paid = of.cases.filter(
    ({ title, written }) => written && /card|paid|payment/i.test(title) && title !== doubleTap,
  )
  for (const own of paid.slice(0, 3))
    put(
      tx,
      of,
      own,
      (content) => ({
        ...content,
        steps: [...content.steps.slice(0, 1), use(pay.newest, { card: '{card}' })],
        parameters: ['card'],
        rows: [],
        table: { id: cards, name: 'Test cards', mode: 'one' },
      }),
      `uses ${pay.newest.ref} with the table of test cards`,
    )
}

function talkAboutFares(tx: Tx, of: ReuseOf): void {
  const own = caseNamed(of, 'Child on the fourth birthday pays the child fare')
  put(
    tx,
    of,
    own,
    ({ steps: [first, ...rest], ...content }) => ({
      ...content,
      steps: first ? [{ ...first, expected: 'The fare reads 12.00, in the currency of the port' }, ...rest] : [],
    }),
    'ports have currencies of their own',
  )
  if (own) talk(tx, of, own)
}

function keepTemplate(tx: Tx, of: ReuseOf): void {
  const template = caseNamed(of, 'Car of 4.51 m pays the middle band')
  if (!template) return
  const { preconditions, parameters, rows, steps } = readContent(tx, workingCopy(tx, template.id))
  addTemplate(tx, {
    projectId: of.projectId,
    name: 'A fare at a limit',
    personId: 'ansa',
    at: of.now - 20 * day,
    content: JSON.stringify({
      objective: '<p>Is the fare right just at and just past the limit?</p>',
      type: 'Functional',
      component: 'Fares',
      importance: 'High',
      tags: ['money'],
      preconditions,
      parameters,
      rows,
      steps: steps.map(({ action, expected, data }) => ({ action, expected, data })),
    }),
  })
}

function mentionClock(tx: Tx, of: ReuseOf): void {
  const own = caseNamed(of, 'Hold ends after 20 minutes and frees the place')
  if (!own) return
  tell(tx, {
    projectId: of.projectId,
    personId: 'mira',
    kind: 'mention',
    ref: caseKeyOf(tx, own.id),
    text: '@Mira, the hold clock is 18 minutes on the slow tablet; is that the requirement or the device?',
    fromId: 'yusra',
    at: of.now - 0.2 * day,
  })
}

const caseKeyOf = (tx: Tx, caseId: number): string => keyOf('case', caseById(tx, caseId)?.number ?? '')

function use(
  made: Made & { readonly version: number; readonly name: string },
  values: Record<string, string>,
): StepText {
  const own: StepUse = { kind: 'routine', version: made.version, ref: made.ref, name: made.name, values }
  return { ...step(made.title), use: own }
}

function routine(
  tx: Tx,
  { projectId, now }: ReuseOf,
  of: { title: string; steps: readonly StepText[]; versions: number },
) {
  const by = { now: now - 40 * day, personId: 'ansa' }
  const stored = addRoutine(
    tx,
    { projectId, number: takeNumbers(tx, projectId, 'routine'), title: of.title },
    { ...by, emptyFingerprint: stampOf(emptyContent) },
  )
  const working = () => routineWorking(tx, stored.id)
  const write = (steps: readonly StepText[]) =>
    writeRoutineSteps(tx, working(), steps, stampOf({ ...emptyContent, steps }))
  const cut = (minor: number, why: string, at: number) => {
    const version = addRoutineVersion(tx, working(), { major: 0, minor, why, now: at, personId: 'ansa' })
    saveRoutine(tx, stored.id, { newestVersionId: version })
    return { id: stored.id, ref: keyOf('routine', stored.number), title: of.title, version, name: `0.${minor}` }
  }
  write(of.steps.map((each, index) => ({ ...each, id: index + 1 })))
  const first = cut(1, '', by.now)
  if (of.versions === 1) return { first, newest: first }
  write([
    ...of.steps.map((each, index) => ({ ...each, id: index + 1 })),
    { ...step('Close the notice of the day', 'It stays closed until tomorrow'), id: of.steps.length + 1 },
  ])
  return { first, newest: cut(2, 'a notice of the day since beta2', now - 15 * day) }
}

/** Another wording of a case, cut as a version that says why. */
function put(
  tx: Tx,
  { now }: ReuseOf,
  own: { readonly id: number; readonly written: boolean } | undefined,
  change: (content: VersionContent) => VersionContent,
  why: string,
): void {
  const stored = own && caseById(tx, own.id)
  if (!own?.written || !stored) return
  const working = workingCopy(tx, own.id)
  const content = change(readContent(tx, working))
  writeContent(tx, { id: working.id, caseId: own.id }, content, stampOf(content))
  const newest = stored.newestVersionId === null ? undefined : versionById(tx, stored.newestVersionId)
  const id = addVersion(tx, workingCopy(tx, own.id), {
    major: newest?.major ?? 0,
    minor: (newest?.minor ?? 0) + 1,
    state: 'Draft',
    why,
    now: now - 4 * day,
    personId: 'ansa',
  })
  saveCase(tx, own.id, { newestVersionId: id, state: 'Draft', steps: content.steps.length, updatedAt: now - 4 * day })
}

/** A case that is being reviewed: asked by name, a step talked about, a better wording suggested. */
function talk(tx: Tx, { projectId, now }: ReuseOf, own: { readonly id: number }): void {
  const stored = caseById(tx, own.id)
  const versionId = stored?.newestVersionId ?? null
  if (!stored || versionId === null) return
  const key = keyOf('case', stored.number)
  setVersionState(tx, versionId, { state: 'In review' })
  saveCase(tx, own.id, { state: 'In review' })
  askReview(tx, { projectId, caseId: own.id, versionId, askedBy: 'ansa', personId: 'mira', at: now - 0.4 * day })
  tell(tx, {
    projectId,
    personId: 'mira',
    kind: 'review',
    ref: key,
    text: `asks you to review ${stored.title}`,
    fromId: 'ansa',
    at: now - 0.4 * day,
  })
  const { preconditions, rows, steps } = readContent(tx, workingCopy(tx, own.id))
  const second = steps[1]
  if (!second) return
  addComment(tx, {
    projectId,
    ownerKind: 'case',
    ownerId: own.id,
    stepId: second.id,
    text: '<p>@Ansa, which calendar? The ticket prints the date of the port.</p>',
    at: now - 0.3 * day,
    personId: 'tobin',
  })
  tell(tx, {
    projectId,
    personId: 'ansa',
    kind: 'mention',
    ref: key,
    text: '@Ansa, which calendar? The ticket prints the date of the port.',
    fromId: 'tobin',
    at: now - 0.3 * day,
  })
  const wording = steps.map(({ action, expected, data }, from) => ({
    from,
    action: from === 1 ? `${action}, by the date of the port` : action,
    expected,
    data,
  }))
  addSuggestion(tx, {
    projectId,
    caseId: own.id,
    versionId,
    content: JSON.stringify({
      preconditions,
      rows,
      steps: [...wording, { from: null, action: 'Print the ticket', expected: 'The age band stands on it', data: '' }],
    }),
    note: 'the date of the port decides',
    at: now - 0.25 * day,
    personId: 'tobin',
  })
}
