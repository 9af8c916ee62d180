import { readFileSync } from 'node:fs'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { shop } from '#test/app.ts'
import { home } from '../../../test/server.ts'
import { takeNumbers } from './projects.ts'
import { counter } from './tables.ts'

describe('the numbers of keys', () => {
  it('go on from what a database has counted by its prefix, and are never given twice', () => {
    const own = shop()
    const project = own.project().id
    own.db.insert(counter).values({ projectId: project, prefix: 'TC', next: 501 }).run()
    expect([takeNumbers(own.db, project, 'case'), takeNumbers(own.db, project, 'case', 10)]).to.deep.equal([501, 502])
    expect(takeNumbers(own.db, project, 'case')).to.equal(512)
    expect(takeNumbers(own.db, project, 'run')).to.equal(1)
  })
  it('counted under the name of the kind meanwhile are counted on under the prefix, from the greater', () => {
    const own = shop()
    const project = own.project().id
    const count = (prefix: string, next: number) =>
      own.db.insert(counter).values({ projectId: project, prefix, next }).run()
    count('TC', 50)
    count('case', 9)
    count('plan', 4)
    const migration = readFileSync(`${home}/src/db/migrations/0007_counters_by_prefix.sql`, 'utf8')
    for (const statement of migration.split('--> statement-breakpoint')) own.db.run(sql.raw(statement))
    expect(own.db.select().from(counter).all()).to.have.deep.members([
      { projectId: project, prefix: 'TC', next: 50 },
      { projectId: project, prefix: 'PL', next: 4 },
    ])
  })
})
