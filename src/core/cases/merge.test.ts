import { expect } from 'chai'
import fc from 'fast-check'
import { type Merged, merged, saysTheSame } from './merge.ts'
import { emptyContent, type StepText, type VersionContent } from './steps.ts'

const step = (id: number | null, action: string, expected = ''): StepText => ({ id, action, expected, data: '' })
const of = (...steps: StepText[]): VersionContent => ({ ...emptyContent, steps })
const actions = ({ content }: Merged) => content.steps.map(({ action }) => action)

const base = of(step(1, 'Open', 'It opens'), step(2, 'Pay', 'Paid'), step(3, 'Leave'))

describe('what two wrote at once', () => {
  it('stands together where they wrote in different places', () => {
    const mine = of(step(1, 'Open the desk', 'It opens'), step(2, 'Pay', 'Paid'), step(3, 'Leave'))
    const theirs = of(step(1, 'Open', 'It asks'), step(2, 'Pay', 'Paid'), step(3, 'Go'))
    const { content, clashes } = merged(base, mine, theirs)
    expect(clashes).to.deep.equal([])
    expect(content.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
      ['Open the desk', 'It asks'],
      ['Pay', 'Paid'],
      ['Go', ''],
    ])
  })
  it('is told with both texts where they wrote in the same cell', () => {
    const mine = { ...base, preconditions: 'Mine', steps: base.steps.with(1, step(2, 'Pay', 'Paid in full')) }
    const theirs = { ...base, preconditions: 'Theirs', steps: base.steps.with(1, step(2, 'Pay', 'Paid twice')) }
    const { content, clashes } = merged(base, mine, theirs)
    expect(clashes).to.deep.equal([
      { place: { part: 'step', at: 1, field: 'expected' }, mine: 'Paid in full', theirs: 'Paid twice' },
      { place: { part: 'preconditions' }, mine: 'Mine', theirs: 'Theirs' },
    ])
    expect(content.steps[1]?.expected).to.equal('Paid in full')
  })
  it('keeps new steps of both behind the steps they followed', () => {
    const mine = of(step(1, 'Open', 'It opens'), step(null, 'Mine'), step(2, 'Pay', 'Paid'), step(3, 'Leave'))
    const theirs = of(step(1, 'Open', 'It opens'), step(2, 'Pay', 'Paid'), step(9, 'Theirs'), step(3, 'Leave'))
    expect(actions(merged(base, mine, theirs))).to.deep.equal(['Open', 'Mine', 'Pay', 'Theirs', 'Leave'])
  })
  it('takes a new step once, when it had been stored and the answer got lost', () => {
    const mine = { ...base, steps: [...base.steps, step(null, 'Wave'), step(null, 'Wave again')] }
    const theirs = { ...base, steps: [...base.steps, step(4, 'Wave')] }
    const { content, clashes } = merged(base, mine, theirs)
    expect(content.steps.map(({ id, action }) => [id, action]).slice(3)).to.deep.equal([
      [4, 'Wave'],
      [null, 'Wave again'],
    ])
    expect(clashes).to.deep.equal([])
  })
  it('moves steps as the one did who moved them, and lets go of a step that the other left as it was', () => {
    const [one, two, three] = base.steps
    const moved = of(...[three, one, two].flatMap((each) => each ?? []))
    const without = of(...[one, three].flatMap((each) => each ?? []))
    expect(actions(merged(base, moved, without))).to.deep.equal(['Leave', 'Open'])
    expect(actions(merged(base, without, moved))).to.deep.equal(['Leave', 'Open'])
  })
  it('asks about a step that one took away while the other wrote in it', () => {
    const wrote = { ...base, steps: base.steps.with(1, step(2, 'Pay by card', 'Paid')) }
    const without = { ...base, steps: base.steps.toSpliced(1, 1) }
    const mineGone = merged(base, without, wrote)
    expect(mineGone.clashes).to.deep.equal([
      { place: { part: 'step', at: 1, field: 'all' }, mine: null, theirs: 'Pay by card ⇒ Paid' },
    ])
    const theirsGone = merged(base, wrote, without)
    expect(theirsGone.clashes[0]).to.deep.include({ mine: 'Pay by card ⇒ Paid', theirs: null })
    expect(theirsGone.content.steps[1]).to.deep.include({ id: null, action: 'Pay by card' })
  })
  it('keeps the parts beside the steps apart: rows, what it needs, where it makes sense', () => {
    const mine = { ...base, needs: ['TC-2'], rows: [{ age: '4' }], environment: 'Windows' }
    const theirs = { ...base, needs: ['TC-3'], rows: [{ age: '4' }], parameters: ['age'] }
    const { content, clashes } = merged(base, mine, theirs)
    expect(clashes).to.deep.equal([{ place: { part: 'needs' }, mine: 'TC-2', theirs: 'TC-3' }])
    expect(content).to.deep.include({ rows: [{ age: '4' }], environment: 'Windows', parameters: ['age'] })
  })
  it('asks which version of a routine counts when both chose another', () => {
    const use = (version: number, name: string) => ({
      kind: 'routine' as const,
      version,
      ref: 'RT-1',
      name,
      values: {},
    })
    const at = (version: number, name: string) => of({ ...step(1, 'Sign in'), use: use(version, name) })
    const { content, clashes } = merged(at(1, '1.0'), at(2, '2.0'), at(3, '3.0'))
    expect(clashes).to.deep.equal([
      { place: { part: 'step', at: 0, field: 'values' }, mine: 'RT-1 2.0', theirs: 'RT-1 3.0' },
    ])
    expect(content.steps[0]?.use?.version).to.equal(2)
    expect(merged(at(1, '1.0'), at(1, '1.0'), at(3, '3.0')).content.steps[0]?.use?.version).to.equal(3)
  })
})

describe('of any two changes of one content', () => {
  const words = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f')
  const start = fc
    .array(fc.tuple(words, words), { maxLength: 5 })
    .map((texts) => of(...texts.map(([action, expected], at) => step(at + 1, action, expected))))
  type Edit = (steps: readonly StepText[]) => readonly StepText[]
  const at = (steps: readonly StepText[], n: number) => (steps.length === 0 ? -1 : n % steps.length)
  const edit = (name: string): fc.Arbitrary<Edit> =>
    fc.oneof(
      fc.tuple(fc.nat(9), fc.constantFrom('action', 'expected')).map(([n, field]): Edit => (steps) => {
        const own = steps[at(steps, n)]
        return own ? steps.with(at(steps, n), { ...own, [field]: `${own.action}${own.expected}${name}` }) : steps
      }),
      fc.nat(9).map(
        (n): Edit =>
          (steps) =>
            steps.toSpliced(at(steps, n), 1),
      ),
      fc.tuple(fc.nat(9), fc.nat(9)).map(([from, to]): Edit => (steps) => {
        const own = steps[at(steps, from)]
        return own ? steps.toSpliced(at(steps, from), 1).toSpliced(to % steps.length, 0, own) : steps
      }),
      fc.tuple(fc.nat(9), words).map(
        ([n, word]): Edit =>
          (steps) =>
            steps.toSpliced(n % (steps.length + 1), 0, step(null, `${word}${name}`)),
      ),
    )
  const edited = (name: string) =>
    fc.array(edit(name), { maxLength: 4 }).map((edits) => (from: VersionContent) => ({
      ...from,
      steps: edits.reduce<readonly StepText[]>((steps, each) => each(steps), from.steps),
    }))
  const stored = (content: VersionContent): VersionContent => ({
    ...content,
    steps: content.steps.map((own, place) => ({ ...own, id: own.id ?? 100 + place })),
  })
  const both = fc
    .tuple(start, edited('M'), edited('T'))
    .map(([from, mine, theirs]) => ({ from, mine: mine(from), theirs: stored(theirs(from)) }))

  it('what only one changed is what the content says then, without a clash', () => {
    fc.assert(
      fc.property(both, ({ from, mine, theirs }) => {
        for (const result of [merged(from, from, theirs), merged(from, theirs, theirs)]) {
          expect(result.clashes).to.deep.equal([])
          expect(saysTheSame(result.content, theirs)).to.equal(true)
        }
        expect(merged(from, mine, from).clashes).to.deep.equal([])
        expect(saysTheSame(merged(from, mine, from).content, mine)).to.equal(true)
      }),
    )
  })
  it('no words of either vanish: they stand in the content or are told', () => {
    fc.assert(
      fc.property(both, ({ from, mine, theirs }) => {
        const { content, clashes } = merged(from, mine, theirs)
        const texts = (steps: readonly StepText[]) => steps.flatMap(({ action, expected }) => [action, expected])
        const left = [...texts(content.steps), ...clashes.flatMap((each) => [each.mine, each.theirs])].join('\n')
        const before = new Set(texts(from.steps))
        for (const text of [...texts(mine.steps), ...texts(theirs.steps)])
          if (!before.has(text)) expect(left).to.include(text)
      }),
      { numRuns: 500 },
    )
  })
  it('every step stands once', () => {
    fc.assert(
      fc.property(both, ({ from, mine, theirs }) => {
        const ids = merged(from, mine, theirs).content.steps.flatMap(({ id }) => id ?? [])
        expect(new Set(ids).size).to.equal(ids.length)
      }),
    )
  })
})
