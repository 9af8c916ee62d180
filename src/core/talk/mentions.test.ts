import { expect } from 'chai'
import { it } from 'mocha'
import { mentionsIn } from './mentions.ts'

const people = [
  { id: 'mira', name: 'Mira Kell' },
  { id: 'tobin', name: 'Tobin Rask' },
  { id: 'ansa', name: 'Ansa Lind' },
  { id: 'ansa2', name: 'Ansa Moe' },
]

it('finds people by whole name, or by a first name that is theirs alone', () => {
  expect(mentionsIn('@mira, look; so should @Tobin Rask.', people)).to.deep.equal(['mira', 'tobin'])
  expect(mentionsIn('@Ansa is not clear, @Ansa Moe is', people)).to.deep.equal(['ansa2'])
})
it('takes no part of a word and no e-mail address for a name', () =>
  expect(mentionsIn('me@mira.example, @miranda, mira', people)).to.deep.equal([]))
