import { expect } from 'chai'
import { listCases } from '#core/cases/contract.ts'
import { seeded } from '#core/lib/random.ts'
import { writeRequirementLines } from '#core/requirements/contract.ts'
import { readProject } from '#core/projects/contract.ts'
import { diskProblems } from '#server/installation/read-health.ts'
import { verifyData } from '#server/installation/verify-data.ts'
import { shop } from '#test/app.ts'
import { makeCase } from '#test/make.ts'
import { appWithSignIn } from '#test/signed-in.ts'
import { isDiskFull, lastFullAt, unlessFull } from './disk.ts'

const sentence =
  'The disk of the server is full, so nothing was stored; reading goes on. Tell whoever runs the server; what is written on this page is kept.'
const coded = (code: string): Error => Object.assign(new Error(code), { code })

describe('a full disk', () => {
  it('is known by what the system and the database say of it, however deep, and by nothing else', () => {
    for (const code of ['ENOSPC', 'EDQUOT', 'SQLITE_FULL']) {
      expect(isDiskFull(coded(code)), code).to.equal(true)
      expect(isDiskFull(new Error('outside', { cause: coded(code) })), code).to.equal(true)
    }
    for (const other of [coded('SQLITE_BUSY'), coded('ENOENT'), new Error('ENOSPC'), 'ENOSPC', null])
      expect(isDiskFull(other)).to.equal(false)
    expect(Date.now() - lastFullAt()).to.be.lessThan(10_000)
  })
  it('keeps nobody from what may be left undone, and hides no other failure', () => {
    unlessFull(() => {
      throw coded('SQLITE_FULL')
    })
    expect(() =>
      unlessFull(() => {
        throw coded('SQLITE_BUSY')
      }),
    ).to.throw('SQLITE_BUSY')
  })
  it('is told to who writes, stores nothing by halves, and lets who reads go on', async () => {
    const of = shop()
    const pages = Number(of.db.$client.pragma('page_count', { simple: true }))
    of.db.$client.pragma(`max_page_count = ${pages + 1}`)
    const lines = Array.from({ length: 400 }, (_, n) => `A requirement with a long name to fill pages, number ${n}`)
    const full = await of.lead.refused(writeRequirementLines, { body: { lines: lines.join('\n') } })
    expect([full.status, full.detail]).to.deep.equal([507, sentence])
    expect(of.db.$client.prepare('select count(*) from requirement').pluck().get()).to.equal(0)
    expect((await of.lead.ask(readProject)).key).to.equal('SHOP')
    of.db.$client.pragma(`max_page_count = ${pages + 1000}`)
    expect((await of.lead.ask(writeRequirementLines, { body: { lines: 'Now there is room' } })).keys).to.have.length(1)
  })
  it('twenty times at random points leaves all that was answered, and nothing by halves', async () => {
    const random = seeded(20261128)
    for (let time = 0; time < 20; time++) {
      const of = shop()
      const room = 2 + Math.floor(random() * 40)
      of.db.$client.pragma(`max_page_count = ${Number(of.db.$client.pragma('page_count', { simple: true })) + room}`)
      const kept: string[] = []
      let refused = 0
      for (let n = 0; refused < 3; n++) {
        const lines = Array.from(
          { length: 1 + Math.floor(random() * 9) },
          (_, at) => `Case ${n}.${at}\n\tDo it => It is done`,
        )
        const answer = await of.lead.send('POST', '/projects/SHOP/cases/lines', { lines: lines.join('\n') })
        expect(answer.status).to.be.oneOf([200, 507])
        if (answer.status === 507) refused += 1
        else kept.push(...answer.body.keys)
      }
      of.db.$client.pragma('max_page_count = 1000000')
      const { total } = await of.lead.ask(listCases, { query: { limit: 1 } })
      expect(total, `with room for ${room} pages`).to.equal(kept.length)
      const problems = await verifyData({ db: of.db, close: () => undefined }, of.services.data)
      expect(problems.filter((problem) => !problem.includes('write-ahead'))).to.deep.equal([])
      expect(await makeCase(of.lead, 'Goes on')).to.match(/^TC-/)
    }
  })
  it('is told at the sign-in, too', async () => {
    const app = await appWithSignIn('right enough', [{ id: 'ada', name: 'Ada', administrator: false }])
    const { db } = app
    db.$client.exec('create table filler (t text)')
    db.$client.pragma(`max_page_count = ${Number(db.$client.pragma('page_count', { simple: true }))}`)
    // Whatever room is left on the last pages is used up.
    const fill = () => db.$client.prepare("insert into filler values (printf('%.*c', 100, 'x'))").run()
    try {
      for (;;) fill()
    } catch (error) {
      expect(isDiskFull(error)).to.equal(true)
    }
    const signIn = () => app.ask('POST', '/sign-in', { email: 'ada@shop.example', password: 'right enough' })
    let last = await signIn()
    for (let n = 0; n < 60 && last.status === 200; n++) last = await signIn()
    expect([last.status, last.body.detail]).to.deep.equal([507, sentence])
    // It was no wrong guess, however often one tries.
    for (let n = 0; n < 12; n++) last = await signIn()
    expect(last.status).to.equal(507)
  })
  it('is part of the health of the server', () => {
    expect(diskProblems(5_000_000_000, 0, 1_000_000)).to.deep.equal([])
    expect(diskProblems(1_500_000, 0, 1_000_000)).to.deep.equal([
      'The disk of the data directory has 1.5 MB free, which is as good as full.',
    ])
    expect(diskProblems(5_000_000_000, 950_000, 1_000_000)).to.have.length(1)
    expect(diskProblems(5_000_000_000, 900_000, 1_000_000)).to.deep.equal([])
  })
})
