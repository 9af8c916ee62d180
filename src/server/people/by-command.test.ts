import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { migrationsFolder, openDatabase } from '#db/open.ts'
import { addPerson } from '#db/people/people.ts'
import { upgrade } from '#db/upgrade.ts'
import { home } from '#test/server.ts'
import { byCommand } from './by-command.ts'

describe('a command at the machine', () => {
  it('keeps others from writing between what it reads and what it writes: two at once both come through', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'rovant-command-')), 'rovant.db')
    const [one, other] = [openDatabase(file), openDatabase(file)]
    upgrade(one, migrationsFolder(home))
    addPerson(
      one,
      { id: 'tobin', name: 'Tobin Rask', email: 'tobin@tarnsey.example', administrator: false, passwordHash: null },
      1,
    )
    other.$client.pragma('busy_timeout = 0')
    const write = () => other.$client.prepare('update person set name = name').run()
    const told = { kind: 'token' as const, told: () => 'told' }
    expect(() => byCommand(one, 'Tobin Rask', told, write)).to.throw(/database is locked/)
    expect(byCommand(one, 'Tobin Rask', told, (_, { id }) => id)).to.equal('tobin')
    write()
    one.$client.close()
    other.$client.close()
  })
  it('says that there is nobody of that name', () => {
    const db = openDatabase(':memory:')
    upgrade(db, migrationsFolder(home))
    expect(() => byCommand(db, 'Nobody', { kind: 'token', told: () => '' }, () => 1)).to.throw(
      'There is nobody called Nobody here.',
    )
  })
})
