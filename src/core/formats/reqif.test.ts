import { expect } from 'chai'
import fc from 'fast-check'
import { richText } from '#core/lib/plain-text.ts'
import { requirementReads } from '../../../test/arbitrary.ts'
import { readReqif, writeReqif } from './reqif.ts'

const written = { title: 'FERRY', at: '2026-11-23T10:00:00.000Z' }
const document = (objects: string, rest = '') => `<?xml version="1.0"?>
<reqif:REQ-IF xmlns:reqif="http://www.omg.org/spec/ReqIF/20110401/reqif.xsd" xmlns:x="http://www.w3.org/1999/xhtml"><reqif:CORE-CONTENT><reqif:REQ-IF-CONTENT>
<reqif:DATATYPES><reqif:DATATYPE-DEFINITION-ENUMERATION IDENTIFIER="e"><reqif:SPECIFIED-VALUES><reqif:ENUM-VALUE IDENTIFIER="e1" LONG-NAME="Agreed"/></reqif:SPECIFIED-VALUES></reqif:DATATYPE-DEFINITION-ENUMERATION></reqif:DATATYPES>
<reqif:SPEC-TYPES><reqif:SPEC-OBJECT-TYPE IDENTIFIER="t"><reqif:SPEC-ATTRIBUTES>
<reqif:ATTRIBUTE-DEFINITION-XHTML IDENTIFIER="a1" LONG-NAME="ReqIF.Text"/>
<reqif:ATTRIBUTE-DEFINITION-ENUMERATION IDENTIFIER="a2" LONG-NAME="Status"/><reqif:ATTRIBUTE-DEFINITION-STRING IDENTIFIER="a3" LONG-NAME="Deck"/></reqif:SPEC-ATTRIBUTES></reqif:SPEC-OBJECT-TYPE></reqif:SPEC-TYPES>
<reqif:SPEC-OBJECTS>${objects}</reqif:SPEC-OBJECTS>${rest}</reqif:REQ-IF-CONTENT></reqif:CORE-CONTENT></reqif:REQ-IF>`
const object = (id: string, values = '') =>
  `<reqif:SPEC-OBJECT IDENTIFIER="${id}"><reqif:VALUES>${values}</reqif:VALUES></reqif:SPEC-OBJECT>`
const node = (id: string, below = '') =>
  `<reqif:SPEC-HIERARCHY IDENTIFIER="h${id}"><reqif:OBJECT><reqif:SPEC-OBJECT-REF>${id}</reqif:SPEC-OBJECT-REF></reqif:OBJECT>${below === '' ? '' : `<reqif:CHILDREN>${below}</reqif:CHILDREN>`}</reqif:SPEC-HIERARCHY>`
const hierarchy = (nodes: string) =>
  `<reqif:SPECIFICATIONS><reqif:SPECIFICATION IDENTIFIER="s"><reqif:CHILDREN>${nodes}</reqif:CHILDREN></reqif:SPECIFICATION></reqif:SPECIFICATIONS>`

it('reads every object with its hierarchy, attributes, rich text and relations', () => {
  const values = [
    '<reqif:ATTRIBUTE-VALUE-XHTML><reqif:DEFINITION><reqif:ATTRIBUTE-DEFINITION-XHTML-REF>a1',
    '</reqif:ATTRIBUTE-DEFINITION-XHTML-REF></reqif:DEFINITION><reqif:THE-VALUE><x:div>A place is ',
    '<x:b>held</x:b> &amp; shown.<x:br/>Then not.</x:div></reqif:THE-VALUE>',
    '</reqif:ATTRIBUTE-VALUE-XHTML><reqif:ATTRIBUTE-VALUE-ENUMERATION><reqif:VALUES>',
    '<reqif:ENUM-VALUE-REF>e1</reqif:ENUM-VALUE-REF></reqif:VALUES><reqif:DEFINITION>',
    '<reqif:ATTRIBUTE-DEFINITION-ENUMERATION-REF>a2</reqif:ATTRIBUTE-DEFINITION-ENUMERATION-REF>',
    '</reqif:DEFINITION></reqif:ATTRIBUTE-VALUE-ENUMERATION>',
    '<reqif:ATTRIBUTE-VALUE-STRING THE-VALUE="2"><reqif:DEFINITION>',
    '<reqif:ATTRIBUTE-DEFINITION-STRING-REF>a3</reqif:ATTRIBUTE-DEFINITION-STRING-REF>',
    '</reqif:DEFINITION></reqif:ATTRIBUTE-VALUE-STRING>',
  ].join('')
  const relation = [
    '<reqif:SPEC-RELATIONS><reqif:SPEC-RELATION IDENTIFIER="r" LONG-NAME="refines"><reqif:SOURCE>',
    '<reqif:SPEC-OBJECT-REF>o2</reqif:SPEC-OBJECT-REF></reqif:SOURCE><reqif:TARGET>',
    '<reqif:SPEC-OBJECT-REF>o1</reqif:SPEC-OBJECT-REF></reqif:TARGET></reqif:SPEC-RELATION>',
    '</reqif:SPEC-RELATIONS>',
  ].join('')
  const read = readReqif(
    document(object('o1', values) + object('o2') + object('loose'), relation + hierarchy(node('o2', node('o1')))),
  )
  expect(read.problems).to.deep.equal([])
  expect(
    read.requirements.map(({ id, title, parent, state, custom }) => [id, title, parent, state, custom]),
  ).to.deep.equal([
    ['o2', 'o2', null, 'Draft', {}],
    ['o1', 'A place is held & shown.', 0, 'Agreed', { Deck: '2' }],
    ['loose', 'loose', null, 'Draft', {}],
  ])
  expect(read.requirements[1]?.text).to.equal('A place is <b>held</b> &amp; shown.<br>Then not.')
  expect(read.relations).to.deep.equal([{ from: 'o2', to: 'o1', kind: 'refines' }])
})
it('says what it repairs, and where', () => {
  const read = readReqif(document(object('o1'), hierarchy(node('o1') + node('gone', node('o1')))))
  expect(read.notices.map(({ message }) => message.slice(0, 30))).to.deep.equal([
    'the hierarchy names an object ',
    'an object stands twice in the ',
  ])
  expect(read.requirements).to.have.length(1)
  expect(readReqif('<html/>').problems[0]?.message).to.equal('is no ReqIF document: its outermost element is html')
})
it('refuses entities, fetched or expanding, and broken XML, with the place', () => {
  const bomb = '<?xml version="1.0"?><!DOCTYPE r [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><r>&b;</r>'
  expect(() => readReqif(bomb)).to.throw(/defines entities of its own/)
  expect(() => readReqif('<!DOCTYPE r [<!ENTITY x SYSTEM "file:///etc/passwd">]><r>&x;</r>')).to.throw(
    /defines entities/,
  )
  expect(() => readReqif('<r>&x;</r>')).to.throw(/line 1/)
  expect(() => readReqif('<r>\n<a></r>')).to.throw(/line 2/)
  expect(() => readReqif('<a>'.repeat(300))).to.throw(/nested more than/)
})
it('gives requirements and their relations written as ReqIF back as they were', () =>
  fc.assert(
    fc.property(requirementReads, (plain) => {
      const requirements = plain.map((each) => ({
        ...each,
        text: richText(each.text),
        component: each.component.slice(0, 80),
      }))
      const relations = requirements.slice(1).map(({ id }) => ({ from: id, to: 'R-0', kind: 'refines' }))
      const again = readReqif(writeReqif(requirements, relations, written))
      expect(again.problems).to.deep.equal([])
      expect(again.relations).to.deep.equal(relations)
      const byId = (all: typeof requirements) =>
        all
          .map((each) => ({
            ...each,
            row: 0,
            parent: typeof each.parent === 'number' ? all[each.parent]?.id : null,
            custom: Object.fromEntries(Object.entries(each.custom).filter(([, value]) => value !== '')),
          }))
          .sort((a, b) => (a.id < b.id ? -1 : 1))
      expect(byId([...again.requirements])).to.deep.equal(byId(requirements))
    }),
    { numRuns: 300 },
  ))
