import { type Role, roles } from '#core/lib/rights.ts'

/** One person as a pasted line names them. */
interface ListedPerson {
  readonly name: string
  readonly email: string
  /** What the line says; `null` when it says nothing. */
  readonly role: Role | null
}
export interface PeopleList {
  readonly people: readonly ListedPerson[]
  /** Lines that are no person, each with why. */
  readonly problems: readonly { readonly line: number; readonly text: string; readonly why: string }[]
}

const address = /[^\s<>"',;\t()]+@[^\s<>"',;\t()]+\.[^\s<>"',;\t()]+/
const heading = /^"?(name|e-?mail|mail|address|person|first name|role)"?\s*[,;\t]/i

/**
 * People out of a pasted list or CSV, a line each: `Mira Kell <mira@tarnsey.example>`, `Mira Kell; mira@tarnsey.example; tester`, or
 * an address alone, which then gives the name. Cells stand between commas, semicolons or tabs, in any order; a heading line is passed
 * over; whoever stands there twice is in once.
 */
export function peopleIn(text: string): PeopleList {
  const people = new Map<string, ListedPerson>()
  const problems: { line: number; text: string; why: string }[] = []
  text.split(/\r\n|\r|\n/).forEach((raw, at) => {
    const line = raw.trim()
    if (line === '' || (heading.test(line) && !address.test(line))) return
    const found = personIn(line)
    if (typeof found === 'string') problems.push({ line: at + 1, text: line, why: found })
    else if (!people.has(found.email)) people.set(found.email, found)
  })
  return { people: [...people.values()], problems }
}

function personIn(line: string): ListedPerson | string {
  const email = address.exec(line)?.[0].toLowerCase()
  if (email === undefined) return 'there is no e-mail address in it'
  const cells = line
    .replace(address, ' ')
    .split(/[,;\t]/)
    .map((cell) =>
      cell
        .replace(/[<>"()]/g, ' ')
        .replace(/\s+/g, ' ')
        .trim(),
    )
    .filter((cell) => cell !== '')
  const role = cells.map(roleIn).find((each) => each !== null) ?? null
  const words = cells.filter((cell) => roleIn(cell) === null)
  if (words.some((word) => address.test(word))) return 'there are two e-mail addresses in it'
  return { name: nameOf(words, email), email, role }
}

const roleIn = (cell: string): Role | null => roles.find((role) => role === cell.toLowerCase()) ?? null

/** First and last name may stand in a cell each; where no name is written, it is made of the address. */
function nameOf(words: readonly string[], email: string): string {
  if (words.length > 0) return words.slice(0, 2).join(' ').slice(0, 100)
  const [local = email] = email.split('@')
  return local
    .split(/[._-]+/)
    .filter((part) => part !== '')
    .map((part) => `${part.slice(0, 1).toUpperCase()}${part.slice(1)}`)
    .join(' ')
    .slice(0, 100)
}
