import { startStore } from '../standins/store/main.ts'

type Store = Awaited<ReturnType<typeof startStore>>
const keys = ['AWS_ACCESS_KEY_ID', 'AWS_SECRET_ACCESS_KEY'] as const

/** A store of the stand-in for the tests of a file, empty and well-behaved before each; `place` is a bucket in it. */
export function withStore(): {
  readonly store: () => Store
  readonly place: () => { bucket: string; prefix: string; region: string; endpoint: string }
} {
  const before_ = keys.map((name) => process.env[name])
  let store: Store | null = null
  const running = (): Store => {
    if (!store) throw new Error('the store is not started yet')
    return store
  }
  before(async () => {
    store = await startStore('HARBOUR')
    for (const name of keys) process.env[name] = 'HARBOUR'
  })
  beforeEach(() => {
    running().kept.clear()
    Object.assign(running().manner, { refuse: 0, page: 1000, cut: false })
  })
  after(async () => {
    keys.forEach((name, at) => {
      if (before_[at] === undefined) delete process.env[name]
      else process.env[name] = before_[at]
    })
    await running().stop()
  })
  return {
    store: running,
    place: () => ({ bucket: 'tarnsey', prefix: 'evidence/', region: 'us-east-1', endpoint: running().url }),
  }
}
