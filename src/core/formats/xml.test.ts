import { expect } from 'chai'
import fc from 'fast-check'
import { Refusal } from '#core/lib/refusal.ts'
import { child, elements, escapeXml, readXml, textOf, within, writeElement } from './xml.ts'

const document = `<?xml version="1.0"?>
<!DOCTYPE reqif>
<r:list xmlns:r="urn:x" r:kind="ferry">
  <r:item id="1"><name>Hold &amp; pay</name></r:item>
  <r:group><r:item id="2"><name><![CDATA[a < b]]></name></r:item></r:group>
</r:list>`

describe('XML as a tree', () => {
  const root = readXml(document)
  it('has names without prefixes, attributes and lines', () => {
    expect(root.name).to.equal('list')
    expect(root.attributes['kind']).to.equal('ferry')
    expect(root.line).to.equal(3)
    expect(elements(root).map(({ name, line }) => `${name} ${line}`)).to.deep.equal(['item 4', 'group 5'])
  })
  it('is walked by name, by path, and at any depth', () => {
    expect(elements(root, 'item')).to.have.length(1)
    expect(textOf(child(root, 'item', 'name'))).to.equal('Hold & pay')
    expect(within(root, 'item').map(({ attributes }) => attributes['id'])).to.deep.equal(['1', '2'])
    expect(child(root, 'item', 'nothing', 'deeper')).to.equal(undefined)
    expect(textOf(undefined)).to.equal('')
  })
  it('reads what is marked as plain characters as it stands', () => {
    expect(textOf(child(root, 'group', 'item', 'name'))).to.equal('a < b')
  })
  it('begins after the mark of the byte order', () => {
    expect(readXml('\ufeff<a/>').name).to.equal('a')
  })
})

describe('XML that is refused', () => {
  const refusal = (text: string): Refusal => {
    try {
      readXml(text)
    } catch (error) {
      if (error instanceof Refusal) return error
      throw error
    }
    throw new Error('it was read')
  }
  it('is told by line and column where it breaks', () => {
    expect(refusal('<a>\n<b></a>').sentence).to.match(/no well-formed XML: line 2, column \d+/)
  })
  it('defines entities, which could grow without end', () => {
    const bomb = '<!DOCTYPE a [<!ENTITY x "xxxx"><!ENTITY y "&x;&x;">]><a>&y;</a>'
    expect(refusal(bomb).sentence).to.include('defines entities of its own')
    expect(refusal('<!DOCTYPE a [<!ENTITY f SYSTEM "file:///etc/hosts">]><a>&f;</a>').sentence).to.include('entities')
  })
  it('uses an entity nobody defined', () => {
    expect(refusal('<a>&nobody;</a>').sentence).to.include('no well-formed XML')
  })
  it('is nested deeper than anybody writes', () => {
    const deep = (depth: number) => '<a>'.repeat(depth) + '</a>'.repeat(depth)
    expect(refusal(deep(201)).sentence).to.include('more than 200 deep')
    expect(readXml(deep(200)).name).to.equal('a')
  })
  it('holds nothing', () => {
    expect(refusal('').sentence).to.match(/no XML element|no well-formed/)
  })
})

describe('XML that is written', () => {
  it('comes back from any text and attribute', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (text, attribute) => {
        const clean = (of: string) => of.replace(/[\u0000-\u001f\ufffe\uffff]/g, '')
        const [wanted, named] = [clean(text), clean(attribute)]
        const read = readXml(`<a name="${escapeXml(named)}">${escapeXml(wanted)}</a>`)
        expect(textOf(read)).to.equal(wanted)
        expect(read.attributes['name']).to.equal(named)
      }),
    )
  })
  it('leaves out signs that no XML may hold', () => {
    expect(escapeXml('a\u0000b\u000bc')).to.equal('abc')
  })
  it('is rich text without prefixes, line breaks left open', () => {
    const rich = readXml('<x:div><x:b class="a&quot;b">held</x:b> &amp; shown<x:br/></x:div>')
    expect(writeElement(rich)).to.equal('<div><b class="a&quot;b">held</b> &amp; shown<br></div>')
  })
})
