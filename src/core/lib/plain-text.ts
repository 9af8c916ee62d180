const entities: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&#39;': "'",
}

/** Entities as the letters they stand for; a space that does not break as `space`. */
export const decodeText = (text: string, space = ' '): string =>
  text.replace(/&[a-z#0-9]+;/gi, (entity) =>
    entity.toLowerCase() === '&nbsp;' ? space : (entities[entity.toLowerCase()] ?? entity),
  )

/** Rich text without its marks: paragraphs and list items as lines. Text that holds no mark is answered as it is. */
export function plainText(text: string): string {
  if (!/<\/?[a-z][^>]*>|&[a-z#0-9]+;/i.test(text)) return text
  const lines = text
    .replace(/<br\s*\/?>/gi, '\n')
    .replace(/<li[^>]*>/gi, '- ')
    .replace(/<\/(p|li|h[1-6]|tr|blockquote|pre)>/gi, '\n')
    .replace(/<\/t[dh]>/gi, '\t')
    .replace(/<\/?[a-z][^>]*>/gi, '')
  return decodeText(lines)
    .replace(/[ \t]+\n/g, '\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()
}

/** Plain text as it is written within rich text: what would be read as a mark stands for itself. */
export const escapeText = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** Plain text as paragraphs, a line each. */
export const richText = (text: string): string =>
  text.trim() === ''
    ? ''
    : text
        .trim()
        .split(/\n+/)
        .map((line) => `<p>${escapeText(line)}</p>`)
        .join('')
