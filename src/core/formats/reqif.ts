import { commaList } from '#core/lib/comma-list.ts'
import { escapeText, plainText, richText } from '#core/lib/plain-text.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import {
  childIndexes,
  type FileRead,
  nothingRead,
  plainRequirement,
  type Problem,
  type RelationRead,
  requirementFields,
  type RequirementRead,
} from './shapes.ts'
import { priorityFrom } from './read-requirements.ts'
import { child, elements, type Element, escapeXml, readXml, textOf, within, writeElement } from './xml.ts'

/** Attribute names (lower case) that stand for a field; everything else becomes a field of the project's own. */
const known: Readonly<Record<string, string>> = {
  'reqif.name': 'title',
  name: 'title',
  title: 'title',
  'reqif.chaptername': 'chapter',
  heading: 'chapter',
  'reqif.text': 'text',
  text: 'text',
  description: 'text',
  'object text': 'text',
  'reqif.foreignid': 'id',
  id: 'id',
  kind: 'kind',
  type: 'kind',
  component: 'component',
  state: 'state',
  status: 'state',
  likelihood: 'likelihood',
  impact: 'impact',
  priority: 'priority',
  release: 'release',
  iteration: 'iteration',
  'outside reference': 'reference',
  owner: 'owner',
  tags: 'tags',
}

/**
 * Requirements of a ReqIF document: every object is a requirement, its place in the specification's hierarchy its place in
 * the outline, relations are ties between requirements. Texts come as rich text. Source: OMG ReqIF 1.2.
 */
export function readReqif(text: string): FileRead {
  const root = readXml(text)
  const content = child(root, 'CORE-CONTENT', 'REQ-IF-CONTENT')
  if (root.name !== 'REQ-IF' || !content)
    return {
      ...nothingRead,
      problems: [{ at: `line ${root.line}`, message: `is no ReqIF document: its outermost element is ${root.name}` }],
    }
  const problems: Problem[] = []
  const notices: Problem[] = []
  const { requirements, indexOf } = requirementsIn(content, notices)
  const relations = relationsIn(content, problems, (reference) => requirements[indexOf(reference)]?.id)
  const custom = new Set(requirements.flatMap((each) => Object.keys(each.custom)))
  return {
    ...nothingRead,
    requirements,
    relations,
    problems,
    notices,
    rich: true,
    fields: [...requirementFields, ...[...custom].map((name) => `custom:${name}`)],
  }
}

/** The document's objects in the order of its hierarchy, those that stand nowhere in it at the end; and where each came to stand. */
function requirementsIn(content: Element, notices: Problem[]) {
  const named = { definitions: definitionsIn(content), enumerated: enumeratedIn(content), notices }
  const objects = elements(child(content, 'SPEC-OBJECTS') ?? content, 'SPEC-OBJECT')
  const ids = new Map(objects.map((object, index) => [object.attributes['IDENTIFIER'] ?? '', index]))
  const placed = hierarchy(content, ids, notices)
  const order = [...new Set([...placed.keys(), ...objects.keys()])]
  const newIndex = new Map(order.map((old, index) => [old, index]))
  const requirements = order.flatMap((old) => {
    const object = objects[old]
    const parent = placed.get(old) ?? null
    return object ? [requirementOf(object, parent === null ? null : (newIndex.get(parent) ?? null), named)] : []
  })
  return { requirements, indexOf: (reference: string) => newIndex.get(ids.get(reference) ?? -1) ?? -1 }
}

/** Names of attributes, by their identifiers. */
const definitionsIn = (content: Element): ReadonlyMap<string, string> =>
  new Map(
    within(content, 'SPEC-TYPES')
      .flatMap((types) => elements(types))
      .flatMap((type) => elements(child(type, 'SPEC-ATTRIBUTES') ?? type))
      .filter(({ name }) => name.startsWith('ATTRIBUTE-DEFINITION'))
      .map(({ attributes }) => [
        attributes['IDENTIFIER'] ?? '',
        attributes['LONG-NAME'] ?? attributes['IDENTIFIER'] ?? '',
      ]),
  )

/** What the values of enumerations say, by their identifiers. */
const enumeratedIn = (content: Element): ReadonlyMap<string, string> =>
  new Map(
    within(content, 'ENUM-VALUE').map((each) => [
      each.attributes['IDENTIFIER'] ?? '',
      each.attributes['LONG-NAME'] ?? child(each, 'PROPERTIES', 'EMBEDDED-VALUE')?.attributes['OTHER-CONTENT'] ?? '',
    ]),
  )

/** Ties between objects of the file; one that leads out of it is a problem. */
const relationsIn = (
  content: Element,
  problems: Problem[],
  idOf: (reference: string) => string | undefined,
): RelationRead[] =>
  elements(child(content, 'SPEC-RELATIONS') ?? content, 'SPEC-RELATION').flatMap((each): RelationRead[] => {
    const [from, to] = (['SOURCE', 'TARGET'] as const).map((end) =>
      idOf(textOf(child(each, end, 'SPEC-OBJECT-REF')).trim()),
    )
    if (from !== undefined && to !== undefined)
      return [{ from, to, kind: each.attributes['LONG-NAME'] ?? relationType(content, each) }]
    problems.push({ at: `line ${each.line}`, message: 'a relation names an object that is not in the file' })
    return []
  })

function relationType(content: Element, relation: Element): string {
  const reference = textOf(child(relation, 'TYPE', 'SPEC-RELATION-TYPE-REF')).trim()
  return (
    within(content, 'SPEC-RELATION-TYPE').find(({ attributes }) => attributes['IDENTIFIER'] === reference)?.attributes[
      'LONG-NAME'
    ] ?? 'relates to'
  )
}

/** Object → parent object, in reading order; an object placed twice keeps its first place. */
function hierarchy(content: Element, ids: ReadonlyMap<string, number>, notices: Problem[]): Map<number, number | null> {
  const placed = new Map<number, number | null>()
  const walk = (of: Element, parent: number | null): void => {
    for (const node of elements(
      child(of, 'CHILDREN') ?? { name: '', attributes: {}, children: [], line: 0 },
      'SPEC-HIERARCHY',
    )) {
      const index = ids.get(textOf(child(node, 'OBJECT', 'SPEC-OBJECT-REF')).trim())
      if (index === undefined)
        notices.push({
          at: `line ${node.line}`,
          message: 'the hierarchy names an object that is not in the file; what is below it is put one level up',
        })
      else if (placed.has(index))
        notices.push({
          at: `line ${node.line}`,
          message: 'an object stands twice in the hierarchy; it keeps its first place',
        })
      else placed.set(index, parent)
      walk(node, index ?? parent)
    }
  }
  for (const specification of elements(child(content, 'SPECIFICATIONS') ?? content, 'SPECIFICATION'))
    walk(specification, null)
  return placed
}

interface Names {
  readonly definitions: ReadonlyMap<string, string>
  readonly enumerated: ReadonlyMap<string, string>
  readonly notices: Problem[]
}

function requirementOf(object: Element, parent: number | null, names: Names): RequirementRead {
  const values: Record<string, string> = {}
  const custom: Record<string, string> = {}
  for (const value of elements(child(object, 'VALUES') ?? object).filter(({ name }) =>
    name.startsWith('ATTRIBUTE-VALUE'),
  )) {
    const definition = elements(child(value, 'DEFINITION') ?? value).map((each) => textOf(each).trim())[0] ?? ''
    const name = names.definitions.get(definition) ?? definition
    const field = known[name.toLowerCase()]
    const rich = value.name.endsWith('XHTML')
    const told = valueOf(value, names.enumerated)
    if (field === 'text') values[field] = rich ? told : richText(told)
    else if (field === undefined) custom[name] = rich ? plainText(told) : told
    else values[field] = rich ? plainText(told) : told
  }
  const identifier = object.attributes['IDENTIFIER'] ?? `line ${object.line}`
  const plain = (field: string): string => (values[field] ?? '').replace(/\s+/g, ' ').trim()
  const text = values['text'] ?? ''
  const title =
    plain('title') ||
    plain('chapter') ||
    object.attributes['LONG-NAME'] ||
    firstSentence(plainText(text)) ||
    plain('id') ||
    identifier
  const grade = (field: string): number | null => (/^[1-5]$/.test(plain(field)) ? Number(plain(field)) : null)
  return {
    ...plainRequirement,
    row: object.line,
    id: plain('id') || identifier,
    title: title.slice(0, 300),
    text,
    parent,
    likelihood: grade('likelihood'),
    impact: grade('impact'),
    priority: priorityFrom(plain('priority')),
    release: plain('release'),
    iteration: plain('iteration'),
    reference: plain('reference'),
    component: plain('component').slice(0, 80),
    owner: plain('owner'),
    kind: requirementKinds.find((each) => each.toLowerCase() === plain('kind').toLowerCase()) ?? 'Function',
    state: requirementStates.find((each) => each.toLowerCase() === plain('state').toLowerCase()) ?? 'Draft',
    tags: commaList(plain('tags')),
    custom,
  }
}

const firstSentence = (text: string): string => (/^[^.!?\n]{1,120}[.!?]?/.exec(text.trim())?.[0] ?? '').trim()

function valueOf(value: Element, enumerated: ReadonlyMap<string, string>): string {
  if (value.name.endsWith('ENUMERATION'))
    return within(value, 'ENUM-VALUE-REF')
      .map((each) => enumerated.get(textOf(each).trim()) ?? textOf(each).trim())
      .join(', ')
  if (!value.name.endsWith('XHTML')) return value.attributes['THE-VALUE'] ?? textOf(child(value, 'THE-VALUE'))
  const body = child(value, 'THE-VALUE')
  // The outermost div only wraps; what is in it is the text.
  const wrapped = body && elements(body).length === 1 && elements(body)[0]?.name === 'div' ? elements(body)[0] : body
  return wrapped
    ? wrapped.children
        .map((each) => (typeof each === 'string' ? escapeText(each) : writeElement(each)))
        .join('')
        .trim()
    : ''
}

const textAttributes = ['kind', 'component', 'state', 'release', 'iteration', 'reference', 'owner'] as const
const longNames: Readonly<Record<string, string>> = {
  id: 'ReqIF.ForeignID',
  title: 'ReqIF.Name',
  text: 'ReqIF.Text',
  reference: 'Outside reference',
  kind: 'Kind',
  component: 'Component',
  state: 'State',
  likelihood: 'Likelihood',
  impact: 'Impact',
  priority: 'Priority',
  release: 'Release',
  iteration: 'Iteration',
  owner: 'Owner',
  tags: 'Tags',
}

/** A tie between two requirements, which stand at these places of the document. */
const relationXml =
  (at: ReadonlyMap<string, number>, instant: string) =>
  (each: RelationRead, index: number): string =>
    [
      `<SPEC-RELATION IDENTIFIER="sr-${index}" LONG-NAME="${escapeXml(each.kind)}" LAST-CHANGE="${instant}">`,
      '<TYPE><SPEC-RELATION-TYPE-REF>srt</SPEC-RELATION-TYPE-REF></TYPE>',
      `<SOURCE><SPEC-OBJECT-REF>so-${at.get(each.from) ?? ''}</SPEC-OBJECT-REF></SOURCE>`,
      `<TARGET><SPEC-OBJECT-REF>so-${at.get(each.to) ?? ''}</SPEC-OBJECT-REF></TARGET></SPEC-RELATION>`,
    ].join('')

/** Requirements as a ReqIF document; texts are rich text. `at` is the instant it is written, in ISO 8601. */
export function writeReqif(
  requirements: readonly RequirementRead[],
  relations: readonly RelationRead[],
  of: { readonly title: string; readonly at: string },
): string {
  const custom = [...new Set(requirements.flatMap((each) => Object.keys(each.custom)))]
  const strings = ['id', 'title', ...textAttributes, 'tags', 'likelihood', 'impact', 'priority']
  const definition = (kind: 'STRING' | 'XHTML', id: string, name: string) =>
    `<ATTRIBUTE-DEFINITION-${kind} IDENTIFIER="ad-${escapeXml(id)}" LONG-NAME="${escapeXml(name)}" LAST-CHANGE="${of.at}"><TYPE><DATATYPE-DEFINITION-${kind}-REF>dt-${kind.toLowerCase()}</DATATYPE-DEFINITION-${kind}-REF></TYPE></ATTRIBUTE-DEFINITION-${kind}>`
  const string = (id: string, value: string) =>
    value === ''
      ? ''
      : `<ATTRIBUTE-VALUE-STRING THE-VALUE="${escapeXml(value).replaceAll('\n', '&#10;')}"><DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>ad-${escapeXml(id)}</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION></ATTRIBUTE-VALUE-STRING>`
  const object = (each: RequirementRead, index: number): string => {
    const values = [
      string('id', each.id),
      string('title', each.title),
      ...textAttributes.map((name) => string(name, each[name])),
      string('tags', each.tags.join(', ')),
      string('likelihood', each.likelihood === null ? '' : String(each.likelihood)),
      string('impact', each.impact === null ? '' : String(each.impact)),
      string('priority', each.priority === null ? '' : String(each.priority)),
      ...custom.map((name, at) => string(`own-${at}`, each.custom[name] ?? '')),
      each.text === ''
        ? ''
        : `<ATTRIBUTE-VALUE-XHTML><DEFINITION><ATTRIBUTE-DEFINITION-XHTML-REF>ad-text</ATTRIBUTE-DEFINITION-XHTML-REF></DEFINITION><THE-VALUE><xhtml:div>${xhtml(each.text)}</xhtml:div></THE-VALUE></ATTRIBUTE-VALUE-XHTML>`,
    ]
    return `<SPEC-OBJECT IDENTIFIER="so-${index}" LAST-CHANGE="${of.at}"><TYPE><SPEC-OBJECT-TYPE-REF>sot</SPEC-OBJECT-TYPE-REF></TYPE><VALUES>${values.join('')}</VALUES></SPEC-OBJECT>`
  }
  const children = childIndexes(requirements)
  const below = (parent: number | null): string => {
    const nodes = (children.get(parent) ?? []).map(
      (index) =>
        `<SPEC-HIERARCHY IDENTIFIER="sh-${index}" LAST-CHANGE="${of.at}"><OBJECT><SPEC-OBJECT-REF>so-${index}</SPEC-OBJECT-REF></OBJECT>${below(index)}</SPEC-HIERARCHY>`,
    )
    return nodes.length > 0 ? `<CHILDREN>${nodes.join('')}</CHILDREN>` : ''
  }
  const at = new Map(requirements.map(({ id }, index) => [id, index]))
  const definitions = [
    ...strings.map((id) => definition('STRING', id, longNames[id] ?? id)),
    definition('XHTML', 'text', 'ReqIF.Text'),
    ...custom.map((name, index) => definition('STRING', `own-${index}`, name)),
  ]
  return `<?xml version="1.0" encoding="UTF-8"?>
<REQ-IF xmlns="http://www.omg.org/spec/ReqIF/20110401/reqif.xsd" xmlns:xhtml="http://www.w3.org/1999/xhtml">
<THE-HEADER><REQ-IF-HEADER IDENTIFIER="rovant"><CREATION-TIME>${of.at}</CREATION-TIME><REQ-IF-TOOL-ID>Rovant</REQ-IF-TOOL-ID><REQ-IF-VERSION>1.0</REQ-IF-VERSION><SOURCE-TOOL-ID>Rovant</SOURCE-TOOL-ID><TITLE>${escapeXml(of.title)}</TITLE></REQ-IF-HEADER></THE-HEADER>
<CORE-CONTENT><REQ-IF-CONTENT>
<DATATYPES><DATATYPE-DEFINITION-STRING IDENTIFIER="dt-string" LONG-NAME="Text" MAX-LENGTH="100000" LAST-CHANGE="${of.at}"/><DATATYPE-DEFINITION-XHTML IDENTIFIER="dt-xhtml" LONG-NAME="Rich text" LAST-CHANGE="${of.at}"/></DATATYPES>
<SPEC-TYPES><SPEC-OBJECT-TYPE IDENTIFIER="sot" LONG-NAME="Requirement" LAST-CHANGE="${of.at}"><SPEC-ATTRIBUTES>${definitions.join('')}</SPEC-ATTRIBUTES></SPEC-OBJECT-TYPE>
<SPECIFICATION-TYPE IDENTIFIER="st" LONG-NAME="Requirements" LAST-CHANGE="${of.at}"/><SPEC-RELATION-TYPE IDENTIFIER="srt" LONG-NAME="relates to" LAST-CHANGE="${of.at}"/></SPEC-TYPES>
<SPEC-OBJECTS>${requirements.map(object).join('\n')}</SPEC-OBJECTS>
<SPEC-RELATIONS>${relations
    .filter(({ from, to }) => at.has(from) && at.has(to))
    .map(relationXml(at, of.at))
    .join('\n')}</SPEC-RELATIONS>
<SPECIFICATIONS><SPECIFICATION IDENTIFIER="spec" LONG-NAME="${escapeXml(of.title)}" LAST-CHANGE="${of.at}"><TYPE><SPECIFICATION-TYPE-REF>st</SPECIFICATION-TYPE-REF></TYPE>${below(null)}</SPECIFICATION></SPECIFICATIONS>
</REQ-IF-CONTENT></CORE-CONTENT></REQ-IF>
`
}

/** Safe rich text (as it is stored) as XHTML: names get their prefix, what stands alone is closed. */
const xhtml = (html: string): string =>
  html
    .replace(/&nbsp;/g, '\u00a0')
    .replace(/<(br|hr|img)([^>]*?)\s*\/?>/gi, '<$1$2/>')
    .replace(/<(\/?)([a-z][a-z0-9]*)/gi, '<$1xhtml:$2')
