import sanitize from 'sanitize-html'
import { linkSchemes, ownPictures, richTags } from '#core/lib/rich-text.ts'
import { type SafeHtml, safeHtml } from '#core/lib/safe-html.ts'

const allowed: sanitize.IOptions = {
  allowedTags: Object.keys(richTags),
  allowedAttributes: Object.fromEntries(Object.entries(richTags).map(([tag, names]) => [tag, [...names]])),
  allowedSchemes: linkSchemes,
  exclusiveFilter: (frame) => frame.tag === 'img' && !(frame.attribs['src'] ?? '').startsWith(ownPictures),
  transformTags: { a: sanitize.simpleTransform('a', { rel: 'noopener noreferrer', target: '_blank' }) },
}

/** Rich text made safe on its way in, and well formed, so that it cannot break out of the place where it is drawn. */
export const cleanHtml = (html: string): SafeHtml => safeHtml(sanitize(html, allowed))
