import { decodeText, escapeText, plainText } from '#core/lib/plain-text.ts'
import { parametersIn, type VersionContent } from './steps.ts'

export const replaceFields = ['title', 'preconditions', 'action', 'expected', 'data'] as const
export type ReplaceField = (typeof replaceFields)[number]
export interface Replacing {
  readonly find: string
  readonly put: string
  readonly matchCase: boolean
  readonly wholeWords: boolean
  readonly fields: readonly ReplaceField[]
}
interface Place {
  readonly field: ReplaceField
  /** Index of the step, from 0. */
  readonly step: number | null
  readonly before: string
  readonly after: string
}
export interface Replaced {
  readonly title: string
  readonly content: VersionContent
  readonly places: readonly Place[]
}

/** What a case says with a text replaced, and each place that changes. Marks of rich text are left as they are: only what is read is searched. */
export function replaceIn(title: string, content: VersionContent, of: Replacing): Replaced {
  const pattern = patternOf(of)
  const places: Place[] = []
  const plain = (text: string): string => text.replace(pattern, () => of.put)
  // What stands between marks is text; tags are stepped over, so that a word that is also the name of one is safe.
  const rich = (text: string): string =>
    text
      .split(/(<[^>]*>)/)
      .map((part, index) => (index % 2 === 1 ? part : escapeText(plain(decoded(part)))))
      .join('')
  const change = (field: ReplaceField, step: number | null, text: string): string => {
    if (!of.fields.includes(field) || !pattern.test(field === 'title' ? text : readable(text))) return text
    pattern.lastIndex = 0
    const after = field === 'title' ? plain(text) : rich(text)
    if (after !== text)
      places.push({
        field,
        step,
        before: field === 'title' ? text : plainText(text),
        after: field === 'title' ? after : plainText(after),
      })
    return after
  }
  const next = {
    title: change('title', null, title).trim(),
    preconditions: change('preconditions', null, content.preconditions),
  }
  const steps = content.steps.map((step, index) =>
    step.use
      ? step
      : {
          id: step.id,
          action: change('action', index, step.action),
          expected: change('expected', index, step.expected),
          data: change('data', index, step.data),
        },
  )
  const valued = content.parameters.filter((name) => content.rows.some((row) => (row[name] ?? '') !== ''))
  return {
    title: next.title === '' ? title : next.title,
    places,
    content: {
      ...content,
      preconditions: next.preconditions,
      steps,
      parameters: [...new Set([...parametersIn({ preconditions: next.preconditions, steps }), ...valued])],
      rows: content.rows,
    },
  }
}

/** Letters for entities; a space that does not break stays one. */
const decoded = (text: string): string => decodeText(text, '\u00a0')
const readable = (text: string): string => decoded(text.replace(/<[^>]*>/g, '\u0000'))

function patternOf({ find, matchCase, wholeWords }: Replacing): RegExp {
  const literal = find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  return new RegExp(
    wholeWords ? `(?<![\\p{L}\\p{N}_])${literal}(?![\\p{L}\\p{N}_])` : literal,
    matchCase ? 'gu' : 'giu',
  )
}
