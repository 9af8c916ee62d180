import { z } from 'zod'
import type { Tx } from '#db/open.ts'
import { readSetting, writeSetting } from './settings.ts'

const name = 'hosts inside that may be asked'
const shape = z.array(z.string())

/** Hosts of the own network that an administrator allows to be asked: a tracker in the house, say. */
export function hostsInside(tx: Tx): string[] {
  const kept = readSetting(tx, name)
  return kept === null ? [] : shape.parse(JSON.parse(kept))
}

export const keepHostsInside = (tx: Tx, hosts: readonly string[]): void =>
  writeSetting(tx, name, hosts.length === 0 ? null : JSON.stringify([...new Set(hosts)].sort()))
