import { expect } from 'chai'
import { defectStates, isOpen, awaitsRepair, isRepaired, moveRefusal, nextStates, openDefectStates } from './state.ts'

describe('states of defects', () => {
  it('lead from each to others, and back from the ended ones', () => {
    for (const state of defectStates) {
      expect(nextStates(state)).to.not.include(state)
      expect(nextStates(state).length).to.be.greaterThan(0)
    }
    expect(nextStates('Closed')).to.include('Confirmed')
    expect(nextStates('Rejected')).to.include('Reported')
  })
  it('can each be reached', () => {
    const reached = new Set<string>(['Reported'])
    for (const _ of defectStates)
      for (const state of defectStates) if (reached.has(state)) for (const next of nextStates(state)) reached.add(next)
    expect([...reached]).to.have.members([...defectStates])
  })
  it('are open or ended, repaired or not', () => {
    expect(openDefectStates).to.deep.equal(['Reported', 'Confirmed', 'In repair', 'Ready to retest'])
    expect(defectStates.filter(isRepaired)).to.deep.equal(['Ready to retest', 'Closed'])
    expect(defectStates.filter(awaitsRepair)).to.deep.equal(['Reported', 'Confirmed', 'In repair'])
    expect(isOpen('Rejected')).to.equal(false)
  })
})

describe('moving a defect', () => {
  it('is refused by naming where it can go', () => {
    expect(moveRefusal('Ready to retest', 'Rejected', 3)).to.equal(
      'A defect that is Ready to retest cannot become Rejected; it can become Closed, In repair, Confirmed.',
    )
  })
  it('to a retest asks for the build of the repair', () => {
    expect(moveRefusal('Confirmed', 'Ready to retest', null)).to.include('Name the build')
    expect(moveRefusal('Confirmed', 'Ready to retest', 4)).to.equal(null)
  })
  it('to where it is changes nothing', () => {
    expect(moveRefusal('Closed', 'Closed', null)).to.equal(null)
  })
})
