import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { rovant } from '../server.ts'

describe('the commands of the schedule', () => {
  const folder = mkdtempSync(join(tmpdir(), 'rovant-schedule-'))
  const file = (name: string, content: unknown): string => {
    const path = join(folder, name)
    writeFileSync(path, JSON.stringify(content))
    return path
  }

  it('select the items of most worth within a budget, and say why each is chosen', async () => {
    const model = file('select.json', {
      budget: 20,
      items: [
        { key: 'both', minutes: 12, covers: ['r1', 'r2'] },
        { key: 'one', minutes: 5, covers: ['r2'] },
        { key: 'idle', minutes: 1, covers: ['r9'] },
      ],
      worth: { r1: 12, r2: 3 },
    })
    const { code, out, err } = await rovant(['select', model, '--json'])
    expect(code, err).to.equal(0)
    expect(JSON.parse(out)).to.deep.equal({
      chosen: ['both'],
      minutes: 12,
      worth: 15,
      bound: 15,
      why: { both: 'adds r1, r2: 15 of worth in 12 min' },
    })
    expect(err).to.match(/items\[2\]\.covers\[0\].*“r9” has no worth given/)
    const wrong = await rovant(['select', file('twice.json', { budget: -1, items: [] })])
    expect([wrong.code, wrong.err]).to.satisfy(
      ([exit, told]: [number, string]) => exit === 1 && /budget/.test(told) && !/ at /.test(told.split('\n')[1] ?? ''),
    )
  })
  it('level a team’s days, and name at its place what is wrong with a model', async () => {
    const of = {
      days: ['2026-11-23'],
      people: [{ name: 'Mira', minutes: [30], skills: [] }],
      items: [
        { key: 'a', minutes: 20, worth: 5, after: ['b'], due: null },
        { key: 'b', minutes: 10, worth: 1 },
        { key: 'c', minutes: 40, worth: 9 },
      ],
    }
    const { code, out, err } = await rovant(['level', file('level.json', of), '--json'])
    expect(code, err).to.equal(0)
    const placed = { person: 'Mira', day: '2026-11-23' }
    expect(JSON.parse(out)).to.deep.equal({
      assigned: [
        { key: 'b', ...placed, start: 0 },
        { key: 'a', ...placed, start: 10 },
      ],
      cut: [{ key: 'c', why: 'takes 40 min, longer than any day whoever may do it has for it (30 min)' }],
      worth: 6,
      bound: 6,
    })
    const round = { ...of, items: [{ key: 'a', minutes: 1, worth: 1, after: ['a'] }] }
    const wrong = await rovant(['level', file('round.json', round)])
    expect([wrong.code, wrong.err]).to.satisfy(
      ([exit, told]: [number, string]) => exit === 1 && /items\[0\]\.after.*circle: a after a/.test(told),
    )
  })
})
