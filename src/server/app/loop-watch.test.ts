import { setTimeout as wait } from 'node:timers/promises'
import { expect } from 'chai'
import { holding } from '#server/http/held.ts'
import { cpuTime, type LoopWatch, type Stall, watchLoop } from './loop-watch.ts'

/** Keeps the loop from coming round, for so long of this thread's own time, however busy the machine or another thread is. */
function stall(ms: number): void {
  const until = cpuTime() + ms
  while (cpuTime() < until);
}

describe('the watch on the event loop', () => {
  let watch: LoopWatch
  let seen: Stall[]
  beforeEach(async () => {
    seen = []
    watch = watchLoop((each) => seen.push(each))
    await wait(60)
    seen.length = 0
  })
  afterEach(() => watch.end())
  /** The stall that somebody had a part in: a busy machine has others, and tells late. */
  const stallOf = async (name: string): Promise<Stall | undefined> => {
    const found = () => seen.find(({ by }) => by.some((each) => each.startsWith(name)))
    for (let left = 500; left > 0 && !found(); left--) await wait(20)
    return found()
  }

  it('sees a planted stall, says how long it was, and names who said that it held the process', async () => {
    const done = watch.asked('GET /api/v1/elsewhere')
    holding('replaceText', () => stall(120))
    done()
    const planted = await stallOf('replaceText')
    expect(planted?.by).to.have.length(1)
    expect(planted?.by[0]).to.match(/^replaceText \(\d{3,} ms\)$/)
    expect(planted?.ms).to.be.at.least(100)
    expect(planted?.cpu).to.be.at.least(100)
  })
  it('names what was being answered where nobody said so, also what had ended within the stall', async () => {
    const [first, second, before] = ['GET /a', 'GET /b', 'GET /before'].map((name) => watch.asked(name))
    before?.()
    await wait(60)
    seen.length = 0
    stall(90)
    first?.()
    const planted = await stallOf('GET /a')
    second?.()
    expect(planted?.by).to.have.members(['GET /a', 'GET /b'])
  })
  it('says how much of it went into memory', async () => {
    const kept: string[][] = []
    holding('hungry', () => {
      for (let n = 0; n < 400_000; n++) kept.push([String(n), String(-n)])
    })
    const hungry = await stallOf('hungry')
    expect(hungry?.memory).to.be.within(1, hungry?.ms ?? 0)
    expect(kept).to.have.length(400_000)
    holding('idle', () => stall(60))
    const idle = await stallOf('idle')
    // What was kept before may still be gone through; work that keeps nothing is not told as that.
    expect(idle?.memory).to.be.below((idle?.ms ?? 0) / 2)
  })
  it('keeps still about short work, and about all work once it has ended', async () => {
    holding('short', () => stall(2))
    expect(seen.flatMap(({ by }) => by)).to.not.include('short')
    watch.end()
    seen.length = 0
    holding('after the end', () => stall(60))
    await wait(60)
    expect(seen).to.deep.equal([])
  })
})
