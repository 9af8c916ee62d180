import { sumOf } from '#core/lib/figures.ts'
import { expect } from 'chai'
import fc from 'fast-check'
import { draft, type DraftInput } from './draft.ts'
import { meter } from './meter.ts'
import type { DraftAnswer } from './draft-answer.ts'
import { type DraftModel, draftModel, type DraftRow, namesOf, rowKey, rowText, sameRow, titleBy } from './draft-row.ts'
import { combosModels, graphs, inputs, tables } from '../../../test/models.ts'

const read = (model: DraftInput): DraftModel => draftModel.parse(model)
function drafted(model: DraftModel, accepted: readonly DraftRow[] = []): DraftAnswer {
  const search = draft(model, accepted)
  for (;;) {
    const step = search.next()
    if (step.done) return step.value
  }
}
const rowsOf = (answer: DraftAnswer): DraftRow[] => answer.proposed.map(({ row }) => row)
const states = (answer: DraftAnswer): string[] => answer.standing.map(({ state }) => state)

const anyModel: fc.Arbitrary<DraftModel> = fc.oneof(
  combosModels
    .filter(({ constraints }) => constraints.length === 0)
    .map((body) => read({ technique: 'combos', body: { ...body, strength: Math.min(2, body.strength) } })),
  fc
    .array(inputs, { minLength: 1, maxLength: 3 })
    .map((all) =>
      read({ technique: 'boundaries', body: { inputs: Object.fromEntries(all.map((each, at) => [`i${at}`, each])) } }),
    ),
  fc
    .tuple(
      tables({ conditions: 3, values: 3, rules: 5, outcomes: 3 }),
      fc.constantFrom('rule' as const, 'combination' as const),
    )
    .filter(([{ rules }]) => rules.length > 0)
    .map(([body, per]) => read({ technique: 'decisions', body, per })),
  fc
    .tuple(graphs(4, 8), fc.constantFrom('states' as const, 'transitions' as const, 'pairs' as const), fc.boolean())
    .map(([body, criterion, invalid]) => read({ technique: 'paths', body, criterion, invalid })),
)
/** Models that have no cases at all are refused, which other tests are about. */
const yielding = anyModel.filter((model) => {
  try {
    return drafted(model).proposed.length > 0
  } catch {
    return false
  }
})

const booking = [
  { from: 'held', event: 'pay', to: 'paid' },
  { from: 'held', event: 'cancel', to: 'cancelled' },
  { from: 'paid', event: 'sail', to: 'sailed' },
]
const graph = (over: Partial<Extract<DraftInput, { technique: 'paths' }>> = {}): DraftModel =>
  read({ technique: 'paths', body: { initial: 'held', final: ['sailed', 'cancelled'], transitions: booking }, ...over })

describe('a draft of cases', () => {
  it('leaves nothing open once all it proposes is accepted, whatever the technique', () => {
    fc.assert(
      fc.property(yielding, (model) => {
        const first = drafted(model)
        const rows = rowsOf(first)
        expect(first.answered).to.equal(0)
        expect(new Set(rows.map(rowKey)).size).to.equal(rows.length)
        const after = drafted(model, rows)
        expect(after.proposed).to.deep.equal([])
        expect(after.answered).to.equal(after.targets)
        expect(states(after)).to.not.include('gone')
      }),
      { numRuns: 300 },
    )
  })

  it('proposes beside what is accepted only what it leaves open, and the meter counts the same without a search', () => {
    fc.assert(
      fc.property(yielding, fc.array(fc.boolean(), { minLength: 40, maxLength: 40 }), (model, take) => {
        const accepted = rowsOf(drafted(model)).filter((_, at) => take[at % take.length])
        const partly = drafted(model, accepted)
        const { by, ...told } = meter(model, accepted)
        expect(told).to.deep.equal({ targets: partly.targets, answered: partly.answered })
        expect(sumOf(by ?? [], ({ targets }) => targets)).to.equal(partly.answered)
        for (const row of rowsOf(partly)) expect(accepted.some((own) => sameRow(own, row))).to.equal(false)
        const whole = drafted(model, [...accepted, ...rowsOf(partly)])
        expect(whole.answered).to.equal(whole.targets)
        expect(partly.standing).to.have.length(accepted.length)
      }),
      { numRuns: 300 },
    )
  })

  it('is answered by whose rows the meter says: without some of them exactly what the others answer is left', () => {
    const owners = fc.array(fc.nat(4), { minLength: 40, maxLength: 40 })
    fc.assert(
      fc.property(yielding, owners, fc.subarray([0, 1, 2, 3, 4]), (model, ownerOf, left) => {
        const rows = rowsOf(drafted(model))
        const by = meter(
          model,
          rows,
          [],
          rows.map((_, at) => ownerOf[at % ownerOf.length]!),
        ).by!
        const among = rows.filter((_, at) => left.includes(ownerOf[at % ownerOf.length]!))
        const answered = by.filter(({ owners: own }) => own.some((owner) => left.includes(owner)))
        expect(meter(model, among).answered).to.equal(sumOf(answered, ({ targets }) => targets))
        expect(new Set(by.map(({ owners: own }) => own.join())).size).to.equal(by.length)
        for (const { owners: own } of by) expect(own).to.deep.equal([...new Set(own)].sort())
      }),
      { numRuns: 300 },
    )
  })

  it('does not tell apart whose rows answer what where there is no end of it', () => {
    const values = Array.from({ length: 60 }, (_, at) => String(at))
    const model = read({ technique: 'combos', body: { parameters: { a: values, b: values } } })
    const rows = values.flatMap((a) => values.slice(0, 40).map((b) => ({ a, b })))
    expect(meter(model, rows)).to.deep.equal({ targets: 3600, answered: 2400, by: null })
    const ofOne = rows.map(() => 7)
    expect(meter(model, rows, [], ofOne).by).to.deep.equal([{ owners: [7], targets: 2400 }])
  })

  it('retires rows of a combination whose value went, keeps the others, and fills only what they leave', () => {
    const body = {
      parameters: { device: ['desk', 'phone', 'tablet'], payment: ['card', 'voucher'] },
      negative: { payment: ['stolen card'] },
    }
    const accepted = rowsOf(drafted(read({ technique: 'combos', body })))
    expect(accepted).to.have.length(7)
    const fewer = drafted(
      read({
        technique: 'combos',
        body: { ...body, parameters: { ...body.parameters, device: ['desk', 'phone', 'watch'] } },
      }),
      accepted,
    )
    expect(fewer.standing.filter(({ state }) => state === 'gone')).to.have.length(
      accepted.filter(({ device }) => device === 'tablet').length,
    )
    expect(fewer.standing.find(({ state }) => state === 'gone')!.why).to.match(/tablet/)
    expect(rowsOf(fewer).map(({ device }) => device)).to.deep.equal(['watch', 'watch'])
  })

  it('says which value of a row must be refused', () => {
    const { proposed } = drafted(
      read({
        technique: 'combos',
        body: { parameters: { payment: ['card', 'voucher'] }, negative: { payment: ['stolen card'] }, strength: 1 },
      }),
    )
    expect(proposed.map(({ negative }) => negative)).to.deep.equal([false, false, true])
    expect(proposed[2]!.why).to.equal('payment stolen card, alone among ordinary values')
    expect(proposed[2]!.steps).to.deep.equal([
      { action: 'With payment stolen card', expected: 'stolen card is refused' },
    ])
  })

  it('counts an invalid boundary value only where it stands alone', () => {
    const model = read({
      technique: 'boundaries',
      body: {
        inputs: {
          age: { type: 'integer', partitions: [{ name: 'child', from: 4, to: 15 }] },
          metres: { type: 'integer', unit: 'm', partitions: [{ name: 'car', from: 1, to: 6 }] },
        },
      },
    })
    const alone = drafted(model, [{ age: '3', metres: '6' }])
    expect(alone.answered).to.equal(1)
    const both = drafted(model, [{ age: '3', metres: '7' }])
    expect(both.answered).to.equal(0)
    expect(both.standing).to.deep.equal([{ state: 'spare', why: 'answers nothing the model asks for now' }])
    const invalid = alone.proposed.find(({ negative }) => negative)!
    expect(invalid.steps[0]!.action).to.match(/^Enter age \d+, metres \d+ m$/)
    expect(invalid.steps[0]!.expected).to.match(/^It is refused: age 16 is outside all partitions$/)
    expect(drafted(model, [{ weight: '3' }]).standing).to.deep.equal([
      { state: 'gone', why: 'there is no input weight any more' },
    ])
  })

  it('takes one case per rule or per combination, and tells rows that no rule or value stands for any more', () => {
    const body: Extract<DraftInput, { technique: 'decisions' }>['body'] = {
      conditions: { resident: ['yes', 'no'], age: ['infant', 'adult'] },
      rules: [
        { when: { age: ['infant'] }, then: { fare: 'free' } },
        { when: { age: ['adult'], resident: ['yes'] }, then: { fare: 'half' } },
        { when: { age: ['adult'], resident: ['no'] }, then: { fare: 'full' } },
      ],
    }
    expect(drafted(read({ technique: 'decisions', body })).proposed.map(({ why }) => why)).to.deep.equal([
      'rule 1: fare: free',
      'rule 2: fare: half',
      'rule 3: fare: full',
    ])
    expect(drafted(read({ technique: 'decisions', body, per: 'combination' })).proposed).to.have.length(4)
    const later = read({
      technique: 'decisions',
      body: { ...body, impossible: [{ resident: ['yes'], age: ['infant'] }] },
    })
    const { standing } = drafted(later, [
      { resident: 'yes', age: 'infant' },
      { resident: 'yes', age: 'senior' },
      { resident: 'yes' },
      { resident: 'no', age: 'infant' },
      { resident: 'no', age: 'infant' },
    ])
    expect(standing).to.deep.equal([
      { state: 'gone', why: 'is marked as impossible now' },
      { state: 'gone', why: 'age senior is not in the table any more' },
      { state: 'gone', why: 'says nothing of age' },
      { state: 'kept', why: 'kept' },
      { state: 'spare', why: 'others answer all it does' },
    ])
  })

  it('goes on with the other rules while one names a value that the table has no more', () => {
    const body = {
      conditions: { resident: ['yes', 'no'], age: ['infant', 'adult'] },
      rules: [
        { when: { age: ['adult', 'senior'] }, then: { fare: 'full' } },
        { when: { age: ['infant'] }, then: { fare: 'free' } },
      ],
    }
    const answer = drafted(read({ technique: 'decisions', body }), [{ resident: 'no', age: 'adult' }])
    expect(answer.proposed.map(({ why }) => why)).to.deep.equal(['rule 2: fare: free'])
    expect(answer.standing.map(({ state }) => state)).to.deep.equal(['spare'])
    expect(answer.notices.map(({ at, message }) => `${at} ${message}`)).to.deep.equal([
      'rules[0] age has no value senior. The rule is left aside.',
    ])
    expect(
      drafted(read({ technique: 'decisions', body, per: 'combination' })).proposed.map(({ row }) => row['age']),
    ).to.deep.equal(['infant', 'infant'])
  })

  it('walks a graph, and tells of a row what of it the graph has no more', () => {
    const { proposed, unit } = drafted(graph())
    expect(unit).to.deep.equal(['transition', 'transitions'])
    expect(proposed.map(({ row }) => rowText(row)).sort()).to.deep.equal(['held → cancelled', 'held → paid → sailed'])
    expect(
      drafted(graph(), [
        { path: 'held –refund→ gone' },
        { path: 'paid –sail→ sailed' },
        { path: 'held –pay→ paid' },
      ]).standing.map(({ why }) => why),
    ).to.deep.equal([
      'held –refund→ gone is not in the graph any more',
      'begins at paid, not at held',
      'ends at paid, which is not final',
    ])
  })

  it('asks of each state, after one walk to it, for the events that must change nothing', () => {
    const model = graph({ invalid: true })
    const answer = drafted(model)
    const refused = answer.proposed.filter(({ negative }) => negative)
    expect(refused.map(({ row }) => row)).to.deep.equal([
      { path: 'held', refused: 'sail' },
      { path: 'held –pay→ paid', refused: 'pay\ncancel' },
      { path: 'held –cancel→ cancelled', refused: 'pay\ncancel\nsail' },
      { path: 'held –pay→ paid\npaid –sail→ sailed', refused: 'pay\ncancel\nsail' },
    ])
    expect(answer.targets).to.equal(3 + 9)
    expect(refused[1]!.why).to.equal('2 events that must change nothing')
    expect(refused[1]!.steps).to.deep.equal([
      { action: 'pay', expected: 'The state is paid' },
      { action: 'Try to pay', expected: 'It is refused; the state is still paid' },
      { action: 'Try to cancel', expected: 'It is refused; the state is still paid' },
    ])
    expect(rowText(refused[2]!.row)).to.equal('held → cancelled, where 3 events are refused')
    expect(refused.slice(0, 2).map(({ row }) => rowText(row))).to.deep.equal([
      'held, where sail is refused',
      'held → paid, where pay and cancel are refused',
    ])
    // What is possible now retires the row that held it to be refused; what is new to refuse is proposed by itself.
    const grown = graph({
      invalid: true,
      body: {
        initial: 'held',
        final: ['sailed', 'cancelled'],
        transitions: [
          ...booking,
          { from: 'paid', event: 'cancel', to: 'cancelled' },
          { from: 'held', event: 'extend', to: 'held' },
        ],
      },
    })
    const next = drafted(
      grown,
      refused.map(({ row }) => row),
    )
    expect(next.standing.map(({ why }) => why)).to.deep.equal([
      'kept',
      'cancel is possible in paid now',
      'kept',
      'kept',
    ])
    expect(next.proposed.filter(({ negative }) => negative).map(({ row }) => row['refused'])).to.deep.equal([
      'pay\nextend',
      'extend',
      'extend',
    ])
    expect(
      drafted(
        graph(),
        refused.map(({ row }) => row),
      ).standing.map(({ state }) => state),
    ).to.deep.equal(['spare', 'spare', 'spare', 'spare'])
  })

  it('writes titles by a pattern and leaves names it does not know', () => {
    const row = { device: 'phone', payment: 'card' }
    expect(titleBy('{n}. {device} pays by {payment} in {port}', row, 4)).to.equal('4. phone pays by card in {port}')
    expect(titleBy('Booking: {all}', row, 1)).to.equal('Booking: device phone, payment card')
    expect(titleBy('x'.repeat(400), row, 1)).to.have.length(300)
    expect(titleBy('{constructor}', row, 1)).to.equal('{constructor}')
  })

  it('names what a row has a value for, in each technique', () => {
    expect(namesOf(read({ technique: 'combos', body: { parameters: { a: ['1'], b: ['2'] } } }))).to.deep.equal([
      'a',
      'b',
    ])
    expect(namesOf(graph())).to.deep.equal([])
    expect(rowKey({ b: '2', a: '1' })).to.equal(rowKey({ a: '1', b: '2' }))
    expect(sameRow({ a: '1' }, { a: '2' })).to.equal(false)
  })
})
