import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { text } from 'node:stream/consumers'
import { expect } from 'chai'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'
import { evidenceFolder } from '#db/open.ts'
import { withStore } from '#test/evidence-elsewhere.ts'
import { comeIn, dropComing } from './coming.ts'
import { evidencePlaceOf, noteEvidencePlace, storeAt } from './evidence-place.ts'

const { store, place: elsewhere } = withStore()
const folder = () => mkdtempSync(join(tmpdir(), 'rovant-evidence-'))
const hashOf = (content: string) => createHash('sha256').update(content).digest('hex')
const bring = async (data: string, into: EvidenceStore, content: string) => {
  const { file, hash } = await comeIn(data, Readable.from([Buffer.from(content)]))
  await into.put(hash, file)
  return hash
}
const wordsOf = async (parts: AsyncIterable<Uint8Array> | null) => (parts ? text(parts) : null)
const refusalOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? `${error.code}: ${error.sentence}` : `broke: ${String(error)}`),
  )
async function listed(of: EvidenceStore): Promise<string[]> {
  const names = []
  for await (const { hash, bytes, at } of of.list()) {
    expect(Math.abs(Date.now() - at)).to.be.lessThan(120_000)
    names.push(`${hash}:${bytes}`)
  }
  return names.sort()
}

for (const [what, placeOf] of [
  ['a folder', () => 'folder' as const],
  ['a bucket', elsewhere],
] as const)
  describe(`evidence in ${what}`, () => {
    it('gives back what it took in, once however often it came, until it is taken away', async () => {
      const data = folder()
      const of = storeAt(data, placeOf())
      expect(await listed(of)).to.deep.equal([])
      const [one, two] = [await bring(data, of, 'one'), await bring(data, of, 'the other')]
      await bring(data, of, 'one')
      expect(await listed(of)).to.deep.equal([`${one}:3`, `${two}:9`].sort())
      expect([await wordsOf(await of.read(one)), await wordsOf(await of.read(two))]).to.deep.equal(['one', 'the other'])
      await of.remove(one)
      await of.remove(one)
      expect([await of.read(one), await listed(of)]).to.deep.equal([null, [`${two}:9`]])
      expect(readdirSync(evidenceFolder(data)).filter((name) => name.startsWith('coming-'))).to.deep.equal([])
    })
  })

it('shows no file that is still coming in, and takes away those that were cut off', async () => {
  const data = folder()
  const cutOff = async function* () {
    yield Buffer.from('half')
    throw new Error('the line was cut')
  }
  expect(await refusalOf(comeIn(data, cutOff()))).to.match(/the line was cut/)
  expect(readdirSync(evidenceFolder(data))).to.deep.equal([])
  const { file } = await comeIn(data, Readable.from([Buffer.from('whole')]))
  expect([await listed(storeAt(data, 'folder')), existsSync(file)]).to.deep.equal([[], true])
  dropComing(data)
  expect(existsSync(file)).to.equal(false)
})
it('reads a list of many pages to its end', async () => {
  const data = folder()
  const of = storeAt(data, elsewhere())
  const hashes = await Promise.all(['a', 'b', 'c', 'd', 'e'].map((each) => bring(data, of, each)))
  store().manner.page = 2
  expect(await listed(of)).to.deep.equal(hashes.map((hash) => `${hash}:1`).sort())
})
it('keeps what others put into the bucket apart', async () => {
  const data = folder()
  store().kept.set('tarnsey/other/thing', { bytes: Buffer.from('x'), at: new Date() })
  expect(await listed(storeAt(data, elsewhere()))).to.deep.equal([])
})
it('tries again, and says so where the store does not take a file or does not answer', async () => {
  const data = folder()
  const of = storeAt(data, elsewhere())
  const hash = await bring(data, of, 'one')
  store().manner.refuse = 1
  expect(await wordsOf(await of.read(hash))).to.equal('one')
  store().manner.refuse = 2
  await bring(data, of, 'one')
  store().manner.refuse = 9
  const refused = /^not-reached: The store where evidence is kept did not .*Too much is asked at once/
  expect(await refusalOf(of.read(hash))).to.match(refused)
  expect(await refusalOf(bring(data, of, 'another'))).to.match(refused)
  expect(await refusalOf(listed(of))).to.match(refused)
  store().manner.refuse = 0
  expect([await listed(of), readdirSync(evidenceFolder(data))]).to.deep.equal([[`${hash}:3`], []])
  const nobody = storeAt(data, { ...elsewhere(), endpoint: 'http://127.0.0.1:9' })
  expect(await refusalOf(nobody.read(hash))).to.match(/^not-reached: .*ECONNREFUSED/)
})
it('is refused by the store under a hash that is not that of the bytes', async () => {
  const data = folder()
  const { file } = await comeIn(data, Readable.from([Buffer.from('one')]))
  expect(await refusalOf(storeAt(data, elsewhere()).put(hashOf('two'), file))).to.match(/^not-reached: .*hash was told/)
  expect(store().kept.size).to.equal(0)
})
it('does not take half of a file for the whole', async () => {
  const data = folder()
  const of = storeAt(data, elsewhere())
  const hash = await bring(data, of, 'x'.repeat(100_000))
  store().manner.cut = true
  expect(await refusalOf(of.read(hash).then(wordsOf))).to.match(/^broke: .*aborted/)
})
it('is where the note in the data directory says, and a note that says nothing is told', async () => {
  const data = folder()
  expect(evidencePlaceOf(data)).to.equal('folder')
  await noteEvidencePlace(data, elsewhere())
  expect(evidencePlaceOf(data)).to.deep.equal(elsewhere())
  await noteEvidencePlace(data, { bucket: '', prefix: '', region: '' })
  expect(() => evidencePlaceOf(data)).to.throw(Refusal, /does not say where evidence is kept/)
  await noteEvidencePlace(data, 'folder')
  expect([evidencePlaceOf(data), readdirSync(data)]).to.deep.equal(['folder', []])
})
