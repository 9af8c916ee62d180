import { mkdtempSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { findPerson } from '#db/people/people.ts'
import { securityEvents } from '#db/people/security.ts'
import { shop } from '#test/app.ts'
import { keyOf, settleKey } from './key.ts'

describe('the key of the installation', () => {
  it('is made once, and for its owner alone', () => {
    const data = mkdtempSync(join(tmpdir(), 'rovant-key-'))
    const key = keyOf(data)
    expect([key.length, keyOf(data) === key]).to.deep.equal([64, true])
    expect(statSync(join(data, 'secret')).mode & 0o777).to.equal(0o600)
  })
  it('that is another one than before takes second factors away, which nobody could read, and says so', () => {
    const of = shop()
    const factor = () => findPerson(of.db, 'tester')?.twoFactorEnabled
    of.db.$client.prepare("update person set two_factor_enabled = 1 where id = 'tester'").run()
    settleKey(of.db, 'one', 1)
    settleKey(of.db, 'one', 2)
    expect([factor(), securityEvents(of.db, { limit: 9 }).length]).to.deep.equal([true, 0])
    settleKey(of.db, 'other', 3)
    expect(factor()).to.equal(false)
    expect(securityEvents(of.db, { limit: 9 }).map(({ told }) => told)).to.deep.equal([
      'The key of the installation is another one: sign-ins ended, sealed secrets are asked for again, 1 second factors were taken away',
    ])
  })
})
