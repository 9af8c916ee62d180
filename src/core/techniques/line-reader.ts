import { bare } from '#core/lib/bare.ts'
import { mostLetters } from './models.ts'

/** The lines a person types a model in, by the part of the model they are about. */
export type Source = Readonly<Record<string, readonly string[]>>

export interface LineProblem {
  readonly section: string
  /** From 0. */
  readonly line: number
  readonly message: string
}

export interface FromLines<T> {
  readonly body: T
  readonly problems: readonly LineProblem[]
  /** Where a path into the body was written. */
  readonly placeOf: (path: string) => { readonly section: string; readonly line: number } | null
}

export class LineError extends Error {}

const quoted = /^"((?:[^"]|"")*)"$/
const special = /[",|:×()]|^\s|\s$/

/** A value as it is written in a line: in quotes where it holds a sign of the line's own. */
export const written = (value: string): string =>
  special.test(value) || value === '' ? `"${value.replaceAll('"', '""')}"` : value

/** Splits at a sign outside quotes. */
export function cut(text: string, sign: string): string[] {
  const parts: string[] = ['']
  let inside = false
  for (const letter of text) {
    if (letter === '"') inside = !inside
    if (letter === sign && !inside) parts.push('')
    else parts[parts.length - 1] += letter
  }
  if (inside) throw new LineError('A quotation mark is not closed.')
  return parts
}

/** A name or value without its quotes. */
export const plain = (text: string): string => {
  const trimmed = text.trim()
  return short(quoted.exec(trimmed)?.[1]?.replaceAll('""', '"') ?? trimmed)
}
export function short(word: string): string {
  if (word.length > mostLetters)
    throw new LineError(`“${word.slice(0, 20)}…” is too long; a name or value has at most ${mostLetters} characters.`)
  return word
}

/** `name: rest`. */
export function named(line: string): readonly [name: string, rest: string] {
  const [name = '', ...rest] = cut(line, ':')
  if (rest.length === 0) throw new LineError('Write a name, a colon, and its values: device: phone, desk.')
  if (plain(name) === '') throw new LineError('The name before the colon is missing.')
  return [plain(name), rest.join(':')]
}

export interface Reading {
  readonly problems: LineProblem[]
  readonly places: Map<string, { readonly section: string; readonly line: number }>
}

/** Reads the lines of a section one by one; an empty line is skipped, one that cannot be read is told and left out. */
export function each(
  source: Source,
  section: string,
  { problems }: Reading,
  read: (line: string, at: number) => void,
): void {
  for (const [at, line] of (source[section] ?? []).entries()) {
    if (line.trim() === '') continue
    try {
      read(line, at)
    } catch (error) {
      if (!(error instanceof LineError)) throw error
      problems.push({ section, line: at, message: error.message })
    }
  }
}

export const placeIn =
  ({ places }: Reading) =>
  (path: string) => {
    // The longest written path that the asked one lies in.
    const found = [...places.keys()]
      .filter((known) => path === known || path.startsWith(`${known}.`) || path.startsWith(`${known}[`))
      .sort((a, b) => b.length - a.length)[0]
    return found === undefined ? null : places.get(found)!
  }

export interface Vocabulary {
  readonly [name: string]: readonly string[]
}

/** Reads terms of known names and values, whatever words and signs those hold, by trying the longest first. */
export class TermReader {
  at = 0
  constructor(
    readonly text: string,
    readonly words: Vocabulary,
  ) {}

  done(): boolean {
    return this.text.slice(this.at).trim() === ''
  }

  /** Takes a fixed word, with white space around it. */
  take(word: string): boolean {
    const rest = this.text.slice(this.at)
    const skipped = rest.length - rest.trimStart().length
    const next = rest.slice(skipped, skipped + word.length)
    const after = rest[skipped + word.length]
    if (next.toLowerCase() !== word || (/\w$/.test(word) && after !== undefined && /[\p{L}\p{N}_]/u.test(after)))
      return false
    this.at += skipped + word.length
    return true
  }

  #known(of: readonly string[], what: string): string {
    const rest = this.text.slice(this.at).trimStart()
    const ends = (word: string): boolean =>
      rest.length === word.length || !/[\p{L}\p{N}_]/u.test(rest[word.length]!) || !/[\p{L}\p{N}_]$/u.test(word)
    const forms = of
      .flatMap((word) => [
        { word, form: word },
        { word, form: written(word) },
      ])
      .sort((a, b) => b.form.length - a.form.length)
    const found =
      forms.find(({ form }) => rest.startsWith(form) && ends(form)) ??
      forms.find(({ form }) => rest.toLowerCase().startsWith(form.toLowerCase()) && ends(form))
    if (!found)
      throw new LineError(
        `There is no ${what} here: “${rest.slice(0, 40)}”.${of.length > 0 && of.length <= 8 ? ` It can be ${of.join(', ')}.` : ''}`,
      )
    this.at = this.text.length - rest.length + found.form.length
    return found.word
  }

  /** `name is value or value`; with `never` the `is` may be left out. */
  term(needsIs: boolean): readonly [name: string, values: string[]] {
    const name = this.#known(Object.keys(this.words), 'parameter')
    if (!this.take('is') && needsIs) throw new LineError(`“is” is missing after ${name}.`)
    const values = [this.#known(this.words[name]!, `value of ${name}`)]
    while (this.take('or')) values.push(this.#known(this.words[name]!, `value of ${name}`))
    return [name, values]
  }

  terms(joint: string, needsIs: boolean): Record<string, string[]> {
    const all = bare<string[]>()
    do {
      const [name, values] = this.term(needsIs)
      if (all[name]) throw new LineError(`${name} stands twice in the rule.`)
      all[name] = values
    } while (this.take(joint))
    return all
  }
}

/** Each value once; one that stands twice is told, and the first counts. */
export function once<T>(
  all: readonly T[],
  value: (of: T) => string,
  { reading, place, name }: { reading: Reading; place: Pick<LineProblem, 'section' | 'line'>; name: string },
): T[] {
  const seen = new Set<string>()
  return all.filter((each) => {
    const own = value(each)
    if (seen.has(own)) reading.problems.push({ ...place, message: `${name} has the value ${own} twice.` })
    return !seen.has(own) && seen.add(own)
  })
}
