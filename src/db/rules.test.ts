import { sql } from 'drizzle-orm'
import { expect } from 'chai'
import fc from 'fast-check'
import { guessedMinutes } from '#core/cases/case.ts'
import { defectStates, isOpen, isRepaired } from '#core/defects/state.ts'
import { isFinal, verdicts } from '#core/lib/verdict.ts'
import { memoryDb } from '#test/memory.ts'
import { isLiveCase, isOpenDefect, isOpenVerdict, isRepairedDefect, guessOf } from './rules.ts'

const db = memoryDb()
const truth = (condition: ReturnType<typeof isOpenVerdict>, from: ReturnType<typeof sql>) =>
  db.get<{ holds: number }>(sql`select ${condition} as holds from (${from}) x`)?.holds === 1

it('tells every verdict that is still to come as core does', () => {
  for (const verdict of verdicts)
    expect(truth(isOpenVerdict('x.v'), sql`select ${verdict} as v`), verdict).to.equal(!isFinal(verdict))
})
it('tells every state of a defect as core does', () => {
  for (const state of defectStates) {
    expect(truth(isOpenDefect('x.s'), sql`select ${state} as s`), state).to.equal(isOpen(state))
    expect(truth(isRepairedDefect('x.s'), sql`select ${state} as s`), state).to.equal(isRepaired(state))
  }
})
it('guesses the minutes of any number of steps as core does', () =>
  fc.assert(
    fc.property(fc.nat(5000), (steps) => {
      const row = db.get<{ m: number }>(sql`select ${sql.raw(guessOf('x.n'))} as m from (select ${steps} as n) x`)
      expect(row?.m).to.equal(guessedMinutes(steps))
    }),
  ))
it('calls a case live while it is neither deleted nor retired', () => {
  const live = (deleted: number | null, retired: number | null) =>
    truth(isLiveCase('x'), sql`select ${deleted} as deleted_at, ${retired} as retired_at`)
  expect([live(null, null), live(1, null), live(null, 1), live(1, 1)]).to.deep.equal([true, false, false, false])
})
