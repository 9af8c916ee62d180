import { expect } from 'chai'
import fc from 'fast-check'
import { plainText } from '#core/lib/plain-text.ts'
import { replaceFields, replaceIn, type Replacing } from './replace.ts'
import { emptyContent } from './steps.ts'

const replacing = (of: Partial<Replacing>): Replacing => ({
  find: 'clerk',
  put: 'agent',
  matchCase: false,
  wholeWords: false,
  fields: replaceFields,
  ...of,
})
const content = (action: string, expected = '') => ({ ...emptyContent, steps: [{ id: 4, action, expected, data: '' }] })

it('replaces in every field asked for and names each place', () => {
  const done = replaceIn(
    'Clerk pays',
    { ...content('Sign in as Clerk', 'The clerk is shown'), preconditions: 'A clerk' },
    replacing({}),
  )
  expect([
    done.title,
    done.content.preconditions,
    done.content.steps[0]?.action,
    done.content.steps[0]?.expected,
    done.content.steps[0]?.id,
  ]).to.deep.equal(['agent pays', 'A agent', 'Sign in as agent', 'The agent is shown', 4])
  expect(done.places.map(({ field, step }) => [field, step])).to.deep.equal([
    ['title', null],
    ['preconditions', null],
    ['action', 0],
    ['expected', 0],
  ])
  expect(replaceIn('Clerk pays', content('a clerk'), replacing({ fields: ['action'] })).places).to.have.length(1)
})
it('minds case and whole words when asked', () => {
  const text = content('Clerk, clerks and the clerk')
  expect(replaceIn('', text, replacing({ matchCase: true })).content.steps[0]?.action).to.equal(
    'Clerk, agents and the agent',
  )
  expect(replaceIn('', text, replacing({ wholeWords: true })).content.steps[0]?.action).to.equal(
    'agent, clerks and the agent',
  )
})
it('steps over marks, finds what is written as an entity, and writes marks as text', () => {
  expect(
    replaceIn('', content('Press <b>b</b> &amp; <em>go</em>'), replacing({ find: 'b', put: 'c' })).content.steps[0]
      ?.action,
  ).to.equal('Press <b>c</b> &amp; <em>go</em>')
  expect(replaceIn('', content('1 &lt; 2'), replacing({ find: '<', put: '>' })).content.steps[0]?.action).to.equal(
    '1 &gt; 2',
  )
  expect(replaceIn('', content('x'), replacing({ find: 'x', put: '<img src=y>' })).content.steps[0]?.action).to.equal(
    '&lt;img src=y&gt;',
  )
})
it('takes nothing in the search for a pattern, and a dollar for a dollar', () => {
  expect(replaceIn('', content('a.c abc'), replacing({ find: 'a.c', put: '$&' })).content.steps[0]?.action).to.equal(
    '$&amp; abc',
  )
})
it('keeps a title that would become empty, and follows a renamed parameter', () => {
  expect(replaceIn('clerk', content('x'), replacing({ put: '' })).title).to.equal('clerk')
  expect(
    replaceIn('', { ...content('Pay {card}'), parameters: ['card'] }, replacing({ find: '{card}', put: '{voucher}' }))
      .content.parameters,
  ).to.deep.equal(['voucher'])
})
it('replaces as a plain search over what is read would', () =>
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('ab', 'a', ' ', '&amp;', 'B'), { maxLength: 8 }),
      fc.constantFrom('a', 'ab', '&', 'b'),
      fc.constantFrom('', 'x', 'a&b'),
      (parts, find, put) => {
        const done = replaceIn('', content(parts.join('')), replacing({ find, put, matchCase: true }))
        return (
          plainText(done.content.steps[0]?.action ?? '').trim() ===
          plainText(parts.join('')).split(find).join(put).trim()
        )
      },
    ),
    { numRuns: 500 },
  ))
