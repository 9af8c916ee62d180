import { expect } from 'chai'
import { type Contract, leastRole } from '#core/lib/contract.ts'
import { prefixes } from '#core/lib/key.ts'
import { type Shop, shop } from '#test/app.ts'
import { contracts } from './routes.ts'

const ranks: Readonly<Record<string, number>> = { viewer: 1, tester: 2, lead: 3 }
const nothing = '99999'

/** The address of something that is not there: a request that may be asked gets as far as that. */
function addressOf(contract: Contract): string {
  const station = /^\/projects\/:key\/(\w+)/.exec(contract.path)?.[1] ?? ''
  const kind = (Object.keys(prefixes) as (keyof typeof prefixes)[]).find((each) => station.startsWith(each))
  return contract.path
    .replace(':key', 'SHOP')
    .replace(':ref', `${kind ? prefixes[kind] : 'RQ'}-${nothing}`)
    .replace(/:\w+/g, nothing)
}

const ask = (of: Shop, who: string | null, contract: Contract) =>
  of.ask(contract.method, addressOf(contract), contract.method === 'GET' ? undefined : {}, {
    'if-match': '1',
    ...(who !== null && { 'x-test-person': who }),
  })

it('asks of every endpoint of a project exactly the role it names', async () => {
  const of = shop()
  const asked = contracts.filter((each) => leastRole(each) in ranks && each.path.startsWith('/projects/:key'))
  expect(asked.length).to.be.greaterThan(150)
  for (const contract of asked) {
    const least = ranks[leastRole(contract)] ?? 0
    for (const [role, rank] of Object.entries(ranks)) {
      const { status } = await ask(of, role, contract)
      if (rank < least) expect(status, `${contract.name} as ${role}`).to.equal(403)
      else expect(status, `${contract.name} as ${role}`).to.not.be.oneOf([401, 403, 500])
    }
  }
})
it('lets nobody in who has not signed in, but where the contract is open', async () => {
  const of = shop()
  for (const contract of contracts) {
    const { status } = await ask(of, null, contract)
    if (contract.permission === 'open') expect(status, contract.name).to.not.be.oneOf([403, 404, 500])
    else expect(status, contract.name).to.equal(401)
  }
})
it('answers people of other projects as if the project were not there', async () => {
  const of = shop()
  for (const contract of contracts.filter(({ path }) => path.includes(':key')))
    expect((await ask(of, 'stranger', contract)).status, contract.name).to.equal(404)
})
it('asks for the version of what is edited, and says which header names it', async () => {
  const of = shop()
  const versioned = contracts.filter((contract) => contract.versioned)
  expect(versioned.length).to.be.greaterThan(5)
  for (const contract of versioned) {
    const answer = await of.ask(contract.method, addressOf(contract), {}, { 'x-test-person': 'lead' })
    expect([answer.status, answer.body.detail], contract.name).to.deep.equal([
      428,
      'Name the version this edit was made against in If-Match.',
    ])
  }
})
