import { expect } from 'chai'
import fc from 'fast-check'
import { boundariesFromLines, boundariesLines } from './boundaries-lines.ts'
import { combosFromLines, combosLines, readRule } from './combos-lines.ts'
import { decisionsFromLines, decisionsLines } from './decisions-lines.ts'
import { pathsFromLines, pathsLines } from './paths-lines.ts'
import { boundaries } from './boundaries.ts'
import { combosProblem } from './combos-model.ts'
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
    ).to.deep.equal([0, 1, 3, 2])
  })

  const told = (...inputs: string[]) => {
    const { body, problems } = boundariesFromLines({ inputs }, 2)
    return { names: Object.keys(body.inputs), told: problems.map(({ line, message }) => `${line}: ${message}`), body }
  }
  it('read every end of a partition, those that are open too', () => {
    const { body } = told(
      'age: integer',
      ' a: up to 3',
      ' b: until 5',
      ' c: 6 to 7',
      ' d: 8 and up',
      ' e: 9',
      'n: length',
      ' f: any',
    )
    expect(body.inputs['age']!.partitions.map(({ from, to }) => [from, to])).to.deep.equal([
      [undefined, 3],
      [undefined, 5],
      [6, 7],
      [8, undefined],
      [9, 9],
    ])
    expect(body.inputs['n']!.partitions).to.deep.equal([{ name: 'f', valid: true }])
  })

  it('go on with all that can be read beside a partition that cannot', () => {
    const wrong = {
      '  adult: 17 to 6': 'adult begins at 17 and ends before, at 6.',
      '  adult: six to 17': 'six is no number.',
      '  adult: 16.5 to 17': '16.5 is no whole number.',
      '  child: 16 to 17': 'age has a partition child already; its first line counts.',
      '  adult:': 'Say which values it holds: 4 to 15, 131 and up, up to 3.',
    }
    for (const [line, message] of Object.entries(wrong)) {
      const read = told('age: integer', '  child: 4 to 15', line, 'sailing: date', '  summer: 2027-06-01 to 2027-08-31')
      expect(read.told).to.deep.equal([`2: ${message}`])
      expect(read.names).to.deep.equal(['age', 'sailing'])
      const { rows } = boundaries(read.body)
      expect(rows.map(({ age }) => age)).to.include(4)
      expect(rows.map(({ sailing }) => sailing)).to.include('2027-08-31')
    }
    expect(told('day: date', '  short: 2027-02-01 to 2027-02-30').told[0]).to.match(/^1: 2027-02-30 is no date/)
  })

  it('leave out an input that is not written to its end, while another one is', () => {
    const sound = ['age: integer', '  child: 4 to 15']
    const wrong: Readonly<Record<string, readonly string[]>> = {
      'price has no partitions yet. Write them below it, indented: child: 4 to 15.': ['price: decimal step 0.1'],
      'price is a decimal: say by which step its values differ, such as 0.01.': ['price: decimal', '  low: 1 to 2'],
      'price has no valid value. Take “(invalid)” from a partition that is accepted.': [
        'price: integer',
        '  low: 1 to 2 (invalid)',
      ],
      'The step of price is a whole number.': ['price: integer step 0.5', '  low: 1 to 2'],
    }
    for (const [message, lines] of Object.entries(wrong)) {
      expect(told(...lines, ...sound).told).to.deep.equal([`0: ${message}`])
      expect(told(...lines, ...sound).names).to.deep.equal(['age'])
    }
    expect(told('price: integer').names, 'alone it stays, and says what is missing').to.deep.equal(['price'])
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
    expect(problems.map(({ line, message }) => `${line}: ${message}`)).to.deep.equal([
      '5: Write a state, an event and the next state: held -pay-> paid.',
      '1: No transition names the final state refunded.',
    ])
    expect(body).to.deep.equal({
      initial: 'held',
      final: ['sailed'],
      transitions: [
        { from: 'held', event: 'pay', guard: undefined, to: 'paid' },
        { from: 'held', event: 'pay', guard: 'card refused', to: 'held' },
        { from: 'paid', event: '', guard: undefined, to: 'sailed' },
      ],
    })
    expect(pathsFromLines(pathsLines(body)).body).to.deep.equal(body)
  })

  it('tell a value that stands twice, a parameter without values and a name too long, and go on with the rest', () => {
    const { body, problems } = combosFromLines(
      {
        parameters: ['a: 1, 2, 1', 'b:', 'c: | 9', 'd: 1 | 1, 9', `${'e'.repeat(121)}: 1`, 'f: 1 ×2, 2'],
        rules: ['never a 1 with f 2'],
      },
      2,
    )
    expect(problems.map(({ section, line, message }) => `${section} ${line}: ${message}`)).to.deep.equal([
      'parameters 0: a has the value 1 twice.',
      'parameters 1: b has no values yet.',
      'parameters 2: c has no ordinary values yet.',
      'parameters 3: d has the value 1 twice.',
      'parameters 4: “eeeeeeeeeeeeeeeeeeee…” is too long; a name or value has at most 120 characters.',
    ])
    expect(body.parameters).to.deep.equal({ a: ['1', '2'], d: ['1'], f: ['1', '2'] })
    expect(body.negative).to.deep.equal({ d: ['9'] })
    expect(body.constraints).to.have.length(1)
    expect(combosProblem(body).names).to.deep.equal(['a', 'd', 'f'])
    const table = decisionsFromLines({ conditions: ['a: 1, 1, 2', 'b: yes, no'], impossible: [] }, [])
    expect(table.problems.map(({ message }) => message)).to.deep.equal(['a has the value 1 twice.'])
    expect(table.body.conditions).to.deep.equal({ a: ['1', '2'], b: ['yes', 'no'] })
  })

  it('draw a graph from its transitions while its beginning names a state they do not', () => {
    const { body, problems } = pathsFromLines({ transitions: ['begins at nowhere', 'held -pay-> paid'] })
    expect(problems.map(({ line, message }) => `${line}: ${message}`)).to.deep.equal([
      '0: No transition leaves nowhere; the first line counts as the beginning until one does.',
    ])
    expect(body.initial).to.equal('held')
    expect(pathsFromLines({ transitions: ['begins at open'] }).body.initial, 'nothing to hold it against').to.equal(
      'open',
    )
  })
})
