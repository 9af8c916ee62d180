import type { Saying } from '#core/plans/definition.ts'
import type { PlanPart } from '#core/plans/state.ts'
import type { Tx } from '#db/open.ts'
import { slotsOfPlan } from '#db/plans/asked.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { releaseById } from '#db/projects/releases.ts'
import { planById, savePlan } from '#db/plans/plans.ts'
import { addPlanVersion, askSignatures, sign } from '#db/plans/versions.ts'
import { findProjectById } from '#db/projects/projects.ts'
import { addComment } from '#db/talk/queries.ts'
import { definitionOf } from '#server/plans/define-plan.ts'
import { day, hour } from '../standins/crossing-desk/clock.ts'
import type { Frame } from './fill.ts'
import type { organise } from './fill-plans.ts'

type Plans = ReturnType<typeof organise>['plans']
interface Answered {
  readonly answer: 'approved' | 'sent back'
  readonly words: string
  readonly at: number
}
interface Told {
  readonly by: string
  readonly at: number
  readonly note: string
  readonly state: 'In review' | 'Sent back' | 'Signed off'
  /** What it did not say yet. */
  readonly without?: (of: Saying) => boolean
  /** So many cases were not in yet. */
  readonly fewer?: number
  /** Cases of what was not there in its release. */
  readonly notYet?: ReadonlySet<number>
  readonly asked: Readonly<Record<string, Answered | null>>
}

/** A version as it was put up and answered. */
function putUp(tx: Tx, projectId: number, planId: number, told: Told): number {
  const [plan, project] = [planById(tx, projectId, planId), findProjectById(tx, projectId)]
  if (!plan || !project) throw new Error(`no plan ${planId}`)
  const slots = [...slotsOfPlan(tx, project, planId)].filter(([id]) => !told.notYet?.has(id))
  const answers = Object.values(told.asked).flatMap((each) => each?.at ?? [])
  const version = addPlanVersion(
    tx,
    {
      projectId,
      planId,
      state: told.state,
      note: told.note,
      personId: told.by,
      at: told.at,
      endedAt: told.state === 'In review' ? null : Math.max(...answers),
      definition: definitionOf(tx, plan).filter((each) => !told.without?.(each)),
    },
    new Map(slots.slice(0, slots.length - (told.fewer ?? 0))),
  )
  askSignatures(tx, version.id, Object.keys(told.asked))
  for (const [personId, answer] of Object.entries(told.asked))
    if (answer) sign(tx, { versionId: version.id, personId }, answer)
  return version.id
}

/** What people were asked to sign, what they said, and what has changed since. */
export function fillVersions(tx: Tx, { projectId, releases }: Frame, plans: Plans, now: number): void {
  const release = releaseById(tx, projectId, releases.get('2.3') ?? 0) ?? null
  const notYet = new Set(notYetTestable(tx, projectId, { release, iteration: null }).map(({ id }) => id))
  const frozenVersionId = putUp(tx, projectId, plans.shipped, {
    by: 'mira',
    at: now - 77 * day,
    note: 'The same as for 2.2, with the phone.',
    state: 'Signed off',
    notYet,
    asked: { ansa: { answer: 'approved', words: '', at: now - 76 * day } },
  })
  savePlan(tx, plans.shipped, { frozenVersionId })
  for (const told of ofCurrent(now)) putUp(tx, projectId, plans.current, told)
  putUp(tx, projectId, plans.late, {
    by: 'ansa',
    at: now - 20 * hour,
    note: 'Smoke on the third engine, before the ports decide.',
    state: 'In review',
    asked: {
      mira: null,
      yusra: { answer: 'approved', words: 'I can take the first pass.', at: now - 4 * hour },
    },
  })
  const say = (planId: number, of: { part: PlanPart; personId: string; at: number; words: string }) =>
    addComment(tx, {
      projectId,
      ownerKind: 'plan',
      ownerId: planId,
      part: of.part,
      personId: of.personId,
      at: of.at,
      text: `<p>${of.words}</p>`,
    })
  say(plans.current, {
    part: 'why',
    personId: 'ansa',
    at: now - 26 * day,
    words: 'Rebooking after a storm is the one thing nobody forgives us.',
  })
  say(plans.late, {
    part: 'where',
    personId: 'yusra',
    at: now - 4 * hour,
    words: 'On Thursdays the bench is the web team’s; Friday morning, then?',
  })
}

const ofCurrent = (now: number): readonly Told[] => [
  {
    by: 'mira',
    at: now - 27 * day,
    note: 'First draft; are the risks the right ones?',
    state: 'Sent back',
    without: ({ kind, name }) => kind === 'Milestone' || name === 'Deck plan' || name.includes('storm'),
    fewer: 9,
    asked: {
      ansa: { answer: 'sent back', words: 'Storms are missing: nothing says who tests rebooking.', at: now - 26 * day },
      tobin: { answer: 'approved', words: '', at: now - 26 * day - 3 * hour },
    },
  },
  {
    by: 'mira',
    at: now - 25 * day,
    note: 'With the storm, and what Ansa asked for.',
    state: 'Signed off',
    without: ({ name }) => name.startsWith('Go or no-go') || name.includes('first day of sales'),
    fewer: 4,
    asked: {
      ansa: { answer: 'approved', words: 'Good.', at: now - 24 * day },
      tobin: { answer: 'approved', words: '', at: now - 24 * day + 2 * hour },
      ilo: { answer: 'approved', words: 'Go.', at: now - 23 * day },
    },
  },
]
