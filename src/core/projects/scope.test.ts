import { expect } from 'chai'
import { isTestable, resolveScope, type ScopeChoices } from './scope.ts'

const choices: ScopeChoices = {
  releases: [
    { id: 1, name: '2.3', state: 'Shipped', position: 1 },
    { id: 2, name: '2.4', state: 'In test', position: 2 },
  ],
  iterations: [{ id: 5, release: 2, name: 'Iteration 1', position: 1 }],
  builds: [
    { id: 1, release: 1, name: '2.3.0', state: 'Offered', position: 1 },
    { id: 2, release: 2, name: 'rc1', state: 'Offered', position: 2 },
    { id: 3, release: 2, name: 'rc2', state: 'Refused', position: 3 },
  ],
  environments: [
    { id: 9, name: 'any', isAny: true },
    { id: 10, name: 'Gecko, desk', isAny: false },
  ],
}
const scopeOf = (query: Parameters<typeof resolveScope>[1]) => {
  const resolved = resolveScope(choices, query)
  if ('problem' in resolved) throw new Error(resolved.problem)
  return resolved.scope
}
it('looks at the release in test and its newest build that is offered, unless told otherwise', () =>
  expect(scopeOf({})).to.deep.include({
    release: choices.releases[1],
    build: choices.builds[1],
    iteration: null,
    environment: null,
    asOf: null,
  }))
it('opens a part that says all', () =>
  expect(scopeOf({ release: 'all', build: 'all' })).to.deep.include({ release: null, build: null }))
it('answers an unknown name with a sentence that quotes it', () => {
  expect(resolveScope(choices, { release: '9.9' })).to.deep.equal({
    problem: 'There is no release “9.9” in this project.',
  })
  expect(resolveScope(choices, { build: '2.3.0' })).to.deep.equal({
    problem: 'There is no build “2.3.0” in release 2.4.',
  })
})
it('tells what is testable from release and iteration', () => {
  const from = (releasePosition: number, iterationPosition: number | null) => [{ releasePosition, iterationPosition }]
  expect(isTestable([], 2, 1)).to.equal(true)
  expect(isTestable(from(1, 3), 2, 1), 'an earlier release').to.equal(true)
  expect(isTestable(from(2, 2), 2, 1), 'a later iteration').to.equal(false)
  expect(isTestable(from(2, 2), 2, null)).to.equal(true)
  expect(isTestable(from(3, null), 2, null)).to.equal(false)
})
