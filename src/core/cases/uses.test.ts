import { expect } from 'chai'
import { it } from 'mocha'
import { fingerprintText } from './steps.ts'
import { flatSteps, parametersOf, refsWithin, selfUse, useKey, type UsedStep, type UsedVersion } from './uses.ts'

const step = (key: number, action: string): UsedStep => ({ key, action, expected: '', data: '' })
const use = (key: number, version: number, values: Record<string, string> = {}): UsedStep => ({
  ...step(key, `RT-${version}`),
  use: { kind: 'routine', version, ref: `RT-${version}`, name: '0.1', values },
})
const routine = (version: number, steps: readonly UsedStep[]): UsedVersion => ({
  kind: 'routine',
  version,
  ref: `RT-${version}`,
  title: `Routine ${version}`,
  name: '0.1',
  steps,
})
const known = [
  routine(1, [step(1, 'Open the page'), step(2, 'Sign in as {who}')]),
  routine(2, [use(1, 1, { who: '{clerk}' }), step(2, 'Choose {port}')]),
]
const find = (of: { kind: string; version: number }) =>
  known.find((each) => useKey(each) === `${of.kind} ${of.version}`)

it('writes routines out with the values they are given, at any depth', () => {
  const flat = flatSteps([step(7, 'Begin'), use(8, 2, { clerk: 'Yusra', port: 'Low Skerrin' })], find)
  expect(flat.map(({ step: { action }, path, from }) => [action, path, from.map(({ ref }) => ref)])).to.deep.equal([
    ['Begin', [7], []],
    ['Open the page', [8, 1, 1], ['RT-2', 'RT-1']],
    ['Sign in as Yusra', [8, 1, 2], ['RT-2', 'RT-1']],
    ['Choose Low Skerrin', [8, 2], ['RT-2']],
  ])
})
it('leaves a parameter without a value to be seen, and a routine that is gone as a step', () => {
  expect(flatSteps([use(1, 1)], find).map((each) => each.step.action)).to.deep.equal([
    'Open the page',
    'Sign in as {who}',
  ])
  expect(flatSteps([use(1, 9)], find).map((each) => each.step.action)).to.deep.equal(['RT-9'])
})
it('asks for the parameters of inner routines too', () =>
  expect(known[1] && parametersOf(known[1], find)).to.deep.equal(['clerk', 'port']))
it('knows what would contain itself, directly or through another', () => {
  expect([...refsWithin([use(1, 2)], find)].sort()).to.deep.equal(['RT-1', 'RT-2'])
  expect(selfUse('RT-1', [step(1, 'x'), use(2, 2)], find)).to.equal(1)
  expect(selfUse('RT-2', [use(2, 2)], find)).to.equal(0)
  expect(selfUse('RT-3', [use(2, 2)], find)).to.equal(null)
})
it('takes another pinned version or value as another content, and no setting as none', () => {
  const content = { preconditions: '', steps: [{ id: 1, ...use(1, 1) }], parameters: [], rows: [] }
  const told = fingerprintText(content)
  expect(fingerprintText({ ...content, steps: [{ id: 1, ...use(1, 2) }] })).not.to.equal(told)
  expect(fingerprintText({ ...content, steps: [{ id: 1, ...use(1, 1, { who: 'Piet' }) }] })).not.to.equal(told)
  expect(fingerprintText({ ...content, needs: [], environment: '' })).to.equal(told)
  expect(fingerprintText({ ...content, needs: ['TC-1'] })).not.to.equal(told)
  expect(fingerprintText({ ...content, table: { id: 1, name: 'Cards', mode: 'one' } })).not.to.equal(told)
})
