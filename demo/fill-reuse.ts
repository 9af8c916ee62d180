import { keyOf } from '#core/lib/key.ts'
import type { VersionContent } from '#core/cases/steps.ts'
import { addTable, addTableRow } from '#db/reuse/data-tables.ts'
import { addVersion, readContent, setVersionState, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { caseById, saveCase } from '#db/cases/cases.ts'
import { addSuggestion, askReview } from '#db/review/reviews.ts'
import { addTemplate } from '#db/reuse/templates.ts'
import { addStanding } from '#db/formats/imports.ts'
import type { Tx } from '#db/open.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { tell } from '#db/talk/inbox.ts'
import { addComment } from '#db/talk/queries.ts'
import { day } from '../standins/crossing-desk/clock.ts'

interface ReuseOf {
  readonly projectId: number
  readonly now: number
  readonly cases: readonly { readonly id: number; readonly title: string; readonly written: boolean }[]
}

/** Shared tables, a template, a review that goes on: what the people of Crossing Desk use again and talk about. */
export function fillReuse(tx: Tx, of: ReuseOf): void {
  payByAnyCard(tx, of, addCards(tx, of.projectId))
  const onThisPhone = 'seen on this phone alone'
  put(tx, of, caseNamed(of, doubleTap), (content) => ({ ...content, environment: 'WebKit, phone' }), onThisPhone)
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

const doubleTap = 'Card is charged once on a double tap'

const caseNamed = ({ cases }: ReuseOf, title: string) => cases.find((each) => each.title === title)

function addCards(tx: Tx, projectId: number): number {
  const cards = addTable(tx, projectId, 'Cards the bank accepts', ['card', 'last four'])
  const rows = [
    { card: '4000 0000 0000 0077', 'last four': '0077' },
    { card: '4000 0000 0000 0085', 'last four': '0085' },
  ]
  for (const [index, values] of rows.entries()) addTableRow(tx, cards, index + 1, values)
  return cards
}

/** A case that takes a free test card each time it is executed. */
function payByAnyCard(tx: Tx, of: ReuseOf, cards: number): void {
  const own = caseNamed(of, 'Back and pay again shows the paid booking')
  put(
    tx,
    of,
    own,
    ({ steps: [first, ...rest], ...content }) => ({
      ...content,
      steps: first ? [{ ...first, action: `${first.action} {card}` }, ...rest] : [],
      parameters: ['card'],
      rows: [],
      table: { id: cards, name: 'Cards the bank accepts', mode: 'one' },
    }),
    'takes whichever of the test cards is free',
  )
}

function talkAboutFares(tx: Tx, of: ReuseOf): void {
  const own = caseNamed(of, 'Child on the fourth birthday pays the child fare')
  put(
    tx,
    of,
    own,
    ({ steps, ...content }) => ({
      ...content,
      steps: steps.map((each, at) =>
        at === steps.length - 1 ? { ...each, action: `${each.action} and the total below it` } : each,
      ),
    }),
    'the total was not looked at',
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
      steps: steps.flatMap(({ action, expected, data, use }) => (use ? [] : [{ action, expected, data }])),
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
    text: '@Mira, the hold clock stands still on the slow tablet while it loads; is that the requirement or the device?',
    fromId: 'yusra',
    at: of.now - 0.2 * day,
  })
}

const caseKeyOf = (tx: Tx, caseId: number): string => keyOf('case', caseById(tx, caseId)?.number ?? '')

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
  discuss(tx, { projectId, now }, { id: own.id, key, versionId })
}

/** A question at the last step, and a better wording. */
function discuss(
  tx: Tx,
  { projectId, now }: Pick<ReuseOf, 'projectId' | 'now'>,
  own: { readonly id: number; readonly key: string; readonly versionId: number },
): void {
  const { key, versionId } = own
  const { preconditions, rows, steps } = readContent(tx, workingCopy(tx, own.id))
  const last = steps.at(-1)
  if (!last) return
  addComment(tx, {
    projectId,
    ownerKind: 'case',
    ownerId: own.id,
    stepId: last.id,
    text: '<p>@Ansa, does the day of sailing count or the day of booking? The page shows both.</p>',
    at: now - 0.3 * day,
    personId: 'tobin',
  })
  tell(tx, {
    projectId,
    personId: 'ansa',
    kind: 'mention',
    ref: key,
    text: '@Ansa, does the day of sailing count or the day of booking? The page shows both.',
    fromId: 'tobin',
    at: now - 0.3 * day,
  })
  const wording = steps.map(({ action, expected, data }, from) => ({
    from,
    action: from === steps.length - 1 ? `${action}, by the date of the sailing` : action,
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
      steps: [
        ...wording,
        { from: null, action: 'Open the receipt', expected: 'The age band stands behind the name', data: '' },
      ],
    }),
    note: 'the day of the sailing decides',
    at: now - 0.25 * day,
    personId: 'tobin',
  })
}
