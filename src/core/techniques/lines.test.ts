import { expect } from 'chai'
import fc from 'fast-check'
import {
  boundariesFromLines,
  boundariesLines,
  combosFromLines,
  combosLines,
  decisionsFromLines,
  decisionsLines,
  pathsFromLines,
  pathsLines,
  readRule,
} from './lines.ts'
import { checkModel, combosModel } from './models.ts'

const word = fc
  .stringMatching(/^[a-zA-Z≤ ,"|:.0-9()×-]{1,12}$/)
  .map((text) => text.trim())
  .filter((text) => text !== '')
const vocabulary = fc
  .uniqueArray(word, { minLength: 2, maxLength: 4, selector: (text) => text.toLowerCase() })
  .chain((names) =>
    fc.tuple(
      ...names.map((name) =>
        fc
          .uniqueArray(word, { minLength: 2, maxLength: 4, selector: (text) => text.toLowerCase() })
          .map((values) => [name, values] as const),
      ),
    ),
  )
  .map((entries) => Object.fromEntries(entries))

describe('models in lines', () => {
  it('write and read parameters, negative values, weights and groups without loss, whatever signs they hold', () => {
    fc.assert(
      fc.property(vocabulary, fc.nat(3), (parameters, at) => {
        const names = Object.keys(parameters)
        const name = names[at % names.length]!
        const model = checkModel(combosModel, {
          parameters,
          strength: 2,
          stronger: [{ of: names, strength: 3 }],
          negative: { [name]: ['quite, wrong'] },
          weights: { [name]: { [parameters[name]![0]!]: 3 } },
        })
        const { body, problems } = combosFromLines(combosLines(model), 2)
        expect(problems).to.deep.equal([])
        expect(body).to.deep.equal(model)
      }),
      { numRuns: 500, seed: 3 },
    )
  })

  it('read rules in words', () => {
    const words = {
      vehicle: ['none', '≤ 9', 'freight'],
      payment: ['account', 'voucher', 'card'],
      'class of seat': ['first', 'second or third'],
    }
    expect(readRule('when vehicle is freight, payment is account or voucher', words)).to.deep.equal({
      if: { vehicle: ['freight'] },
      then: { payment: ['account', 'voucher'] },
    })
    expect(readRule('Never class of seat first with vehicle ≤ 9 or freight', words)).to.deep.equal({
      forbid: { 'class of seat': ['first'], vehicle: ['≤ 9', 'freight'] },
    })
    expect(readRule('when vehicle is none and payment is card, class of seat is second or third', words)).to.deep.equal(
      { if: { vehicle: ['none'], payment: ['card'] }, then: { 'class of seat': ['second or third'] } },
    )
    for (const [line, sentence] of [
      ['when vehicle is freight', 'comma'],
      ['when vehicle is train, payment is card', 'no value of vehicle'],
      ['never speed high with vehicle none', 'no parameter'],
      ['when vehicle freight, payment is card', '“is” is missing'],
      ['never vehicle none with vehicle freight', 'twice'],
      ['never vehicle none with payment card today', 'not understood'],
    ] as const)
      expect(() => readRule(line, words)).to.throw(sentence)
  })

  it('say which line is wrong, and keep the rest', () => {
    const { body, problems, placeOf } = combosFromLines(
      {
        parameters: ['a: x, y', 'nothing', '', 'b: "u', 'a: z', 'c: 1'],
        rules: ['never a x with c 1', 'never q'],
        groups: ['bunches of a'],
      },
      2,
    )
    expect(Object.keys(body.parameters)).to.deep.equal(['a', 'c'])
    expect(problems.map(({ section, line }) => `${section} ${line}`)).to.deep.equal([
      'parameters 1',
      'parameters 3',
      'parameters 4',
      'rules 1',
      'groups 0',
    ])
    expect(placeOf('parameters.c[0]')).to.deep.equal({ section: 'parameters', line: 5 })
    expect(placeOf('constraints[0].forbid.a')).to.deep.equal({ section: 'rules', line: 0 })
    expect(placeOf('strength')).to.equal(null)
  })

  it('write and read partitions', () => {
    const lines = [
      'age: integer, in years',
      '  infant: up to 3',
      '  child: 4 to 15',
      '  too old: 131 and up (invalid)',
      '  zero: 0',
      'sailing: date',
      '  summer: 2027-06-01 to 2027-08-31',
      'metres: decimal step 0.1',
      '  short: up to 4.5',
      'language: set',
      '  offered: Ovian, Skerric',
      '  other: "Tarn, old" (invalid)',
    ]
    const { body, problems } = boundariesFromLines({ inputs: lines }, 2)
    expect(problems).to.deep.equal([])
    expect(boundariesLines(body.inputs)).to.deep.equal({ inputs: lines })
    expect(body.inputs['age']!.partitions[2]).to.deep.equal({ name: 'too old', from: 131, valid: false })
    expect(
      boundariesFromLines({ inputs: ['  lost: 1 to 2', 'n: number', 'm: integer', '  a:'] }, 2).problems.map(
        ({ line }) => line,
      ),
    ).to.deep.equal([0, 1, 3])
  })

  it('write and read conditions and impossible combinations', () => {
    const lines = {
      conditions: ['resident: yes, no', 'age: infant, adult'],
      impossible: ['never resident yes with age infant'],
    }
    const { body, problems } = decisionsFromLines(lines, [])
    expect(problems).to.deep.equal([])
    expect(decisionsLines(body)).to.deep.equal(lines)
  })

  it('write and read state graphs', () => {
    const { body, problems } = pathsFromLines({
      transitions: [
        'begins at held',
        'ends at sailed, refunded',
        'held -pay-> paid',
        'held –pay [card refused]→ held',
        'paid --> sailed',
        'nonsense',
      ],
    })
    expect(problems.map(({ line }) => line)).to.deep.equal([5])
    expect(body).to.deep.equal({
      initial: 'held',
      final: ['sailed', 'refunded'],
      transitions: [
        { from: 'held', event: 'pay', guard: undefined, to: 'paid' },
        { from: 'held', event: 'pay', guard: 'card refused', to: 'held' },
        { from: 'paid', event: '', guard: undefined, to: 'sailed' },
      ],
    })
    expect(pathsFromLines(pathsLines(body)).body).to.deep.equal(body)
  })
})
