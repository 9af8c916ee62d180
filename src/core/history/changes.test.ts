import { expect } from 'chai'
import { changedFields, initials } from './changes.ts'

it('keeps only what really changed, from and to', () =>
  expect(
    changedFields({ title: 'a', risk: null, tags: ['x'] }, { title: 'b', risk: null, tags: ['x'], owner: undefined }),
  ).to.deep.equal({ title: ['a', 'b'] }))
it('makes initials of one name or several', () =>
  expect([initials('Mira Kell'), initials('Oda'), initials('Jan van Dam')]).to.deep.equal(['MK', 'O', 'JD']))
