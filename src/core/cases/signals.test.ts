import { expect } from 'chai'
import fc from 'fast-check'
import { actionsIn, fixSignal, mostSteps, signalsOf } from './signals.ts'
import { emptyContent, type VersionContent } from './steps.ts'

const step = (action: string, expected = 'It is shown', data = '') => ({ id: 7, action, expected, data })
const content = (of: Partial<VersionContent>): VersionContent => ({ ...emptyContent, ...of })
const kinds = (of: VersionContent) => signalsOf(of).map(({ kind, step: at }) => [kind, at])

it('says nothing of a case that is well written', () => {
  expect(
    signalsOf(
      content({
        steps: [step('Open the page', ''), step('Pay with {card}')],
        parameters: ['card'],
        rows: [{ card: 'blue' }],
      }),
    ),
  ).to.deep.equal([])
  expect(signalsOf(emptyContent)).to.deep.equal([])
})
it('finds a case that never says what should be seen', () => {
  expect(kinds(content({ steps: [step('Open', ''), step('Pay', '')] }))).to.deep.equal([['no expected result', 0]])
  expect(kinds(content({ steps: [step('Open'), step('Pay', '')] }))).to.deep.equal([['no expected result', 1]])
})
it('finds several actions in a step and makes a step of each', () => {
  const of = content({ steps: [step('Open the page. Choose 09:40, then pay', 'Paid', 'blue')] })
  expect(kinds(of)).to.deep.equal([['several actions', 0]])
  const [signal] = signalsOf(of)
  expect(
    signal && fixSignal(of, signal).steps.map(({ id, action, expected, data }) => [id, action, expected, data]),
  ).to.deep.equal([
    [7, 'Open the page', '', 'blue'],
    [null, 'Choose 09:40', '', ''],
    [null, 'Pay', 'Paid', ''],
  ])
})
it('does not take abbreviations, numbers and marks for several actions', () => {
  for (const text of [
    'Pay 4.50 with a card',
    'Choose e.g. 09:40',
    'Press Pay.',
    '<b>Open. Pay</b>',
    'Type “a, b and c”',
  ])
    expect(actionsIn(text), text).to.have.length(1)
})
it('finds parameters with no use and with no value, and mends what it can', () => {
  const of = content({
    steps: [step('Pay with {card} at {speed}')],
    parameters: ['card', 'speed', 'deck'],
    rows: [{ card: 'blue', speed: '', deck: '2' }],
  })
  expect(signalsOf(of).map(({ sentence }) => sentence)).to.deep.equal([
    '{deck} has values but no step uses it',
    '{speed} has no value in 1 of 1 rows',
  ])
  const unused = signalsOf(of)[0]
  expect(unused && fixSignal(of, unused).rows).to.deep.equal([{ card: 'blue', speed: '' }])
  const none = content({ steps: [step('Pay with {card}')], parameters: ['card'] })
  const missing = signalsOf(none)[0]
  expect(missing && fixSignal(none, missing).rows).to.deep.equal([{ card: '' }])
})
it('finds a case that is too long', () => {
  expect(
    kinds(content({ steps: Array.from({ length: mostSteps + 1 }, (_, n) => step(`Press key ${n}`)) })),
  ).to.deep.equal([['too many steps', null]])
})
it('has a fix that takes its signal away, whatever the case says', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          action: fc.constantFrom('Open. Pay', 'Pay {card}', 'Look; Wait; Go', 'x then y'),
          expected: fc.constantFrom('', 'Shown'),
        }),
        { maxLength: 5 },
      ),
      fc.boolean(),
      (steps, rows) => {
        const of = content({
          steps: steps.map(({ action, expected }) => step(action, expected)),
          parameters: ['card', 'spare'],
          rows: rows ? [{ card: '1', spare: '2' }] : [],
        })
        return signalsOf(of)
          .filter(({ fix }) => fix !== null)
          .every((signal) => {
            const fixed = signalsOf(fixSignal(of, signal))
            return !fixed.some((each) => each.kind === signal.kind && each.sentence === signal.sentence)
          })
      },
    ),
  ))
