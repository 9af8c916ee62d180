import { expect } from 'chai'
import fc from 'fast-check'
import { allRoles, higherRole, mayDo, type Right, rights, roles } from './rights.ts'

const rightNames = Object.keys(rights) as Right[]
const anyRight = fc.constantFrom(...rightNames)
const anyRole = fc.option(fc.constantFrom(...roles), { nil: null })

describe('rights', () => {
  it('gives each right to the role it names and to all above, and to none below', () =>
    fc.assert(
      fc.property(anyRight, fc.constantFrom(...allRoles), (right, role) => {
        expect(mayDo(role, right)).to.equal(allRoles.indexOf(role) >= allRoles.indexOf(rights[right].least))
      }),
    ))
  it('gives nothing to nobody', () => {
    for (const right of rightNames) expect(mayDo(null, right), right).to.equal(false)
  })
  it('keeps the people of the installation to administrators, and verdicts from viewers', () => {
    expect([mayDo('lead', 'keepPeople'), mayDo('administrator', 'keepPeople')]).to.deep.equal([false, true])
    expect([mayDo('viewer', 'execute'), mayDo('tester', 'execute')]).to.deep.equal([false, true])
  })
  it('tells the higher of two roles, in whatever order', () =>
    fc.assert(
      fc.property(anyRole, anyRole, (one, other) => {
        const higher = higherRole(one, other)
        expect([one, other]).to.include(higher)
        expect(higherRole(other, one)).to.equal(higher)
        for (const right of rightNames)
          expect(mayDo(higher, right), right).to.equal(mayDo(one, right) || mayDo(other, right))
      }),
    ))
  it('says each right in a sentence of its own', () => {
    const told = rightNames.map((right) => rights[right].says)
    expect(new Set(told).size).to.equal(told.length)
    for (const each of told) expect(each).to.match(/^[A-Z].{12,}/)
  })
})
