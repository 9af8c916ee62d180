import { openDefectStates } from '#core/defects/state.ts'
import type { Condition, Filter } from '#core/lib/filter.ts'

/** A filter with words for it: what the sentence above a list offers to show. */
export interface Ask {
  readonly words: string
  readonly filter: Filter
}

const is = (field: string, ...values: (string | number)[]): Condition => ({ field, op: 'is', values })
const above = (field: string, value: number): Condition => ({ field, op: 'above', values: [value] })
export const found = (...values: string[]): Filter => is('finding', ...values)
const ask = (words: string, filter: Filter): Ask => ({ words, filter })

export const requirementAsks: readonly Ask[] = [
  ask('suspect', above('suspect', 0)),
  ask('never run', found('never run')),
  ask('failing', found('failing')),
  ask('stale', found('stale')),
  ask('owned by nobody', { field: 'owner', op: 'is empty', values: [] }),
]
export const caseAsks: readonly Ask[] = [
  ask('in review', is('state', 'In review')),
  ask('with no requirement', is('requirements', 0)),
  ask('with no step', is('steps', 0)),
  ask('never run', found('never run')),
  ask('failing', found('failing')),
  ask('stale', found('stale')),
]
export const routineAsks: readonly Ask[] = [
  ask('behind the newest', above('behind', 0)),
  ask('used nowhere', is('uses', 0)),
]
export const planAsks: readonly Ask[] = [
  ask('drafting', is('state', 'Drafting')),
  ask('in review', is('state', 'In review')),
  ask('signed off', is('state', 'Signed off')),
]
export const suiteAsks: readonly Ask[] = [ask('active', is('state', 'Active')), ask('with no case', is('cases', 0))]
export const runAsks: readonly Ask[] = [
  ask('open', is('state', 'Open')),
  ask('planned', is('state', 'Planned')),
  ask('closed', is('state', 'Closed')),
]
export const attemptAsks: readonly Ask[] = [
  ask('failed', is('verdict', 'Failed')),
  ask('what stands', is('counts', 'stands')),
  ask('doubted', is('counts', 'doubted')),
  ask('struck out', is('counts', 'struck out')),
]
export const itemAsks: readonly Ask[] = [
  ask('not run', is('verdict', 'Not run', 'In progress')),
  ask('failed', is('verdict', 'Failed')),
  ask('blocked', is('verdict', 'Blocked')),
  ask('free to take', is('free', 'yes')),
  ask('waiting', is('waits', 'waiting')),
  ask('freed', is('waits', 'freed')),
]
export const defectAsks: readonly Ask[] = [
  ask('open', is('state', ...openDefectStates)),
  ask('to retest', is('state', 'Ready to retest')),
  ask('with no result', is('results', 0)),
]
