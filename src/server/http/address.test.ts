import { expect } from 'chai'
import fc from 'fast-check'
import { callerOf, realAddress, trusting } from './address.ts'

const proxies = trusting(['10.0.0.0/8', '2001:db8::1'])

it('takes the peer for who asks, whatever it says of itself, unless it is a trusted proxy', () => {
  expect(realAddress('203.0.113.9', '198.51.100.1', proxies)).to.equal('203.0.113.9')
  expect(realAddress('10.1.2.3', '198.51.100.1', proxies)).to.equal('198.51.100.1')
  expect(realAddress('::ffff:10.1.2.3', '198.51.100.1', proxies)).to.equal('198.51.100.1')
  expect(realAddress('2001:db8::1', '198.51.100.1', proxies)).to.equal('198.51.100.1')
})
it('believes the last that is no proxy: what a client wrote before it is its own tale', () => {
  expect(realAddress('10.0.0.1', '1.2.3.4, 198.51.100.1, 10.0.0.2', proxies)).to.equal('198.51.100.1')
  expect(realAddress('10.0.0.1', '', proxies)).to.equal('10.0.0.1')
  expect(realAddress('10.0.0.1', 'nonsense, <script>', proxies)).to.equal('10.0.0.1')
})
it('never lets what a client says choose its address', () => {
  fc.assert(
    fc.property(fc.ipV4(), fc.string(), (peer, said) => {
      expect(realAddress(peer, said, trusting([]))).to.equal(peer)
    }),
  )
})
it('says what is no address of a proxy', () => {
  for (const wrong of ['proxy.example', '10.0.0.0/33', '10.0.0.0/x', ''])
    expect(() => trusting([wrong]), wrong).to.throw(RangeError, 'is no address of a proxy')
})
it('counts a network of version 6 as one caller, however its addresses are written', () => {
  expect(callerOf('203.0.113.9')).to.equal('203.0.113.9')
  expect(callerOf('2001:db8:1:2:3:4:5:6')).to.equal('2001:db8:1:2::/64')
  expect(callerOf('2001:db8:1:2::77')).to.equal('2001:db8:1:2::/64')
  expect(callerOf('2001:db8::77')).to.equal('2001:db8:0:0::/64')
  expect(callerOf('::1')).to.equal('0:0:0:0::/64')
})
