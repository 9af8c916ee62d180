import { expect } from 'chai'
import fc from 'fast-check'
import { peopleIn } from './people-list.ts'

const one = (line: string) => peopleIn(line).people[0]

describe('people out of a pasted list', () => {
  it('reads what mail programs, lists and sheets give', () => {
    const mira = { name: 'Mira Kell', email: 'mira@tarnsey.example', role: null }
    for (const line of [
      'Mira Kell <mira@tarnsey.example>',
      '"Mira Kell" <mira@tarnsey.example>,',
      'Mira Kell; mira@tarnsey.example',
      'mira@tarnsey.example, Mira Kell',
      'Mira\tKell\tMira@Tarnsey.example',
      '"Mira","Kell","mira@tarnsey.example"',
    ])
      expect(one(line), line).to.deep.equal(mira)
  })
  it('takes a role that stands in a cell of its own', () => {
    expect(one('Tobin Rask; tobin@tarnsey.example; Tester')).to.deep.equal({
      name: 'Tobin Rask',
      email: 'tobin@tarnsey.example',
      role: 'tester',
    })
    expect(one('Lead Smith <l@tarnsey.example>')?.role).to.equal(null)
  })
  it('makes a name of an address alone', () => expect(one('oda.brandt@tarnsey.example')?.name).to.equal('Oda Brandt'))
  it('passes over a heading and empty lines, and takes nobody twice', () => {
    const { people, problems } = peopleIn('Name;E-mail;Role\n\nA B;a@x.example;lead\r\nAgain;A@x.example\n')
    expect([people.map(({ email, role }) => [email, role]), problems]).to.deep.equal([[['a@x.example', 'lead']], []])
  })
  it('says of each other line what is wrong with it', () => {
    const { people, problems } = peopleIn('Mira Kell\na@x.example\nb@x.example, c@x.example')
    expect(people).to.have.length(1)
    expect(problems.map(({ line, why }) => [line, why])).to.deep.equal([
      [1, 'there is no e-mail address in it'],
      [3, 'there are two e-mail addresses in it'],
    ])
  })
  it('reads whatever is pasted without an error, each line once at most', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        const { people, problems } = peopleIn(text)
        expect(people.length + problems.length).to.be.at.most(text.split(/\r\n|\r|\n/).length)
        for (const { name, email } of people) {
          expect(name.length).to.be.at.most(100)
          expect(email).to.equal(email.toLowerCase())
        }
      }),
    ))
})
