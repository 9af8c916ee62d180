import { FilterXSS, type IWhiteList } from 'xss'
import { linkSchemes, ownPictures, richTags } from './rich-text.ts'

declare const safe: unique symbol
/** Rich text that may be drawn. Only the cleaner makes it. */
export type SafeHtml = string & { readonly [safe]: true }

const allowed: IWhiteList = Object.fromEntries(Object.entries(richTags).map(([tag, names]) => [tag, [...names]]))
const link = new RegExp(`^(?:(?:${linkSchemes.join('|')}):|[/#?](?![/\\\\]))`, 'i')

const filter = new FilterXSS({
  whiteList: allowed,
  stripIgnoreTag: true,
  stripIgnoreTagBody: ['script', 'style'],
  css: false,
  safeAttrValue: (_, name, value) => {
    const plain = value.trim()
    if (name === 'href') return link.test(plain) ? escaped(plain) : ''
    if (name === 'src') return plain.startsWith(ownPictures) ? escaped(plain) : ''
    return escaped(plain)
  },
})
const escaped = (value: string): string =>
  value.replaceAll('"', '&quot;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/**
 * Rich text as it may be drawn, whatever it came by: on the way in it was cleaned by a parser; this is the second look, at the place
 * where it would do harm. What is clean already is answered as it stands.
 */
// A sign that begins no tag is text to a browser; the filter would take what follows it for one.
export const safeHtml = (html: string): SafeHtml => filter.process(html.replace(/<(?![a-z/!?])/gi, '&lt;')) as SafeHtml
