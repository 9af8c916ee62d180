import type { Keyed } from '#core/lib/key.ts'
import { keyOf } from '#core/lib/key.ts'
import { keepSample, numberOf } from '#db/installation/samples.ts'
import type { Tx } from '#db/open.ts'

/** Something of the demo that is worth a look: an object by its title, or a place. */
export interface Sight {
  readonly of: { readonly kind: Keyed; readonly title: string; readonly then?: string } | { readonly place: string }
  readonly title: string
  readonly told: string
}

/** `demo/fill.test.ts` holds each of them against what the demo stores. */
export const sights = {
  'came back': {
    of: { kind: 'defect', title: 'Declined card frees the place' },
    title: 'A defect that came back',
    told: 'Repaired in beta2 and closed by a retest; in rc1 the same case failed again. Its states tell both rounds.',
  },
  uncovered: {
    of: { kind: 'requirement', title: 'Vehicles with a battery can be reached' },
    title: 'An uncovered requirement, and no small one',
    told: 'Agreed for this release, risk 16, and no case says how it would be tested.',
  },
  suspect: {
    of: { kind: 'requirement', title: 'Vouchers, in whole or part' },
    title: 'Suspect links',
    told: 'It was worded anew some days ago. Its cases were written before that; somebody has to look whether they still fit.',
  },
  outside: {
    of: { kind: 'requirement', title: 'Hold a place for 20 minutes' },
    title: 'The tracker says something else',
    told: 'Somebody worded the issue outside anew and told nobody: 30 minutes for a group. The two texts stand side by side.',
  },
  changed: {
    of: { kind: 'case', title: 'Cancel six days and 23 hours before gives half' },
    title: 'Stale by a change of the case',
    told: 'It was executed, and got another step since. What was found out is not what the case says now.',
  },
  'not retested': {
    of: { kind: 'defect', title: 'Voucher with blanks is refused' },
    title: 'A repair that nobody tried',
    told: 'Mended in rc1 and still waiting for its retest. The results from before are stale.',
  },
  review: {
    of: { kind: 'case', title: 'Child on the fourth birthday pays the child fare' },
    title: 'A review that goes on',
    told: 'Asked of Mira, with a question at a step and a better wording suggested, which can be taken over.',
  },
  vague: {
    of: { kind: 'case', title: 'Check booking' },
    title: 'A case that nobody can execute the same way twice',
    told: 'Written badly on purpose; the signals beside it say what is wrong with it.',
  },
  twice: {
    of: { kind: 'case', title: 'Card is charged only once on a double tap' },
    title: 'A case that repeats another',
    told: 'Written by somebody who did not look. It can be merged into the other, whose history stays.',
  },
  grown: {
    of: { kind: 'suite', title: 'Access and platform' },
    title: 'A suite that grew by itself',
    told: 'It follows a rule. Three cases were told to be of the platform yesterday, after its last run began, and came in by that; one is left out with a reason.',
  },
  smoke: {
    of: { kind: 'suite', title: 'Smoke' },
    title: 'The most risk covered within an hour',
    told: 'Chosen from the risks of the requirements and the minutes of the cases, and chosen again as these change. Each case says what it adds.',
  },
  enough: {
    of: { kind: 'plan', title: 'Release 2.4 system test', then: '?part=enough' },
    title: 'When is it enough?',
    told: 'Eight exit criteria: two are not met and one is waived. Below them the shortest way to go, which opens as a run.',
  },
  carried: {
    of: { kind: 'plan', title: 'Release 2.3 regression', then: '?carry=yes' },
    title: 'A plan worth carrying over',
    told: 'What became of each case of 2.3: some failed at the end, many were never executed everywhere, and requirements are new that nothing proves. Made into a plan of 2.4 by one key.',
  },
  matrix: {
    of: { kind: 'plan', title: 'Release 2.4 system test', then: '?part=where' },
    title: 'Cases by environments',
    told: 'What is asked where, with what stands there and what each way of asking would cost. A tablet is out of use since this morning.',
  },
  intake: {
    of: { place: 'set-up/releases' },
    title: 'A build in intake',
    told: '2.4.0-rc4 says what it touches: what it would make stale is counted, and what stays current by its word. Its smoke suite has not passed yet.',
  },
  behind: {
    of: { kind: 'routine', title: 'Pay by card' },
    title: 'A routine whose users are behind',
    told: 'It has a newer wording; the cases that still insert the one before are named, and can follow at once.',
  },
  unreliable: {
    of: { kind: 'case', title: 'Clock of the hold is on the page of payment too' },
    title: 'An unreliable case',
    told: 'Passed and failed on the same build: its answer depends on the line of that day.',
  },
  outage: {
    of: { kind: 'run', title: 'Rc1 regression' },
    title: 'A day on which the phones had no network',
    told: 'What was executed on them that day is blocked; what mattered most was tried again before the end.',
  },
  'told twice': {
    of: { kind: 'defect', title: 'A car of 4.51 m is charged as 4.5 m' },
    title: 'One fault, told twice',
    told: 'Another tester logged it on the phone as well; “Vehicle of 4.51 m falls in the small band” tells of the same, with the failing results.',
  },
  signed: {
    of: { kind: 'plan', title: 'Release 2.4 system test', then: '?version=2' },
    title: 'A signed plan that has gone stale',
    told: 'Three people signed version 2. What was said since, and which cases came in, stands against it word by word.',
  },
  asked: {
    of: { kind: 'plan', title: 'Iteration 3: account payment and first day of sales', then: '?version=1' },
    title: 'A plan that waits for a signature',
    told: 'Yusra has signed; Mira is still asked. Sign in as her and answer.',
  },
  refused: {
    of: { kind: 'defect', title: 'Nobody can sign in on 2.4.0-rc3' },
    title: 'A build that was refused',
    told: 'Offered yesterday, refused the same day; try to sign in on it yourself.',
  },
  table: {
    of: { kind: 'requirement', title: 'Largest reduction wins', then: '/draft' },
    title: 'A decision table at the drafting table',
    told: 'Ten rules, most of which have cases. It says what no rule covers, and which rule the others make needless.',
  },
  graph: {
    of: { kind: 'requirement', title: 'State of a booking follows its path', then: '/draft' },
    title: 'A state graph',
    told: 'From held to sailed, with every way out; paths that cover it became cases.',
  },
  picture: {
    of: { kind: 'defect', title: 'Rest of a voucher is lost after paying' },
    title: 'A failure with its picture',
    told: 'The failing step, what was seen there, and a picture of it; repaired, and waiting for a retest.',
  },
  hours: {
    of: { kind: 'run', title: 'Rc2 regression' },
    title: 'More work than days',
    told: 'Half of it is executed. What is left, dealt to four testers, stands beside the hours they have.',
  },
  amended: {
    of: { kind: 'run', title: 'Beta regression' },
    title: 'A closed run that was amended',
    told: 'A day after its close a lead looked the log up and put one result right. The policy of the project allows it for a week, and it stays marked.',
  },
  freed: {
    of: {
      kind: 'run',
      title: 'Rc2 regression',
      then: '?full=yes&filter={"field":"waits","op":"is","values":["freed"]}',
    },
    title: 'Items that waited for a repair',
    told: 'Mended in rc2, so they can go on, and whoever has them was told. Others wait still; the queue takes them last.',
  },
  words: {
    of: { place: 'set-up/verdicts' },
    title: 'Verdicts and reasons of its own',
    told: 'Passed with a remark, to be seen aboard, and why something was blocked. Three results of the open run have the first.',
  },
  rules: {
    of: { kind: 'run', title: 'Smoke on Gecko' },
    title: 'A run with rules of its own',
    told: 'It closes by itself when all is executed, and a failure is reported before. What differs from the project is marked.',
  },
  gaps: {
    of: { place: 'reports/gaps' },
    title: 'Gaps, the riskiest first',
    told: 'Requirements without a case, without a result, or with results that no longer count.',
  },
} as const satisfies Readonly<Record<string, Sight>>

/** Where a sight is in a project. */
function placeOf(tx: Tx, projectId: number, { of }: Sight): string {
  if ('place' in of) return of.place
  const number = numberOf(tx, { ...of, projectId })
  if (number === null) throw new Error(`the demo has no ${of.kind} “${of.title}”`)
  return `${keyOf(of.kind, number)}${of.then ?? ''}`
}

export const writeSights = (tx: Tx, projectId: number, now: number): void =>
  keepSample(tx, projectId, {
    filledAt: now,
    desk: null,
    sights: Object.values(sights).map((each: Sight) => ({
      place: placeOf(tx, projectId, each),
      title: each.title,
      told: each.told,
    })),
  })
