import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { readStorage } from '#core/installation/contract.ts'
import { addFile } from '#core/talk/contract.ts'
import { evidenceFolder } from '#db/open.ts'
import { readArchive, writeArchive } from '#server/formats/archive-file.ts'
import { type EvidencePlace, evidenceOf, evidencePlaceOf } from '#server/integrations/evidence-place.ts'
import { type Shop, shop } from '#test/app.ts'
import { withStore } from '#test/evidence-elsewhere.ts'
import { makeAdministrator, makeCase } from '#test/make.ts'
import { home } from '#test/server.ts'
import { backUp, restoreInto } from './back-up.ts'
import { drill } from './drill.ts'
import { moveEvidence } from './move-evidence.ts'
import { openStore } from './store.ts'
import { mendData, verifyData } from './verify-data.ts'

const { store, place: elsewhere } = withStore()

/** Moves it as the command does, and starts anew as a server would. */
async function moved(of: Shop, to: EvidencePlace, takeAway = false) {
  const told = await moveEvidence(of.services.data, to, takeAway)
  Object.assign(of.services, { evidence: evidenceOf(of.services.data) })
  return [told.copied, told.there, told.takenAway]
}
const inFolder = (of: Shop): number => readdirSync(evidenceFolder(of.services.data)).length
async function attached(of: Shop, key: string, words: string): Promise<string> {
  const { url } = await of.tester.ask(addFile, {
    query: { ref: key, name: `${words}.txt` },
    file: words,
    mime: 'text/plain',
  })
  return url.replace('/api/v1', '')
}
const shown = async (of: Shop, url: string): Promise<string> => {
  const { status, body } = await of.viewer.send('GET', url)
  return status === 200 ? String(body) : `${status} ${body.detail}`
}
const problemsOf = async (of: Shop): Promise<string[]> =>
  (await verifyData({ db: of.db, close: () => undefined }, of.services.data)).filter((each) =>
    each.startsWith('evidence'),
  )
const refusalOf = (work: Promise<unknown>): Promise<string> => work.then(() => 'done', String)

it('moves evidence into a bucket and back, and people see it wherever it is', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const before = await attached(of, key, 'from before')
  expect(await moved(of, elsewhere())).to.deep.equal([1, 0, 0])
  const after = await attached(of, key, 'from afterwards')
  expect([inFolder(of), store().kept.size]).to.deep.equal([1, 2])
  expect(await moved(of, elsewhere(), true)).to.deep.equal([0, 1, 1])
  expect([inFolder(of), store().kept.size]).to.deep.equal([0, 2])
  expect([await shown(of, before), await shown(of, after)]).to.deep.equal(['from before', 'from afterwards'])
  expect(await problemsOf(of)).to.deep.equal([])
  expect(await moved(of, 'folder', true)).to.deep.equal([2, 0, 2])
  expect([inFolder(of), store().kept.size]).to.deep.equal([2, 0])
  expect([await shown(of, before), await shown(of, after)]).to.deep.equal(['from before', 'from afterwards'])
  expect(await refusalOf(moveEvidence(of.services.data, 'folder', false))).to.match(/is in its folder already/)
})
it('moves nothing where a piece is not what its name says, or the store does not take it', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  const url = await attached(of, key, 'words')
  store().manner.refuse = 9
  expect(await refusalOf(moveEvidence(of.services.data, elsewhere(), true))).to.match(/did not tell what it holds/)
  store().manner.refuse = 0
  const [name = ''] = readdirSync(evidenceFolder(of.services.data))
  writeFileSync(join(evidenceFolder(of.services.data), name), 'other words')
  expect(await refusalOf(moveEvidence(of.services.data, elsewhere(), true))).to.match(/has other bytes than its name/)
  expect([evidencePlaceOf(of.services.data), store().kept.size, inFolder(of)]).to.deep.equal(['folder', 0, 1])
  expect(await shown(of, url)).to.equal('other words')
})
it('stores nothing, and says so, while the store does not take a file', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await moved(of, elsewhere())
  store().manner.refuse = 9
  const refused = await of.tester.refused(addFile, {
    query: { ref: key, name: 'a.txt' },
    file: 'a',
    mime: 'text/plain',
  })
  expect([refused.status, refused.detail.slice(0, 55)]).to.deep.equal([
    503,
    'The store where evidence is kept did not take the file,',
  ])
  const storage = await makeAdministrator(of).ask(readStorage)
  expect([storage.files, storage.filesProblem?.slice(0, 52)]).to.deep.equal([
    0,
    'The store where evidence is kept did not tell what i',
  ])
  store().manner.refuse = 0
  const held = of.db.$client.prepare('select count(*) from attachment').pluck().get()
  expect([held, store().kept.size, inFolder(of), await problemsOf(of)]).to.deep.equal([0, 0, 0, []])
})
it('finds what is missing, changed or named by nothing in a bucket, and takes the last away', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays')
  await moved(of, elsewhere())
  const [gone, other] = [await attached(of, key, 'gone'), await attached(of, key, 'changed')]
  const names = [...store().kept.keys()]
  store().kept.delete(names[0] ?? '')
  store().kept.set(names[1] ?? '', { bytes: Buffer.from('!'), at: new Date() })
  store().kept.set(`tarnsey/evidence/${'e'.repeat(64)}`, { bytes: Buffer.from('?'), at: new Date(0) })
  const found = async () => (await problemsOf(of)).map((each) => each.replace(/[0-9a-f]{64}/, '…').split(';')[0]).sort()
  const still = ['evidence …: the file has other bytes than were stored', 'evidence …: the file is missing']
  expect(await found()).to.deep.equal([...still, 'evidence: 1 files that nothing names, first …'])
  await mendData({ db: of.db, close: () => undefined }, of.services.data)
  expect(await found()).to.deep.equal(still)
  expect(await shown(of, gone)).to.match(/^404 The file of this evidence is not where it is kept/)
  expect(await shown(of, other)).to.not.equal('changed')
})
it('is whole in a backup and in an archive, also when it is elsewhere', async () => {
  const [data, out, back] = [0, 1, 2].map(() => mkdtempSync(join(tmpdir(), 'rovant-data-'))) as [string, string, string]
  const of = shop()
  await moved(of, elsewhere())
  await attached(of, await makeCase(of.tester, 'Pays'), 'words')
  const archive = join(out, 'shop.zip')
  const { attachments } = await writeArchive({ db: of.db, close: () => undefined }, of.services.data, 'SHOP', archive)
  expect(attachments).to.equal(1)
  const own = openStore(data, home)
  await moveEvidence(data, elsewhere(), false)
  store().kept.clear()
  await readArchive(own, data, 'COPY', readFileSync(archive))
  own.close()
  expect([store().kept.size, readdirSync(evidenceFolder(data))]).to.deep.equal([1, []])
  expect((await backUp(data, join(out, 'copy'), { now: 0 })).files).to.equal(1)
  await store().stop()
  expect((await drill(join(out, 'copy'), home)).problems).to.deep.equal([])
  await restoreInto(join(out, 'copy'), back)
  expect([evidencePlaceOf(back), readdirSync(evidenceFolder(back)).length]).to.deep.equal(['folder', 1])
})
