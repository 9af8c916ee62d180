import { z } from 'zod'

const mark = 'x-text'

/** Emphasis, lists, links, pictures, tables and code: what a rich text may hold, with its attributes. */
export const richTags: Readonly<Record<string, readonly string[]>> = {
  p: [],
  br: [],
  strong: [],
  b: [],
  em: [],
  i: [],
  u: [],
  s: [],
  code: [],
  pre: [],
  ul: [],
  ol: [],
  li: [],
  a: ['href', 'rel', 'target'],
  blockquote: [],
  h2: [],
  h3: [],
  mark: ['data-tone'],
  img: ['src', 'alt'],
  table: [],
  thead: [],
  tbody: [],
  tr: [],
  th: ['colspan', 'rowspan'],
  td: ['colspan', 'rowspan'],
  hr: [],
}
/** Pictures only from our own evidence: a picture from elsewhere would tell that place who reads. */
export const ownPictures = '/api/v1/'
export const linkSchemes = ['http', 'https', 'mailto']

/** A field of rich text: the server cleans it before any use case sees it. */
export const richText = (most: number) =>
  z
    .string()
    .max(most, `at most ${most} characters`)
    .meta({ [mark]: 'rich' })
export const richMark = mark
