import { expect } from 'chai'
import { newMetrics, placeOf, serveMetrics } from './metrics.ts'

const answered = { id: '1', method: 'GET', path: '/api/v1/projects/FERRY/cases', status: 200, ms: 12, address: '' }

describe('metrics', () => {
  it('count by place, never by key or id', () => {
    expect(
      ['/api/v1/projects/FERRY/cases/TC-15', '/api/v1/me', '/p/FERRY/TC-15', '/_astro/x.js', '/healthz'].map(placeOf),
    ).to.deep.equal(['api cases', 'api', 'page', 'file', 'page'])
  })
  it('tell requests and their times in the usual text format, at one address alone', async () => {
    const metrics = newMetrics()
    for (const ms of [3, 12, 700]) metrics.count({ ...answered, ms })
    metrics.count({ ...answered, path: '/p/FERRY/TC-15', status: 404 })
    metrics.stalled({ ms: 300, cpu: 290, by: ['replaceText'], memory: 0 })
    const server = await serveMetrics(metrics, 0)
    const bound = server.address()
    const url = `http://127.0.0.1:${typeof bound === 'object' && bound ? bound.port : 0}`
    const text = await (await fetch(`${url}/metrics`)).text()
    expect(text).to.contain('rovant_requests_total{method="GET",place="api cases",status="200"} 3')
    expect(text).to.contain('rovant_requests_total{method="GET",place="page",status="404"} 1')
    expect(text).to.contain('rovant_request_seconds_bucket{le="0.025",place="api cases"} 2')
    expect(text).to.contain('rovant_stall_seconds_bucket{le="0.5"} 1')
    expect(text).to.contain('rovant_stall_seconds_bucket{le="0.25"} 0')
    expect(text).to.match(/^rovant_nodejs_eventloop_lag_seconds /m)
    expect(text).to.not.contain('TC-15')
    expect((await fetch(`${url}/other`)).status).to.equal(404)
    server.close()
    server.closeAllConnections()
  })
})
