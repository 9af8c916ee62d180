import { expect } from 'chai'
import { stripOf } from './strip-of.ts'

const attempt = (id: number, verdict: string, build: string, environment = 'Red', struck = false) => ({
  id,
  verdict,
  word: null as string | null,
  build,
  environment,
  struck,
  at: id,
  person: null,
  version: '1.0',
})

describe('a strip over builds', () => {
  it('has the newest attempt of each environment on each build, and says where it turned', () => {
    const strip = stripOf(
      [
        { ...attempt(5, 'Passed', 'b2'), word: 'Passed with a remark' },
        attempt(4, 'Failed', 'b2'),
        attempt(3, 'Blocked', 'b2', 'Blue'),
        attempt(2, 'Passed', 'b1', 'Red'),
        attempt(1, 'Failed', 'b1', 'Blue'),
      ],
      ['b0', 'b1', 'b2'],
    )
    expect(strip.builds).to.deep.equal(['b1', 'b2'])
    expect(
      strip.rows.map(({ environment, cells }) => [environment, ...cells.map((cell) => cell?.id ?? null)]),
    ).to.deep.equal([
      ['Blue', 1, 3],
      ['Red', 2, 5],
    ])
    expect(strip.rows[1]?.cells[1]).to.deep.include({ more: 1, turned: true, word: 'Passed with a remark' })
    expect(strip.rows[0]?.cells[1]).to.deep.include({ more: 0, turned: false })
  })
  it('leaves out what was struck out, and is empty where nothing counts', () => {
    expect(stripOf([attempt(1, 'Failed', 'b1', 'Red', true)], ['b1'])).to.deep.equal({ builds: [], rows: [] })
  })
})
