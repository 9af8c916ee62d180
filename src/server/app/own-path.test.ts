import { expect } from 'chai'
import fc from 'fast-check'
import { ownPath } from './own-path.ts'

it('keeps a path of our own, with its question and its place', () => {
  for (const path of ['/', '/p/FERRY/TC-4?release=2.4#steps', '/p/FERRY/cases?filter=%7B%22all%22%3A%5B%5D%7D'])
    expect(ownPath(path)).to.equal(path)
})
it('leads nowhere else, however that is written', () => {
  for (const asked of [
    'https://elsewhere.example/',
    '//elsewhere.example',
    '/\\elsewhere.example',
    '\\\\elsewhere.example',
    '/\t/elsewhere.example',
    '/\n/elsewhere.example',
    '/.//elsewhere.example',
    '/..//',
    '/.//',
    '/x/..//elsewhere.example',
    '\t//elsewhere.example',
    ' //elsewhere.example',
    'javascript:alert(1)',
    'data:text/html,x',
    '/\u0000/elsewhere.example',
    'elsewhere',
    '',
  ])
    expect(new URL(ownPath(asked), 'http://here.invalid').origin, asked).to.equal('http://here.invalid')
})
it('answers what every browser reads as an address of here', () => {
  const odd = fc.constantFrom('/', '\\', '.', '..', '\t', '\n', '\r', ':', '@', '%2f', 'http:', 'a', ' ', '?', '#')
  fc.assert(
    fc.property(fc.array(odd, { maxLength: 8 }), (parts) => {
      expect(new URL(ownPath(parts.join('')), 'http://here.invalid').host).to.equal('here.invalid')
    }),
    { numRuns: 2000 },
  )
})
