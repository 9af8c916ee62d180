import { appendFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { addProject } from '#db/projects/projects.ts'
import { databaseFile, evidenceFolder } from '#db/open.ts'
import { home } from '#test/server.ts'
import { drill } from './drill.ts'
import { backUpNow, isDue, type Keeping } from './scheduled-backups.ts'
import { openStore } from './store.ts'

const hour = 3_600_000
const start = Date.UTC(2026, 10, 23, 9)

function scheduled(): Keeping {
  const data = mkdtempSync(join(tmpdir(), 'rovant-data-'))
  mkdirSync(evidenceFolder(data), { recursive: true })
  const store = openStore(data, home)
  addProject(store.db, { key: 'SHOP', name: 'Shop', product: 'Till', createdAt: 1 })
  store.close()
  const into = join(mkdtempSync(join(tmpdir(), 'rovant-backups-')), 'nightly')
  return { data, into, keep: 3, home }
}

describe('backups on a schedule', () => {
  it('are due at first, and again after so many hours', async () => {
    const of = scheduled()
    expect(await isDue(of.into, 6, start)).to.equal(true)
    await backUpNow(of, start)
    expect([await isDue(of.into, 6, start + 6 * hour - 1), await isDue(of.into, 6, start + 6 * hour)]).to.deep.equal([
      false,
      true,
    ])
  })
  it('are each tried, and the oldest beyond those that are kept go', async () => {
    const of = scheduled()
    for (let n = 0; n < 5; n++) await backUpNow(of, start + n * 6 * hour)
    expect(readdirSync(of.into)).to.deep.equal([
      'rovant-2026-11-23T21-00-00',
      'rovant-2026-11-24T03-00-00',
      'rovant-2026-11-24T09-00-00',
    ])
    const { problems, projects } = await drill(join(of.into, 'rovant-2026-11-24T09-00-00'), home)
    expect([problems, projects]).to.deep.equal([[], 1])
  })
  it('leave nothing of a drill, and are refused by it when they were changed since', async () => {
    const of = scheduled()
    const out = await backUpNow(of, start)
    const scratches = () => readdirSync(tmpdir()).filter((name) => name.startsWith('rovant-drill-')).length
    const before = scratches()
    appendFileSync(databaseFile(out), 'x')
    const error = await drill(out, home).catch((refused: unknown) => refused)
    expect(String(error)).to.match(/the database is not the one that was backed up/)
    expect(scratches()).to.equal(before)
  })
  it('that are not sound push no older one out', async () => {
    const of = scheduled()
    await backUpNow(of, start)
    const store = openStore(of.data, home)
    // Evidence that the database speaks of and that is nowhere.
    store.db.$client
      .prepare(
        `insert into attachment (project_id, owner_kind, owner_id, name, mime, size, hash, at)
         values (1, 'case', 1, 'a.png', 'image/png', 4, 'nowhere', 1)`,
      )
      .run()
    store.close()
    for (let n = 1; n < 5; n++) {
      const error = await backUpNow(of, start + n * hour).catch((refused: unknown) => refused)
      expect(String(error)).to.match(/is not sound/)
    }
    expect(existsSync(join(of.into, 'rovant-2026-11-23T09-00-00'))).to.equal(true)
    expect(readdirSync(of.into).filter((name) => name.endsWith('.not-sound'))).to.have.length(4)
  })
})
