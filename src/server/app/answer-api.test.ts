import { expect } from 'chai'
import { memoryApp } from '#test/app.ts'
import { routerOf } from './answer-api.ts'
import { contracts, routes } from './routes.ts'

it('gives every endpoint a name of its own, and its own method and path lead to it', () => {
  const find = routerOf(routes)
  expect(new Set(contracts.map(({ name }) => name)).size).to.equal(contracts.length)
  for (const route of routes) {
    const path = route.contract.path.replace(/:\w+/g, 'x1')
    expect(find(route.contract.method, path)?.route.contract.name, path).to.equal(route.contract.name)
  }
})
it('answers an address that leads nowhere with a problem that says where to look', async () => {
  const app = memoryApp()
  const answer = await app.ask('GET', '/nowhere')
  expect(answer.status).to.equal(404)
  expect(answer.headers.get('content-type')).to.equal('application/problem+json')
  expect(answer.body.detail).to.equal('There is no /api/v1/nowhere here; /api/v1/openapi.json says what can be asked.')
})
it('says by which methods an address may be asked', async () => {
  const answer = await memoryApp().ask('PUT', '/me', {})
  expect([answer.status, answer.body.detail]).to.deep.equal([405, '/api/v1/me is asked with GET, PATCH, not with PUT.'])
})
it('reads a path that cannot be decoded as one that leads nowhere', async () => {
  expect((await memoryApp().ask('GET', '/projects/%E0%A4%A/cases')).status).to.equal(404)
})
it('describes every endpoint it has', async () => {
  const { body } = await memoryApp().ask('GET', '/openapi.json')
  const described = Object.values<object>(body.paths).flatMap((methods) => Object.keys(methods))
  expect(described).to.have.length(contracts.length)
})
