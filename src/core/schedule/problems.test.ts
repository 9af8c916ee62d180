import { expect } from 'chai'
import { type Planning, problemsOf } from './problems.ts'

const days = ['2026-12-24', '2026-12-25']
const ansa = { id: 'ansa', name: 'Ansa Lind', skills: ['Phone '], minutes: [200, 0], busy: [50, 0] }
const work = (id: number, of: Partial<Planning['work'][number]> = {}) => ({
  id,
  key: `TC-${id}`,
  minutes: 10,
  skills: [],
  after: [],
  due: null,
  begun: false,
  ...of,
})
const told = (of: Partial<Planning>) =>
  problemsOf({ today: '2026-12-24', days, hands: [ansa], work: [], places: [], ...of })

describe('what cannot be planned as it stands', () => {
  it('is nothing where all is well', () => {
    const places = [{ item: 1, person: 'ansa', day: '2026-12-24', pinned: true }]
    const fine = [work(1, { skills: ['phone'], due: '2026-12-24' }), work(2, { after: [1], minutes: 150 })]
    expect(told({ work: fine, places })).to.deep.equal([])
  })

  const cases: readonly [string, Partial<Planning>, RegExp][] = [
    [
      'an item longer than any day',
      { work: [work(1, { minutes: 151 })] },
      /^takes 2 h 31, longer than any day of who can execute it \(2 h 30 at most\)$/,
    ],
    ['a skill nobody has', { work: [work(1, { skills: ['card'] })] }, /^asks for card, which Ansa Lind does not have$/],
    ['a due day in the past', { work: [work(1, { due: '2026-12-01' })] }, /^was due on 2026-12-01, which is over$/],
    [
      'a pin on a holiday',
      { work: [work(1)], places: [{ item: 1, person: 'ansa', day: '2026-12-25', pinned: true }] },
      /^is pinned to 2026-12-25, on which Ansa Lind has no hours$/,
    ],
    [
      'an absence over begun work',
      { work: [work(1, { begun: true })], places: [{ item: 1, person: 'ansa', day: '2026-12-25', pinned: false }] },
      /^was begun by Ansa Lind, who has no hours on 2026-12-25$/,
    ],
    [
      'a place with somebody who left',
      { work: [work(1)], places: [{ item: 1, person: 'gone', day: '2026-12-24', pinned: false }] },
      /not of the team any more/,
    ],
    [
      'a place on a day that is none of those left',
      { work: [work(1)], places: [{ item: 1, person: 'ansa', day: '2027-01-04', pinned: false }] },
      /^is on 2027-01-04, which is none of the days that are left$/,
    ],
  ]
  for (const [name, of, words] of cases)
    it(`names ${name} at its item, and nothing else`, () => {
      const found = told({ ...of, work: [...(of.work ?? []), work(9)] })
      expect(found.map(({ item }) => item)).to.deep.equal([1])
      expect(found[0]?.words).to.match(words)
    })

  it('names each item of a circle with what it comes after, and none that only hangs on it', () => {
    const found = told({ work: [work(1, { after: [2] }), work(2, { after: [1] }), work(3, { after: [1] })] })
    expect(found).to.deep.equal([
      { item: 1, words: 'comes after TC-2, which comes after it in the end' },
      { item: 2, words: 'comes after TC-1, which comes after it in the end' },
    ])
  })

  it('names a skill as one nobody of the team has where there are several', () => {
    const hands = [ansa, { ...ansa, id: 'mira', name: 'Mira', skills: ['load'] }]
    expect(told({ hands, work: [work(1, { skills: ['card', 'load'] })] })).to.deep.equal([
      { item: 1, words: 'asks for card and load, which nobody of the team has' },
    ])
  })

  it('says once that there are no hours at all, and of a day that is over nothing', () => {
    const idle = { ...ansa, minutes: [0, 0] }
    expect(told({ hands: [idle], work: [work(1), work(2, { minutes: 900 })] })).to.deep.equal([
      { item: null, words: 'Nobody of the team has any hours on these days; nothing can be planned.' },
    ])
    expect(
      told({ work: [work(1)], places: [{ item: 1, person: 'gone', day: '2026-12-01', pinned: false }] }),
    ).to.deep.equal([])
  })
})
