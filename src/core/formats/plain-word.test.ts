import { expect } from 'chai'
import fc from 'fast-check'
import { contentsOf } from './contents.ts'
import { plainly } from './plain-word.ts'
import { areWordsOf, valueOf } from './value-words.ts'
import { fixedValues } from './fixed-values.ts'

describe('a word as it is compared', () => {
  for (const [text, plain] of [
    ['  Expected Result: ', 'expected result'],
    ['Dauer (min)', 'dauer'],
    ['3. Schritt', 'schritt'],
    ['Résultat\nattendu', 'resultat attendu'],
    ['優先度【高・低】', '優先度'],
    ['N° étape', 'n etape'],
    ['Größe', 'grosse'],
    ['Step #', 'step no'],
    ['ガス', 'ガス'],
    ['한글', '한글'],
    ['(min)', 'min'],
    ['A ⅐', 'a'],
    ['1. 2. Schritt 3 4', 'schritt'],
    ['', ''],
  ] as const)
    it(`is “${plain}” for “${text.replaceAll('\n', '⏎')}”`, () => expect(plainly(text)).to.equal(plain))
  it('is the same when it is compared again', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 30 }), (text) => {
        const once = plainly(text)
        expect(plainly(once)).to.equal(once)
      }),
    )
  })
})

it('a word is found in one pass, however much of what is left out stands there', () => {
  const much = 300_000
  expect(plainly('['.repeat(much))).to.equal('')
  expect(plainly(`a${'('.repeat(much)}b)`)).to.equal('a')
  expect(plainly(`a${' 1'.repeat(much)} b`)).to.match(/^a( 1)+ b$/)
  expect(plainly(`${'1 '.repeat(much)}b`)).to.equal('b')
})

describe('words of fixed values', () => {
  it('stand for what the field has, in any language and case', () => {
    const level = (text: string) => valueOf('importance', text, fixedValues.importance)
    expect(['HIGH', 'hoch', 'élevée', 'Alta', 'wysoki', 'vysoká', 'hög', '高', '높음', 'P2'].map(level)).to.deep.equal(
      Array.from({ length: 10 }, () => 'High'),
    )
    expect(level('somewhat')).to.equal(null)
  })
  it('are what a person says before anything else', () => {
    const choices = fixedValues.importance
    expect(valueOf('importance', 'High', choices, { high: 'Low' })).to.equal('Low')
    expect(valueOf('importance', 'High', choices, { high: 'no such value' })).to.equal('High')
  })
  it('tell their column when all of them are known', () => {
    expect([areWordsOf('importance', ['P1', 'mittel']), areWordsOf('importance', ['P1', 'red'])]).to.deep.equal([
      true,
      false,
    ])
    expect(areWordsOf('importance', [])).to.equal(false)
  })
})

describe('the contents of a column', () => {
  it('are step numbers when they count on and begin again', () => {
    expect(contentsOf(['1', '2', '1', '', '2', '3'])).to.include({ counts: true, restarts: true, filled: 5 })
    expect(contentsOf(['1', '2', '3'])).to.include({ counts: true, restarts: false })
    expect(contentsOf(['1', '3', '1'])).to.include({ counts: false })
    expect(contentsOf(['12.50', '3'])).to.include({ counts: false, numeric: true })
  })
  it('are keys, sentences or few words', () => {
    expect(contentsOf(['TC-1', 'TC-22', 'login_003']).keys).to.equal(true)
    expect(contentsOf(['TC-1', 'Pay by card']).keys).to.equal(false)
    expect(contentsOf(['a', 'a', 'b', 'b']).variety).to.equal(0.5)
    expect(contentsOf([])).to.include({ filled: 0, length: 0, counts: false, importance: false })
  })
})
