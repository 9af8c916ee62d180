/** Is this something with named parts? What came from outside is asked before it is read by name. */
export const isRecord = (of: unknown): of is Readonly<Record<string, unknown>> =>
  typeof of === 'object' && of !== null && !Array.isArray(of)

/** The part of that name, of whatever this is; `undefined` when it has no such part. */
export const partOf = (of: unknown, name: string): unknown => (isRecord(of) ? of[name] : undefined)

/** The version a stored object names; 0 when it names none. */
export function versionIn(of: unknown): number {
  const version = Number(partOf(of, 'version') ?? 0)
  return Number.isNaN(version) ? 0 : version
}
