import { emptyContent } from '#core/cases/steps.ts'
import { between, pick, type Random, seeded } from '#core/lib/random.ts'
import { fillLarge, type LargeRows } from '#db/reports/large.ts'
import type { Db } from '#db/open.ts'
import { addMember } from '#db/people/members.ts'
import { addPerson } from '#db/people/people.ts'
import { addBuild, addEnvironment, addRelease } from '#db/projects/releases.ts'
import { addProject, findProject } from '#db/projects/projects.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'

interface FixtureOptions {
  readonly cases: number
  readonly attempts: number
  readonly requirements: number
  readonly seed: number
  readonly now: number
  readonly hash: (password: string) => Promise<string>
}
const day = 86_400_000
const components = ['Booking', 'Fares', 'Payment', 'Deck plan', 'Quay', 'Weather', 'Access', 'Platform']
const nouns = [
  'booking',
  'voucher',
  'lane',
  'refund',
  'passenger list',
  'hold',
  'receipt',
  'sailing',
  'vehicle',
  'concession',
]
const verbs = [
  'is refused',
  'is stored once',
  'is shown in order',
  'keeps its date',
  'adds up',
  'moves with the passenger',
  'follows the language',
]

/** A large made-up project `LARGE`: the same seed gives the same rows. */
export async function fillFixture(db: Db, of: FixtureOptions): Promise<void> {
  if (findProject(db, 'LARGE'))
    throw new Refusal('refused', 'This data directory has a project LARGE already; name an empty one.')
  const passwordHash = await of.hash('ferry-2024')
  const random = seeded(of.seed)
  const frame = db.transaction((tx) => {
    addPerson(
      tx,
      { id: 'bench', name: 'Bench Tester', email: 'bench@rovant.example', administrator: false, passwordHash },
      of.now,
    )
    const projectId = addProject(tx, { key: 'LARGE', name: 'Large', product: 'Large', createdAt: of.now - 400 * day })
    addMember(tx, projectId, 'bench', { role: 'lead' })
    const releases = Array.from({ length: 4 }, (_, index) =>
      addRelease(tx, projectId, {
        name: `${index + 1}.0`,
        state: index === 3 ? 'In test' : 'Shipped',
        startOn: null,
        dueOn: null,
      }),
    )
    const builds = releases.flatMap((releaseId, release) =>
      Array.from({ length: 5 }, (_, index) =>
        addBuild(tx, projectId, {
          releaseId,
          name: `${release + 1}.0.${index}`,
          offeredAt: of.now - (20 - release * 5 - index) * 18 * day,
        }),
      ),
    )
    const environments = ['Chromium, desk', 'Gecko, desk', 'WebKit, phone'].map((name) =>
      addEnvironment(tx, projectId, { name, seats: null, values: {} }),
    )
    return { projectId, releases, builds, environments }
  })
  fillLarge(db, frame, rowsOf(of, random))
}

function rowsOf(of: FixtureOptions, random: Random): LargeRows {
  const branches = Math.max(1, Math.floor(of.requirements / 50))
  return {
    now: of.now,
    attempts: of.attempts,
    cases: of.cases,
    requirements: of.requirements,
    emptyFingerprint: stampOf(emptyContent),
    requirement: (index) => ({
      title: `${pick(random, components)} rule ${index + 1}: the ${pick(random, nouns)} ${pick(random, verbs)}`,
      branch: index < branches ? null : between(random, 0, branches - 1),
      likelihood: between(random, 1, 5),
      impact: between(random, 1, 5),
      component: pick(random, components),
    }),
    case: (index) => ({
      title: `The ${pick(random, nouns)} ${pick(random, verbs)}, variant ${index + 1}`,
      importance: pick(random, ['Critical', 'High', 'Medium', 'Medium', 'Low'] as const),
      component: pick(random, components),
      requirement: between(random, branches, of.requirements - 1),
      estimate: between(random, 3, 40),
    }),
    attempt: () => {
      const chance = random()
      return {
        caseAt: Math.floor(random() * of.cases),
        buildAt: Math.floor(random() * 20),
        environmentAt: Math.floor(random() * 3),
        verdict:
          chance < 0.82
            ? 'Passed'
            : chance < 0.92
              ? 'Failed'
              : chance < 0.96
                ? 'Blocked'
                : chance < 0.98
                  ? 'Skipped'
                  : 'Inconclusive',
        ageDays: random() * 17,
      }
    },
  }
}
