import { expect } from 'chai'
import fc from 'fast-check'
import { plainly } from '#core/lib/verdict.ts'
import { compareAttempts } from './compare-attempts.ts'

const step = (id: number) => ({ id, action: `<p>Step ${id}</p>`, expected: '', data: '', from: '' })
const mark = (row: number, of: number, verdict: 'Passed' | 'Failed', comment = '') => ({
  row,
  step: of,
  ...plainly(verdict),
  comment,
  at: 1,
})

describe('two attempts compared', () => {
  it('are told step by step, with what is part of one alone where it stood', () => {
    const one = {
      steps: [step(1), step(2)],
      rows: [],
      marks: [mark(1, 1, 'Passed'), mark(1, 2, 'Failed', '<p>late</p>')],
    }
    const other = { steps: [step(1), step(3), step(2)], rows: [], marks: [mark(1, 1, 'Passed'), mark(1, 3, 'Passed')] }
    expect(
      compareAttempts(one, other).map(({ action, one: a, other: b, differs }) => [
        action,
        a && `${a.verdict} ${a.comment}`.trim(),
        b?.verdict ?? null,
        differs,
      ]),
    ).to.deep.equal([
      ['Step 1', 'Passed', 'Passed', false],
      ['Step 3', null, 'Passed', true],
      ['Step 2', 'Failed late', 'Not run', true],
    ])
  })
  it('differ nowhere from themselves, and hold every step of both in every row, each once', () => {
    const attempt = fc
      .record({ steps: fc.uniqueArray(fc.integer({ min: 1, max: 8 }), { minLength: 1 }), rows: fc.nat(3) })
      .map(({ steps, rows }) => ({
        steps: steps.map(step),
        rows: Array.from({ length: rows }, () => ({})),
        marks: steps.map((id) => mark(1, id, id % 2 === 0 ? 'Passed' : 'Failed')),
      }))
    fc.assert(
      fc.property(attempt, attempt, (one, other) => {
        expect(compareAttempts(one, one).some(({ differs }) => differs)).to.equal(false)
        const told = compareAttempts(one, other)
        const ids = new Set([...one.steps, ...other.steps].map(({ id }) => id))
        expect(told.length).to.equal(ids.size * Math.max(1, one.rows.length, other.rows.length))
        const order = (of: typeof one) => of.steps.map(({ id }) => `Step ${id}`)
        const first = told.filter(({ row, one: said }) => row === 1 && said !== null).map(({ action }) => action)
        expect(first).to.deep.equal(order(one))
      }),
    )
  })
})
