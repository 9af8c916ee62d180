import { isRecord } from '#core/lib/record.ts'

// What a column of text holds as JSON is unknown until it is looked at, like a row of raw SQL. An empty text holds nothing.

const refuse = (json: string, wanted: string): never => {
  throw new Error(`a column holds ${json.slice(0, 120)}, not ${wanted}`)
}

/** Something with named parts. */
export function recordIn(json: string): Readonly<Record<string, unknown>> {
  const read: unknown = JSON.parse(json)
  return isRecord(read) ? read : refuse(json, 'a record')
}

function listIn<Value>(json: string, holds: (value: unknown) => value is Value, wanted: string): Value[] {
  if (json === '') return []
  const read: unknown = JSON.parse(json)
  return Array.isArray(read) && read.every(holds) ? read : refuse(json, wanted)
}

const isText = (value: unknown): value is string => typeof value === 'string'
const isNumber = (value: unknown): value is number => typeof value === 'number'

export const textsIn = (json: string): string[] => listIn(json, isText, 'a list of texts')
export const numbersIn = (json: string): number[] => listIn(json, isNumber, 'a list of numbers')

/** Texts by name: a row of data, the values given to a routine. */
export function valuesIn(json: string): Record<string, string> {
  if (json === '') return {}
  const read = recordIn(json)
  if (!holdsTexts(read)) return refuse(json, 'texts by name')
  return read
}

const holdsTexts = (read: object): read is Record<string, string> => Object.values(read).every(isText)
