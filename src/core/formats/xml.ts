import { SaxesParser } from 'saxes'
import { escapeText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'

export interface Element {
  /** Local name, without a prefix. */
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: (Element | string)[]
  readonly line: number
}

/** Nothing anybody writes is deeper; what is, is made to break readers. */
const deepest = 200

/**
 * XML as a tree. Entities beyond the five of XML are refused, so that nothing can expand or be fetched; a document type
 * is passed over unread.
 */
export function readXml(text: string): Element {
  const parser = new SaxesParser({ xmlns: false, position: true })
  const root: Element = { name: '', attributes: {}, children: [], line: 0 }
  const open: Element[] = [root]
  parser.on('error', (error) => {
    throw new Refusal(
      'invalid',
      `The file is no well-formed XML: ${error.message.replace(/^(\d+):(\d+): /, 'line $1, column $2: ').slice(0, 200)}`,
    )
  })
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype))
      throw new Refusal(
        'invalid',
        `Line ${parser.line}: the file defines entities of its own. Such files are not read, since entities can be made to grow without end or to fetch other files.`,
      )
  })
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length > deepest)
      throw new Refusal('invalid', `Line ${parser.line}: elements are nested more than ${deepest} deep.`)
    const element: Element = {
      name: local(name),
      attributes: Object.fromEntries(Object.entries(attributes).map(([key, value]) => [local(key), String(value)])),
      children: [],
      line: parser.line,
    }
    open.at(-1)?.children.push(element)
    open.push(element)
  })
  parser.on('closetag', () => {
    open.pop()
  })
  const hear = (heard: string) => {
    open.at(-1)?.children.push(heard)
  }
  parser.on('text', hear)
  parser.on('cdata', hear)
  parser.write(text.replace(/^\ufeff/, '')).close()
  const top = elements(root)[0]
  if (!top) throw new Refusal('invalid', 'The file holds no XML element.')
  return top
}

const local = (name: string): string => name.slice(name.indexOf(':') + 1)

export const elements = (of: Element, name?: string): Element[] =>
  of.children.filter(
    (child): child is Element => typeof child !== 'string' && (name === undefined || child.name === name),
  )
export const child = (of: Element | undefined, ...path: readonly string[]): Element | undefined =>
  path.reduce<Element | undefined>((at, name) => (at ? elements(at, name)[0] : undefined), of)
export const textOf = (of: Element | undefined): string =>
  of ? of.children.map((each) => (typeof each === 'string' ? each : textOf(each))).join('') : ''

/** Every element of that name at any depth, in reading order. */
export const within = (of: Element, name: string): Element[] =>
  elements(of).flatMap((each) => [...(each.name === name ? [each] : []), ...within(each, name)])

export const escapeXml = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"]/g, (mark) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[mark] ?? mark)

/** An element written out again, without prefixes: how rich text is taken from a file. */
export function writeElement(of: Element): string {
  const attributes = Object.entries(of.attributes)
    .map(([name, value]) => ` ${name}="${escapeXml(value)}"`)
    .join('')
  const inner = of.children.map((each) => (typeof each === 'string' ? escapeText(each) : writeElement(each))).join('')
  return inner === '' && of.name === 'br'
    ? `<${of.name}${attributes}>`
    : `<${of.name}${attributes}>${inner}</${of.name}>`
}
