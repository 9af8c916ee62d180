import type { Filter } from '#core/lib/filter.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import { keyOf } from '#core/lib/key.ts'
import { caseById } from '#db/cases/cases.ts'
import { addChange } from '#db/history/changes.ts'
import type { Tx } from '#db/open.ts'
import { addSourceTo, sourceColumns } from '#db/plans/sources.ts'
import { numberOf, settleSampleSuites } from '#db/installation/samples.ts'
import { noticeAllSuites } from '#db/plans/stays.ts'
import { exclude, pinsOf, unpin } from '#db/plans/suites.ts'
import { findRequirement } from '#db/requirements/requirements.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import type { Basis, Filling, Frame } from './fill.ts'
import type { organise } from './fill-plans.ts'

const is = (field: string, ...values: string[]): Filter => ({ field, op: 'is', values })
const ofComponent = (...names: string[]): SourceSaid => ({
  kind: 'rule',
  words: '',
  filter: { all: [is('component', ...names), { field: 'state', op: 'is not', values: ['Draft'] }] },
})

/** What brings the cases of each suite; where nothing is said it keeps its pins. */
function sourcesIn(
  tx: Tx,
  projectId: number,
): Readonly<Partial<Record<keyof ReturnType<typeof organise>['suites'], SourceSaid[]>>> {
  const branch = (title: string): SourceSaid[] => {
    const number = numberOf(tx, { kind: 'requirement', projectId, title })
    const found = number === null ? undefined : findRequirement(tx, projectId, number)
    if (!found) throw new Error(`there is no requirement “${title}”`)
    return [{ kind: 'branch', requirement: found.id }]
  }
  return {
    booking: [ofComponent('Booking')],
    money: [...branch('Fares and concessions'), ...branch('Payment and refunds')],
    access: [ofComponent('Access', 'Platform')],
    smoke: [{ kind: 'best', minutes: 60, requirement: null, frozen: false }],
  }
}

/** Lets suites be followed by rules, branches and minutes, as if they had been from the day they were made. */
export function composeSuites(
  tx: Tx,
  { projectId }: Frame,
  {
    basis,
    suites,
    ...of
  }: Pick<Filling, 'now'> & Pick<ReturnType<typeof organise>, 'suites'> & { readonly basis: Basis },
): void {
  const sources = sourcesIn(tx, projectId)
  for (const [name, suiteId] of Object.entries(suites)) {
    const own = Object.entries(sources).find(([each]) => each === name)?.[1]
    if (!own) continue
    unpin(
      tx,
      suiteId,
      pinsOf(tx, suiteId).map(({ id }) => id),
    )
    for (const said of own) addSourceTo(tx, { projectId, suiteId, now: of.now }, sourceColumns(said, null))
  }
  const crowded = basis.cases.find(({ own }) => own.title === 'Every field has its name')
  if (crowded)
    exclude(tx, suites.access, [crowded.id], {
      reason: 'The screen reader on the test bench is away for repair',
      personId: 'mira',
      now: of.now - 2 * day,
    })
  noticeAllSuites(tx, projectId, { now: of.now, personId: null })
  // Three cases were told to be of the platform only yesterday, and came into its suite by that.
  const at = of.now - 1.2 * day
  const late = basis.cases.filter(({ own, approved }) => approved && own.component === 'Platform').slice(-3)
  for (const { id } of late)
    addChange(tx, {
      projectId,
      at: Math.round(at),
      personId: 'mira',
      kind: 'case',
      action: 'changed',
      ownerId: id,
      ref: keyOf('case', caseById(tx, id)?.number ?? 0),
      detail: { component: ['Booking', 'Platform'] },
    })
  settleSampleSuites(tx, projectId, { cases: late.map(({ id }) => id), at: Math.round(at), by: 'mira' })
}
