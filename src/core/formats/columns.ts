import { caseHeaders } from './case-words.ts'
import { neverRead, brief } from './header-words.ts'
import { requirementHeaders } from './requirement-words.ts'
import { type Contents, contentsOf } from './contents.ts'
import { plainly } from './plain-word.ts'

export type What = 'requirements' | 'cases'
/** Fields a column may be read as; a field of the project's own is `custom:` and its name. */
export const fieldsOf = (what: What): readonly string[] =>
  Object.keys(what === 'requirements' ? requirementHeaders : caseHeaders)

/** The fields each word stands for, in the order of the fields. */
type Known = ReadonlyMap<string, readonly string[]>
function fieldsByWord(of: Readonly<Record<string, readonly string[]>>): Known {
  const known = new Map<string, string[]>()
  for (const [field, words] of Object.entries(of))
    for (const word of new Set(words.map(plainly))) known.set(word, [...(known.get(word) ?? []), field])
  return known
}
const headers = { requirements: fieldsByWord(requirementHeaders), cases: fieldsByWord(caseHeaders) }
const never = new Set(neverRead.map(plainly))
const inNeed = new Set(brief.map(plainly))

/** A header as it may be understood: whole, or the parts of one in two languages or over two rows. */
function readings(header: string): string[] {
  const parts = header.split(/[\n\r/|]+/)
  return [...new Set([header, ...parts].map(plainly))].filter((reading) => reading !== '')
}

/** Scripts that part no words: there a word may stand anywhere within another. */
const unparted = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u
/** Words that mean a field by themselves, and much else within others. */
const tooCommon = new Set(
  [
    'result',
    'name',
    'test',
    'type',
    'typ',
    'data',
    'daten',
    'input',
    'time',
    'zeit',
    'step',
    'schritt',
    'case',
    'text',
    'steps',
  ].map(plainly),
)

/** No header is longer; what is, is a sentence. */
const longestHeader = 120
/** The longest phrase in words, or in letters of a script that parts none. */
const longestPhrase = 6
const longestUnparted = 10

/** Words that stand within a header, each with how much of it they are. */
function wordsWithin(reading: string): { word: string; room: number }[] {
  const found: { word: string; room: number }[] = []
  const take = (word: string) => void found.push({ word, room: word.length / reading.length })
  const tokens = reading.split(' ')
  for (const [start, end] of stretches(tokens.length, 1, longestPhrase)) {
    const phrase = tokens.slice(start, end).join(' ')
    if (phrase.length >= 4 && !tooCommon.has(phrase) && phrase !== reading) take(phrase)
  }
  if (!unparted.test(reading)) return found
  for (const [start, end] of stretches(reading.length, 2, longestUnparted)) {
    const part = reading.slice(start, end)
    if (part !== reading && unparted.test(part)) take(part)
  }
  return found
}

/** Every stretch of `least` to `most` neighbours, by where it starts and ends. */
function stretches(length: number, least: number, most: number): [start: number, end: number][] {
  const all: [number, number][] = []
  for (let start = 0; start < length; start++)
    for (let end = start + least; end <= Math.min(length, start + most); end++) all.push([start, end])
  return all
}

/** How well the words of a header fit the fields: 100 is the same word; less the more stands around it. */
function scores(known: Known, reading: string): [field: string, score: number][] {
  const exact = (known.get(reading) ?? []).map((field): [string, number] => [field, 100])
  const within = wordsWithin(reading).flatMap(({ word, room }) =>
    (known.get(word) ?? []).map((field): [string, number] => [field, 40 + 40 * room]),
  )
  return [...exact, ...within]
}

interface Fit {
  readonly column: number
  readonly field: string
  readonly score: number
}

/** Every field a header may stand for. */
function fitsOf(known: Known, header: string, column: number, custom: readonly string[]): Fit[] {
  if (header.length > longestHeader || header.trim() === '') return []
  const own = custom.find((name) => plainly(name) === plainly(header))
  if (own !== undefined) return [{ column, field: `custom:${own}`, score: 200 }]
  const all = readings(header)
  if (all.some((reading) => never.has(reading)) && !all.some((reading) => known.has(reading))) return []
  const best = new Map<string, number>()
  all.forEach((reading, index) => {
    for (const [field, score] of scores(known, reading)) {
      const less = index > 0 ? score - 2 : score
      if (less > (best.get(field) ?? 0)) best.set(field, less)
    }
  })
  return [...best].map(([field, score]) => ({ column, field, score }))
}

/** Gives each field to the column that fits it best, and each column one field. */
function assign(fits: readonly Fit[], width: number): (string | null)[] {
  const order = [...fits].sort((a, b) => b.score - a.score || a.column - b.column)
  const fields = Array.from<string | null>({ length: width }).fill(null)
  const taken = new Set<string>()
  for (const { column, field } of order) {
    if (fields[column] !== null || taken.has(field)) continue
    fields[column] = field
    taken.add(field)
  }
  return fields
}

/** Which field each header stands for by its words alone; a field is given to the header that fits it best, the rest stay unread. */
export function mapColumns(what: What, row: readonly string[], custom: readonly string[] = []): (string | null)[] {
  const known = headers[what]
  const fits = row.flatMap((header, column) =>
    fitsOf(known, header, column, custom).filter(({ field, score }) => field !== 'number' || score >= 98),
  )
  return withTitle(assign(fits, row.length), row)
}

/** A summary serves as the title where nothing better does. */
function withTitle(fields: (string | null)[], row: readonly string[]): (string | null)[] {
  if (fields.includes('title')) return fields
  const at = row.findIndex((header) => readings(header).some((reading) => inNeed.has(reading)))
  return at < 0 ? fields : fields.map((field, column) => (column === at ? 'title' : field))
}

export interface GuessedColumns {
  readonly fields: (string | null)[]
  /** Columns told by what stands in them, not by their header. */
  readonly byContents: readonly number[]
}

/**
 * Which field each column is, by its header and by its cells: a column of step numbers is never the action, minutes are numbers; where
 * title, action or expected result have no header that is known, the cells tell them.
 * `data`: the rows of data, white space taken off.
 */
export function guessColumns(
  what: What,
  row: readonly string[],
  data: readonly (readonly string[])[],
  custom: readonly string[] = [],
): GuessedColumns {
  const width = Math.max(row.length, ...data.map((cells) => cells.length))
  const looks = Array.from({ length: width }, (_, column) => contentsOf(data.map((cells) => cells[column] ?? '')))
  const known = headers[what]
  const fits = Array.from({ length: width }, (_, column) => fitsOf(known, row[column] ?? '', column, custom)).flat()
  const titles = fits.filter(({ field }) => field === 'title').sort((a, b) => b.score - a.score)[0]
  const within = (column: number) => titles !== undefined && numbersWithin(data, column, titles.column)
  const bearable = fits.filter((each) => bears(what, each, looks[each.column], within(each.column)))
  const fields = withTitle(assign(bearable, width), row)
  if (what === 'requirements') return { fields, byContents: [] }
  return fillIn(fields, looks, row)
}

/** Does a number go on while the title stays? Then it numbers steps, not cases. */
function numbersWithin(data: readonly (readonly string[])[], column: number, title: number): boolean {
  return data.some((cells, index) => {
    const before = data[index - 1]
    const own = cells[title] ?? ''
    return before && cells[column] !== before[column] && (own === '' || own === before[title])
  })
}

/** May a column of such cells be this field? */
function bears(what: What, { field, score }: Fit, look: Contents | undefined, within: boolean): boolean {
  if (!look || look.filled === 0) return field !== 'number' || score >= 98
  const numbers = look.counts && (look.restarts || within)
  if (field === 'number') return what === 'cases' && look.numeric && look.counts && (score >= 98 || numbers)
  if (field === 'id' && what === 'cases') return !numbers
  if (field === 'title' || field === 'action' || field === 'expected') return !look.numeric || !look.counts
  if (field === 'estimate') return !look.keys && (look.numeric || look.length < 12)
  return true
}

/** Fills in what the headers do not tell from what the cells look like. */
function fillIn(fields: (string | null)[], looks: readonly Contents[], row: readonly string[]): GuessedColumns {
  const found = [...fields]
  const byContents: number[] = []
  const isFree = (column: number) =>
    found[column] === null &&
    (looks[column]?.filled ?? 0) > 0 &&
    !readings(row[column] ?? '').some((each) => never.has(each))
  const give = (field: string, column: number) => {
    if (found.includes(field) || column < 0) return
    found[column] = field
    byContents.push(column)
  }
  const first = (holds: (look: Contents, column: number) => boolean) =>
    looks.findIndex((look, column) => isFree(column) && holds(look, column))
  give(
    'number',
    first((look) => look.counts && look.restarts),
  )
  const number = found.indexOf('number')
  if (!found.includes('action') && !found.includes('title') && number < 0) return { fields: found, byContents }
  const texts = (from: number) =>
    looks.flatMap((look, column) =>
      column > from && isFree(column) && look.length >= 12 && look.variety > 0.3 ? [column] : [],
    )
  const before = found.includes('action') ? found.indexOf('action') : number >= 0 ? number : looks.length
  give(
    'title',
    first((look, column) => column < before && !look.numeric && !look.keys && !look.importance && look.length >= 4),
  )
  // A description where steps are numbered, and nothing else says what is done, is that of the steps.
  if (number >= 0 || found.includes('expected'))
    give(
      'action',
      texts(Math.max(number, found.indexOf('title')))[0] ?? (number >= 0 ? found.indexOf('objective') : -1),
    )
  if (number >= 0) give('expected', texts(found.indexOf('action'))[0] ?? -1)
  if (!found.includes('title')) return { fields, byContents: [] }
  give(
    'importance',
    first((look) => look.importance && !look.numeric),
  )
  give(
    'automation',
    first((look) => look.automation && look.length > 3),
  )
  give(
    'id',
    first((look) => look.keys && look.variety > 0),
  )
  return { fields: found, byContents }
}

const caseWord = /case|fall\b|fälle|cas de test|caso|przypad|testgeval|případ|ケース|用例|案例|케이스/iu

/** Rows of steps make cases; anything else with a title is a list of requirements. `null` when no header is known. */
export function guessWhat(row: readonly string[]): What | null {
  const asCases = mapColumns('cases', row)
  if (asCases.includes('action') || asCases.includes('expected')) return 'cases'
  if (!mapColumns('requirements', row).includes('title')) return asCases.includes('title') ? 'cases' : null
  return row.some((header) => caseWord.test(header)) ? 'cases' : 'requirements'
}
