import type { FileRead, UnknownWord } from './shapes.ts'

/** Several documents or sheets as one: parents keep pointing at their own, places say where they are from. */
export function joined(sum: FileRead, next: FileRead, from: string | null): FileRead {
  const offset = sum.requirements.length
  const at = (each: { at: string; message: string }) => (from === null ? each : { ...each, at: `${from}, ${each.at}` })
  return {
    requirements: [
      ...sum.requirements,
      ...next.requirements.map((each) => ({
        ...each,
        parent: typeof each.parent === 'number' ? each.parent + offset : each.parent,
      })),
    ],
    cases: [...sum.cases, ...next.cases],
    relations: [...sum.relations, ...next.relations],
    problems: [...sum.problems, ...next.problems.map(at)],
    notices: [...sum.notices, ...next.notices.map(at)],
    rich: sum.rich || next.rich,
    fields: [...new Set([...sum.fields, ...next.fields])],
    unknown: joinedWords(sum.unknown, next.unknown, from),
    unread: [...sum.unread, ...next.unread],
  }
}

/** The same word on several sheets is one word. */
function joinedWords(sum: readonly UnknownWord[], next: readonly UnknownWord[], from: string | null): UnknownWord[] {
  const all = [...sum]
  for (const each of next) {
    const at = all.findIndex(({ field, word }) => field === each.field && word === each.word)
    const before = all[at]
    if (before) all[at] = { ...before, rows: before.rows + each.rows }
    else all.push(from === null ? each : { ...each, first: `${from}, ${each.first}` })
  }
  return all
}
