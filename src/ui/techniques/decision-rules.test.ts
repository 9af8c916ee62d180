import { expect } from 'chai'
import { tableOf } from '#test/decisions.ts'
import {
  blockText,
  cellMove,
  clashesOf,
  lostConditions,
  marksOf,
  noticeText,
  openRule,
  outcomesOf,
  ruleFor,
  shownWhen,
  splitRule,
  valuesTyped,
  withOutcome,
  withWhen,
} from './decision-rules.ts'

const conditions = { age: ['infant', 'child', 'adult', 'senior'], resident: ['yes', 'no'] }
const { model, answer } = tableOf(conditions, [
  { when: { age: ['infant'] }, then: { fare: 'free' } },
  { when: { age: ['infant'], resident: ['yes'] }, then: { fare: 'half' } },
  { when: { age: ['adult'], resident: ['no'] }, then: { fare: 'full' } },
  { when: { age: ['infant'], resident: ['no'] }, then: { fare: 'free' } },
])
const [first, , third] = model.body.rules

describe('what is typed into a decision table', () => {
  it('is values joined by or or commas, by a beginning that fits one of them', () => {
    expect(valuesTyped('child or senior', conditions.age)).to.deep.equal(['child', 'senior'])
    expect(valuesTyped('ad, SEN', conditions.age)).to.deep.equal(['adult', 'senior'])
    expect(valuesTyped('child, child', conditions.age)).to.deep.equal(['child'])
  })
  it('is any value when it is empty, a dash or the word', () => {
    for (const text of ['', ' ', '–', 'any', 'ANY']) expect(valuesTyped(text, conditions.age)).to.deep.equal([])
  })
  it('is refused when it fits none or several', () => {
    expect(valuesTyped('pensioner', conditions.age)).to.equal(null)
    expect(valuesTyped('a', ['adult', 'aged'])).to.equal(null)
    expect(valuesTyped('child or x', conditions.age)).to.equal(null)
  })
  it('takes the value itself where another begins with it', () => {
    expect(valuesTyped('no', ['no', 'none'])).to.deep.equal(['no'])
  })
})

describe('the rules of a decision table', () => {
  it('show their values, and lose a condition that holds for all', () => {
    const wider = withWhen(third!, 'age', ['adult', 'senior'])
    expect(shownWhen(wider, 'age')).to.equal('adult or senior')
    expect(withWhen(wider, 'age', []).when).to.deep.equal({ resident: ['no'] })
    expect(shownWhen(withWhen(wider, 'age', []), 'age')).to.equal('')
    expect(third!.when).to.deep.equal({ age: ['adult'], resident: ['no'] })
  })
  it('name their outcomes, and a new one leaves them open', () => {
    expect(outcomesOf(model.body.rules)).to.deep.equal(['fare'])
    expect(openRule(model.body.rules)).to.deep.equal({ when: {}, then: { fare: '' } })
    expect(openRule([]).then).to.deep.equal({ outcome: '' })
  })
  it('are split by the first condition that has several values', () => {
    expect(splitRule(conditions, first!)?.by).to.equal('resident')
    expect(splitRule(conditions, first!)?.rules.map(({ when }) => when)).to.deep.equal([
      { age: ['infant'], resident: ['yes'] },
      { age: ['infant'], resident: ['no'] },
    ])
    expect(splitRule(conditions, third!)).to.equal(null)
  })
  it('are offered for what none is for', () => {
    const texts = answer.missing.map((block) => blockText(model, block))
    expect(texts.join('; ')).to.include('child')
    const offered = answer.missing.map((block) => ruleFor(model, block))
    expect(offered.every(({ then }) => then['fare'] === '')).to.equal(true)
    expect(tableOf(conditions, [...model.body.rules, ...offered]).answer.complete).to.equal(true)
  })
})

describe('the marks of rules', () => {
  it('say what contradicts what, on both', () => {
    const clashes = clashesOf(answer)
    expect(clashes.get(0)).to.match(/^contradicts rule 2, as for age infant, resident yes$/)
    expect(clashes.get(1)).to.match(/^contradicts rule 1/)
    expect(clashes.has(2)).to.equal(false)
    expect(clashesOf(null).size).to.equal(0)
  })
  it('say what is left aside before what contradicts, and that before what is idle', () => {
    const aside = {
      ...answer,
      notices: [
        { at: 'rules[0]', message: 'is no value' },
        { at: 'impossible', message: 'x' },
      ],
    }
    const marks = marksOf(aside)
    expect(marks.get(0)).to.equal('is no value')
    expect(marks.get(1)).to.match(/^contradicts/)
    expect(marks.get(3)).to.equal('says nothing that other rules do not say')
    expect(marksOf(null).size).to.equal(0)
    expect(aside.notices.map(noticeText)).to.deep.equal(['Rule 1: is no value', 'x'])
  })
})

describe('what was typed before its place is there', () => {
  it('keeps the first outcome of a table without rules by beginning one', () => {
    expect(withOutcome([], 'fare')).to.deep.equal([{ when: {}, then: { fare: '' } }])
    expect(withOutcome(model.body.rules, 'seat').map(({ then }) => then['seat'])).to.deep.equal(
      model.body.rules.map(() => ''),
    )
  })
  it('keeps what rules say of a condition whose line is being written anew', () => {
    const { age, ...others } = conditions
    expect(age).to.not.equal(undefined)
    expect(lostConditions({ ...model.body, conditions: others })).to.deep.equal(['age'])
    expect(lostConditions(model.body)).to.deep.equal([])
  })
})

describe('keys in a decision table', () => {
  const caret = (at: number, value = 'child') => ({ selectionStart: at, selectionEnd: at, value })
  it('go up and down from anywhere, and across only from the ends of the text', () => {
    expect(cellMove('Enter', caret(2))).to.deep.equal([1, 0])
    expect(cellMove('ArrowUp', caret(2))).to.deep.equal([-1, 0])
    expect(cellMove('ArrowRight', caret(5))).to.deep.equal([0, 1])
    expect(cellMove('ArrowRight', caret(4))).to.equal(null)
    expect(cellMove('ArrowLeft', caret(0))).to.deep.equal([0, -1])
    expect(cellMove('ArrowLeft', caret(1))).to.equal(null)
    expect(cellMove('x', caret(0))).to.equal(null)
  })
})
