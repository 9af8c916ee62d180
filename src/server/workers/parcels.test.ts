import { expect } from 'chai'
import fc from 'fast-check'
import { packed, unpacked } from './parcels.ts'

it('unpacks what was packed, however much', async () =>
  fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 0, max: 350 }),
      fc.array(fc.record({ title: fc.string(), n: fc.option(fc.integer()), tags: fc.array(fc.string()) }), {
        minLength: 1,
        maxLength: 5,
      }),
      async (length, rows) => {
        const all = Array.from({ length }, (_, at) => rows[at % rows.length])
        expect(await unpacked(packed(all))).to.deep.equal(all)
      },
    ),
    { numRuns: 40 },
  ))
it('lets others have their turn between two parts', async () => {
  let turns = 0
  const others = setInterval(() => (turns += 1), 0)
  const spin = () => {
    const until = performance.now() + 2
    while (performance.now() < until);
    return 1
  }
  const { parts } = packed(Array.from({ length: 1000 }, spin))
  expect(parts).to.have.length(10)
  const before = turns
  await unpacked({ parts })
  clearInterval(others)
  expect(turns - before).to.be.greaterThan(0)
})
