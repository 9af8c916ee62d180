import { lookup } from 'node:dns/promises'
import { type IncomingMessage, request as askHttp, type RequestOptions } from 'node:http'
import { request as askHttps } from 'node:https'
import { BlockList, isIPv4 } from 'node:net'
import { plainAddress } from '#server/http/address.ts'

/** Why somebody outside could not be asked, as the end of a sentence that begins with their name. */
export class OutsideProblem extends Error {}

export interface OutsideAsk {
  readonly url: URL
  readonly headers: Readonly<Record<string, string>>
  /** Hosts that may be asked although they are inside: an administrator named them. */
  readonly allowed: readonly string[]
}
export interface OutsideAnswer {
  readonly status: number
  readonly text: string
}

const patience = 8000
const mostBytes = 2_000_000

/** Networks that are not the outside: this machine, its own and other private networks, and what is set apart (RFC 6890). */
const inside = new BlockList()
for (const [network, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(network, bits, 'ipv4')
for (const [network, bits] of [
  ['::', 127],
  ['64:ff9b::', 96],
  ['2002::', 16],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(network, bits, 'ipv6')

export const isInside = (address: string): boolean => {
  const plain = plainAddress(address)
  return inside.check(plain, isIPv4(plain) ? 'ipv4' : 'ipv6')
}

/** A host as an address names it, an address of version 6 without its brackets. */
export const hostOf = (url: URL): string => url.hostname.replace(/^\[|\]$/g, '')

/**
 * Asks somebody outside by GET. The name is resolved once, every address it has is looked at, and the connection goes to the one that
 * was looked at; nothing is followed elsewhere, and an answer is cut while it is read. Throws `OutsideProblem`.
 */
export async function askOutside({ url, headers, allowed }: OutsideAsk): Promise<OutsideAnswer> {
  const address = await addressOf(hostOf(url), allowed)
  const signal = AbortSignal.timeout(patience)
  try {
    const answer = await send(url, { headers: { ...headers, connection: 'close' }, signal, ...pinnedTo(address) })
    return { status: answer.statusCode ?? 0, text: await textOf(answer) }
  } catch (error) {
    if (error instanceof OutsideProblem) throw error
    throw new OutsideProblem(
      signal.aborted ? `did not answer within ${patience / 1000} seconds` : 'cannot be reached',
      { cause: error },
    )
  }
}

interface Address {
  readonly address: string
  readonly family: number
}

async function addressOf(host: string, allowed: readonly string[]): Promise<Address> {
  const found = await lookup(host, { all: true }).catch(() => [])
  const [first] = found
  if (!first) throw new OutsideProblem('cannot be reached: its name stands for no address')
  if (!allowed.includes(host) && found.some(({ address }) => isInside(address)))
    throw new OutsideProblem(
      `is at ${host}, which is inside this network; an administrator can allow that very host to be asked`,
    )
  return first
}

/** The name is not asked for again: it might stand for another address by then. */
const pinnedTo = (of: Address): Pick<RequestOptions, 'lookup'> => ({
  lookup: (_host, options, told) => (options.all ? told(null, [of]) : told(null, of.address, of.family)),
})

const send = (url: URL, options: RequestOptions): Promise<IncomingMessage> =>
  new Promise((resolve, reject) => {
    const ask = url.protocol === 'https:' ? askHttps : askHttp
    ask(url, options, resolve).on('error', reject).end()
  })

async function textOf(answer: IncomingMessage): Promise<string> {
  const parts: Buffer[] = []
  let size = 0
  for await (const part of answer as AsyncIterable<Buffer>) {
    size += part.length
    if (size > mostBytes) throw new OutsideProblem('answered more than can be read')
    parts.push(part)
  }
  return Buffer.concat(parts).toString('utf8')
}
