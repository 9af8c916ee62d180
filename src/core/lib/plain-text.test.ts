import { expect } from 'chai'
import fc from 'fast-check'
import { decodeText, escapeText, plainText, richText } from './plain-text.ts'

describe('rich text as plain words', () => {
  it('has paragraphs, items and cells as lines', () => {
    expect(plainText('<p>Hold it.</p><ul><li>one</li><li>two</li></ul>')).to.equal('Hold it.\n- one\n- two')
    expect(plainText('a<br>b')).to.equal('a\nb')
    expect(plainText('<table><tr><td>a</td><td>b</td></tr></table>')).to.equal('a\tb')
  })
  it('is answered as it is when it holds no mark', () => {
    expect(plainText('  2 < 3 and 5 > 4 ')).to.equal('  2 < 3 and 5 > 4 ')
  })
  it('has no more than one empty line, and no space at the ends of lines', () => {
    expect(plainText('<p>a </p><p></p><p></p><p></p><p>b</p>')).to.equal('a\n\nb')
  })
  it('says what was escaped', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const trimmed = text.replace(/[ \t]+\n/g, '\n').trim()
        fc.pre(!/\n{3,}/.test(trimmed) && trimmed === trimmed.replace(/[ \t]+\n/g, '\n'))
        expect(plainText(`<p>${escapeText(trimmed)}</p>`)).to.equal(trimmed)
      }),
    )
  })
})

describe('plain words as rich text', () => {
  it('are a paragraph a line, and nothing for nothing', () => {
    expect(richText('a < b\n\nc')).to.equal('<p>a &lt; b</p><p>c</p>')
    expect(richText('  \n ')).to.equal('')
  })
  it('have entities read back, a space that does not break as one wants it', () => {
    expect(decodeText('a&nbsp;&lt;b&gt;&amp;&#39;')).to.equal(`a <b>&'`)
    expect(decodeText('a&nbsp;b', '_')).to.equal('a_b')
    expect(decodeText('&unknown;')).to.equal('&unknown;')
  })
})
