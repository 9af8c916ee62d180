import { expect } from 'chai'
import { defectStates } from '#core/defects/state.ts'
import { prefixes } from '#core/lib/key.ts'
import { runStates } from '#core/runs/state.ts'
import { acts, actWords, isAct } from './acts.ts'

it('has words for every act, each a sentence’s end and no name of the machine', () => {
  for (const [kind, own] of Object.entries(acts))
    for (const [action, words] of Object.entries(own)) {
      expect(words, `${kind} ${action}`).to.match(/^[a-z][a-z ]+$/)
      expect(actWords(kind, action)).to.equal(words)
    }
})
it('has acts for everything that has a key', () => {
  for (const kind of Object.keys(prefixes)) expect(isAct(kind, 'deleted'), kind).to.equal(true)
})
it('has an act for every state a defect or a run moves to', () => {
  for (const state of defectStates) expect(isAct('defect', state.toLowerCase()), state).to.equal(true)
  for (const state of runStates) expect(isAct('run', state.toLowerCase()), state).to.equal(true)
})
it('reads an act it does not know as it was stored, whatever its name', () => {
  expect(actWords('case', 'polished')).to.equal('polished')
  expect(actWords('constructor', 'name')).to.equal('name')
  expect(isAct('case', 'constructor')).to.equal(false)
})
