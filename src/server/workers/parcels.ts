import { setImmediate } from 'node:timers/promises'
import { deserialize, serialize } from 'node:v8'

/** A long list, packed in parts, so that who takes it from another thread does not stop for all of it; `types` is never set. */
export interface Parcels<T> {
  readonly parts: readonly Uint8Array[]
  readonly types?: () => T
}

const size = 100

export const packed = <T>(rows: readonly T[]): Parcels<T> => ({
  parts: Array.from({ length: Math.ceil(rows.length / size) }, (_, at) =>
    serialize(rows.slice(at * size, (at + 1) * size)),
  ),
})

/** The list again; between two parts everybody else gets a turn. */
export async function unpacked<T>({ parts }: Parcels<T>): Promise<T[]> {
  const rows: T[] = []
  for (const part of parts) {
    // It is what `packed` was given.
    rows.push(...(deserialize(part) as T[]))
    await setImmediate()
  }
  return rows
}
