import { BlockList, isIP, isIPv4, SocketAddress } from 'node:net'

/** The header in which the front door tells the rest of the server whom it talks to; what a client sends under this name is dropped. */
export const addressHeader = 'x-rovant-address'

/** What each request is called in the log; the door gives it, and answers it. */
export const requestHeader = 'x-request-id'

/** What a proxy says of whom it speaks for; believed of trusted ones alone. */
export const forwardedHeaders = [
  'forwarded',
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-port',
  'x-forwarded-proto',
]

/** An address as it is written: one of version 4 that came as one of version 6 is of version 4. */
export const plainAddress = (address: string): string => address.replace(/^::ffff:(?=\d+\.\d+\.\d+\.\d+$)/i, '')

export type Trusts = (address: string) => boolean

/** Whether an address is one of the proxies named, as addresses or as `10.0.0.0/8`. Throws a sentence about what is neither. */
export function trusting(named: readonly string[]): Trusts {
  const list = new BlockList()
  for (const each of named) {
    const [address = '', bits] = each.split('/')
    const type = isIPv4(address) ? 'ipv4' : 'ipv6'
    const most = type === 'ipv4' ? 32 : 128
    const length = bits === undefined ? most : Number(bits)
    if (isIP(address) === 0 || !Number.isInteger(length) || length < 0 || length > most)
      throw new RangeError(`${each} is no address of a proxy; write it as 10.0.0.7 or 10.0.0.0/8.`)
    list.addSubnet(address, length, type)
  }
  return (address) => isIP(address) !== 0 && list.check(address, isIPv4(address) ? 'ipv4' : 'ipv6')
}

/**
 * Who really asks: the peer, unless it is a trusted proxy; then the last of those it names that is none itself.
 * `forwarded` is the header `X-Forwarded-For`, in which each proxy writes whom it heard, at the end.
 */
export function realAddress(peer: string, forwarded: string | undefined, trusts: Trusts): string {
  const before = (forwarded ?? '')
    .split(',')
    .map((each) => plainAddress(each.trim()))
    .filter((each) => isIP(each) !== 0)
  let address = plainAddress(peer)
  while (trusts(address)) {
    const next = before.pop()
    if (next === undefined) break
    address = next
  }
  return address
}

/** What counts as one caller: an address of version 4, or the network of 64 bits that one of version 6 is from. */
export function callerOf(address: string): string {
  if (isIP(address) !== 6) return address
  const groups = new SocketAddress({ address, family: 'ipv6' }).address.split('%')[0]?.split('::') ?? []
  const [head = [], tail = []] = groups.map((part) => part.split(':').filter((each) => each !== ''))
  const whole =
    groups.length === 1 ? head : [...head, ...Array<string>(8 - head.length - tail.length).fill('0'), ...tail]
  return `${whole.slice(0, 4).join(':')}::/64`
}
