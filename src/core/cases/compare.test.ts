import { expect } from 'chai'
import fc from 'fast-check'
import { likeness, wordDiff } from '#core/lib/word-diff.ts'
import { alignSteps, compareVersions, patchVersion, withIdentities } from './compare.ts'
import { emptyContent, type StepText, type VersionContent } from './steps.ts'

const words = fc
  .array(fc.constantFrom('open', 'the', 'page', 'pay', '12', ',', 'ferry'), { maxLength: 8 })
  .map((parts) => parts.join(' '))
const stepOf = (id: fc.Arbitrary<number | null>): fc.Arbitrary<StepText> =>
  fc.record({ id, action: words, expected: words, data: fc.string({ maxLength: 6 }) })
/** Two versions of one case: steps with identities are shared, each at most once a version. */
const versions = fc.uniqueArray(fc.integer({ min: 1, max: 9 }), { maxLength: 6 }).chain((ids) => {
  const content: fc.Arbitrary<VersionContent> = fc.record({
    preconditions: words,
    parameters: fc.constant(['n']),
    rows: fc.array(fc.record({ n: fc.string({ maxLength: 3 }) }), { maxLength: 2 }),
    steps: fc
      .tuple(fc.shuffledSubarray(ids), fc.array(stepOf(fc.constant(null)), { maxLength: 3 }))
      .chain(([own, fresh]) =>
        fc.tuple(...own.map((id) => stepOf(fc.constant(id)))).map((kept) => [...kept, ...fresh]),
      ),
  })
  return fc.tuple(content, content)
})
const texts = fc.oneof(words, fc.string())
const step = (action: string, id: number | null = null): StepText => ({ id, action, expected: '', data: '' })

it('tells the words that differ, and nothing else', () => {
  expect(wordDiff('Pay with a saved card', 'Pay with a new card')).to.deep.equal([
    { kind: 'same', text: 'Pay with a ' },
    { kind: 'removed', text: 'saved' },
    { kind: 'added', text: 'new' },
    { kind: 'same', text: ' card' },
  ])
  expect(wordDiff('Pay now', 'Pay, now')).to.deep.equal([
    { kind: 'same', text: 'Pay' },
    { kind: 'added', text: ',' },
    { kind: 'same', text: ' now' },
  ])
  expect(wordDiff('', '')).to.deep.equal([])
})
it('gives either text back from the stretches', () =>
  fc.assert(
    fc.property(texts, texts, (a, b) => {
      const diff = wordDiff(a, b)
      const side = (left: 'added' | 'removed') =>
        diff
          .filter(({ kind }) => kind !== left)
          .map(({ text }) => text)
          .join('')
      return side('added') === a && side('removed') === b
    }),
    { numRuns: 500 },
  ))
it('finds no longer difference than a table of all prefixes does', () =>
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 9 }),
      fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 9 }),
      (a, b) => {
        const cost: number[][] = Array.from({ length: a.length + 1 }, (_, i) =>
          Array.from({ length: b.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
        )
        for (let i = 1; i <= a.length; i++)
          for (let j = 1; j <= b.length; j++)
            cost[i]![j] =
              a[i - 1] === b[j - 1] ? cost[i - 1]![j - 1]! : 1 + Math.min(cost[i - 1]![j]!, cost[i]![j - 1]!)
        // Marks are words of their own here: with no space between there is nothing else to count.
        const text = (parts: readonly string[]) => parts.map((part) => ({ a: '+', b: '*', c: '=' })[part]).join('')
        const found = wordDiff(text(a), text(b))
          .filter(({ kind }) => kind !== 'same')
          .reduce((sum, { text: part }) => sum + part.length, 0)
        return found === cost[a.length]![b.length]!
      },
    ),
    { numRuns: 400 },
  ))
it('answers two long texts with nothing in common at once', () => {
  const long = (word: string) => Array.from({ length: 6000 }, (_, n) => `${word}${n}`).join(' ')
  expect(wordDiff(long('a'), long('b')).length).to.be.greaterThan(1)
})
it('gives the newer version back from the older and the comparison', () =>
  fc.assert(
    fc.property(versions, ([before, after]) => {
      expect(patchVersion(before, compareVersions(before, after))).to.deep.equal(after)
    }),
    { numRuns: 500 },
  ))
it('calls a version the same as itself, and only then', () =>
  fc.assert(
    fc.property(versions, ([before, after]) => {
      const plain = ({ preconditions, steps, rows }: VersionContent) =>
        JSON.stringify([preconditions, steps.map(({ id: _, ...rest }) => rest), rows])
      if (!compareVersions(before, before).same) return false
      return plain(before) === plain(after) || !compareVersions(before, after).same
    }),
  ))
it('refuses to patch another version', () => {
  const comparison = compareVersions(
    { ...emptyContent, preconditions: 'one' },
    { ...emptyContent, preconditions: 'two' },
  )
  expect(() => patchVersion({ ...emptyContent, preconditions: 'three' }, comparison)).to.throw('another version')
})
it('tells moved from changed, added and removed', () => {
  const before = { ...emptyContent, steps: [step('Open the page', 1), step('Choose a sailing', 2), step('Pay', 3)] }
  const after = {
    ...emptyContent,
    steps: [step('Pay', 3), step('Open the page', 1), step('Choose an early sailing', 2), step('Print', null)],
  }
  const told = compareVersions(before, after).steps.map(({ before: old, after: now, changed, moved }) => [
    old,
    now,
    changed,
    moved,
  ])
  expect(told).to.deep.equal([
    [2, 0, false, true],
    [0, 1, false, false],
    [1, 2, true, false],
    [null, 3, false, false],
  ])
  const removed = compareVersions(before, { ...before, steps: before.steps.slice(1) }).steps[0]
  expect([removed?.before, removed?.after]).to.deep.equal([0, null])
})
it('gives steps from outside the identity of the likest stored step, each once', () => {
  const stored = [step('Open the booking page', 11), step('Choose the 09:40 sailing', 12)]
  expect(
    withIdentities(stored, [
      step('Choose the 09:45 sailing'),
      step('Open the booking page'),
      step('Open the booking page'),
    ]).map(({ id }) => id),
  ).to.deep.equal([12, 11, null])
  expect(alignSteps(stored, [step('Something else entirely')])).to.deep.equal([])
  expect([likeness('', ''), likeness('a b', 'b a'), likeness('a', 'b')]).to.deep.equal([1, 1, 0])
})
