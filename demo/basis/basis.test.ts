import { expect } from 'chai'
import { faultIds } from '../../standins/crossing-desk/faults.ts'
import { basis, basisRoutines as known } from './all.ts'
import type { WrittenCase, WrittenStep } from './read-basis.ts'

const { requirements, cases } = basis
const ownSteps = ({ steps }: WrittenCase): WrittenStep[] => steps.flatMap((step) => ('action' in step ? [step] : []))
const told = (all: readonly { readonly title: string }[]) => all.map(({ title }) => title)
const braces = (text: string): string[] => [...text.matchAll(/\{(\w+)\}/g)].map(([, name = '']) => name)

describe('the basis of the sample project', () => {
  it('is large enough, and each thing has a title of its own', () => {
    expect(requirements.length).to.be.at.least(35)
    expect(cases.length).to.be.at.least(200)
    expect(new Set(told(cases)).size).to.equal(cases.length)
    expect(new Set(told(requirements)).size).to.equal(requirements.length)
  })
  it('says of each requirement what holds and why its risk is so', () => {
    expect(told(requirements.filter(({ text, risk }) => text.length < 60 || risk.length < 15))).to.deep.equal([])
    expect(
      told(
        requirements.filter(
          ({ likelihood, impact }) => !(likelihood >= 1 && likelihood <= 5 && impact >= 1 && impact <= 5),
        ),
      ),
    ).to.deep.equal([])
  })
  it('has steps in each case that is no draft, and none in one that is', () =>
    expect(told(cases.filter(({ draft, steps }) => draft !== (steps.length === 0)))).to.deep.equal([]))
  it('has no filler: what is done stands in few cases outside routines', () => {
    const counts = new Map<string, number>()
    for (const own of cases) for (const { action } of ownSteps(own)) counts.set(action, (counts.get(action) ?? 0) + 1)
    expect([...counts].filter(([, n]) => n > 3)).to.deep.equal([])
  })
  it('expects something that can be looked for, and not its own title', () => {
    const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')
    const wrong = cases.filter((own) =>
      ownSteps(own).some(({ expected }) => expected.length < 4 || plain(expected) === plain(own.title)),
    )
    expect(told(wrong)).to.deep.equal([])
  })
  it('names data where a value is meant, and means each value that it names', () => {
    for (const own of cases) {
      const texts = own.steps.flatMap((step) => ('action' in step ? [step.action, step.expected] : step.values))
      const used = new Set(texts.flatMap(braces))
      expect([own.title, [...used].sort()]).to.deep.equal([own.title, [...own.columns].sort()])
      expect(
        own.rows.every((row) => row.length === own.columns.length && row.every((cell) => cell !== '')),
        own.title,
      ).to.equal(true)
      expect(own.columns.length === 0 || own.rows.length >= 2, own.title).to.equal(true)
    }
  })
  it('gives each routine the values it asks for', () => {
    for (const own of cases)
      for (const step of own.steps) {
        if ('action' in step) continue
        const routine = known.find(({ title }) => title === step.routine)
        expect([own.title, step.values.length]).to.deep.equal([own.title, routine?.asks.length ?? step.routine])
      }
    for (const { asks, steps } of known)
      expect(new Set(steps.flatMap(({ action, expected }) => [...braces(action), ...braces(expected)]))).to.deep.equal(
        new Set(asks),
      )
  })
  it('meets each fault of Crossing Desk in a case', () => {
    const met = new Set(cases.flatMap(ownSteps).flatMap(({ fault }) => fault ?? []))
    expect(faultIds.filter((id) => !met.has(id))).to.deep.equal([])
  })
})
