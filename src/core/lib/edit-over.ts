import { isRecord, partOf } from './record.ts'

/** An edit as it is to be sent over what is stored by now, and the fields in which that says something else than what was edited. */
interface EditOver {
  readonly edit: Readonly<Record<string, unknown>>
  readonly clashes: readonly string[]
}

/**
 * Three-way merge of an edit by field: `shown` is what the person saw, `newer` what is stored by now. A field that stayed is mine; of
 * fields within a field each is for itself; of a list of words what each put in and took out. Where both changed one field differently,
 * or the newer one does not tell, there is a clash and the edit says what is mine.
 */
export function editOver(newer: unknown, shown: unknown, edit: unknown): EditOver {
  const clashes: string[] = []
  const fields = Object.entries(isRecord(edit) ? edit : {}).map(([name, mine]) => {
    const [theirs, before] = [partOf(newer, name), partOf(shown, name)]
    const both = fieldOver(theirs, before, mine)
    if (both === null) clashes.push(name)
    return [name, both === null ? mine : both.value] as const
  })
  return { edit: Object.fromEntries<unknown>(fields), clashes }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

function fieldOver(theirs: unknown, before: unknown, mine: unknown): { readonly value: unknown } | null {
  if (theirs === undefined) return null
  if (same(theirs, before) || same(theirs, mine)) return { value: mine }
  if (isWords(theirs) && isWords(before) && isWords(mine)) return wordsOver(theirs, before, mine)
  if (!isRecord(theirs) || !isRecord(mine)) return null
  // What stands in a field for the first time was nothing before, to both.
  const parts = Object.entries(mine).map(([name, own]) => {
    const [t, b] = [partOf(theirs, name), partOf(before, name)]
    return same(t, b) || same(t, own) ? [name, own] : null
  })
  return parts.includes(null) ? null : { value: mine }
}

const isWords = (of: unknown): of is readonly string[] =>
  Array.isArray(of) && of.every((each) => typeof each === 'string')

/** What stays of theirs, and what I put in; `null` where one of both changed the order only. */
function wordsOver(
  theirs: readonly string[],
  before: readonly string[],
  mine: readonly string[],
): { readonly value: readonly string[] } | null {
  const set = (words: readonly string[]): string => [...words].sort().join('\n')
  if (set(theirs) === set(before) || set(mine) === set(before)) return null
  const gone = before.filter((word) => !mine.includes(word))
  const kept = theirs.filter((word) => !gone.includes(word))
  return { value: [...kept, ...mine.filter((word) => !before.includes(word) && !kept.includes(word))] }
}
