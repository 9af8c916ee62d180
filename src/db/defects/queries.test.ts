import { expect } from 'chai'
import { minute, shop, type Shop } from '#test/app.ts'
import { caseOf, execute, idOf, makeCase, makeDefect, makeRun, start, whole } from '#test/make.ts'
import { addAttachment, hideAttachment } from '#db/talk/queries.ts'
import {
  addDefectLink,
  addDefectState,
  defectEvidence,
  defectLinks,
  defectRows,
  defectsHere,
  findDefect,
  likelyRepeats,
  placesOfDefect,
  saveDefect,
  statesOfDefect,
} from './queries.ts'

describe('defects as they are stored', () => {
  let own: Shop
  let project: number
  let card: number
  let items: readonly { id: number }[]
  let attempt: Awaited<ReturnType<typeof execute>>
  let defect: number
  beforeEach(async () => {
    own = shop()
    project = own.project().id
    const key = await makeCase(own.lead, 'Pay by card', { steps: ['Tap => Paid', 'Look => One charge'] })
    card = await idOf(own.lead, key)
    items = (await makeRun(own, [key], { environments: own.environments })).items
    attempt = await execute(own, items[0]?.id ?? 0, 'Failed')
    await makeDefect(own, attempt)
    defect = findDefect(own.db, project, 1)?.id ?? 0
  })

  it('a link tells the very step, row, build and environment it was found at', async () => {
    const [link] = defectLinks(own.db, defect)
    expect(link).to.deep.include({ attempt: attempt.id, attemptVerdict: 'Failed', attemptBuild: '1.0.1', row: 1 })
    expect(link).to.deep.include({ environment: 'Red', stepNumber: 1, case: 'TC-1', run: 'RN-1', requirement: null })
    expect(link?.step).to.equal((await caseOf(own.lead, 'TC-1')).content.steps[0]?.id)
  })

  it('places are told once each, however often the defect was met there', async () => {
    const again = (id: number, step: number | null) =>
      addDefectLink(own.db, {
        defectId: defect,
        caseId: card,
        attemptId: id,
        row: 1,
        stepId: step,
        fromAt: own.now(),
      })
    again(attempt.id, null)
    const elsewhere = await start(own, items[1]?.id ?? 0)
    await whole(own, elsewhere.id, 'Failed')
    again(elsewhere.id, null)
    const buildId = own.builds[1]
    expect(placesOfDefect(own.db, defect)).to.have.deep.members(
      own.environments.map((environmentId) => ({ caseId: card, environmentId, buildId })),
    )
  })

  it('at the desk, the defects of this very attempt come first', async () => {
    own.pass(minute)
    const second = await execute(own, items[1]?.id ?? 0, 'Failed')
    await makeDefect(own, second)
    const told = (attemptId: number | null) =>
      defectsHere(own.db, { caseId: card, attemptId }).map(({ key, here }) => [key, here])
    expect(told(attempt.id)).to.deep.equal([
      ['DF-1', true],
      ['DF-2', false],
    ])
    expect(told(second.id)[0]).to.deep.equal(['DF-2', true])
    expect(told(null)).to.deep.equal([
      ['DF-2', false],
      ['DF-1', false],
    ])
  })

  it('an open defect on the same case is a likely repeat; one that is closed or elsewhere is not', async () => {
    expect(likelyRepeats(own.db, project, card).map(({ key }) => key)).to.deep.equal(['DF-1'])
    expect(likelyRepeats(own.db, project, card + 1)).to.deep.equal([])
    expect(likelyRepeats(own.db, project + 1, card)).to.deep.equal([])
    saveDefect(own.db, defect, { state: 'Closed' })
    expect(likelyRepeats(own.db, project, card)).to.deep.equal([])
  })

  it('evidence is that of the step the defect was found at, and of the whole attempt', () => {
    const [one = 0, two = 0] = attempt.steps.map(({ id }) => id)
    const file = (name: string, stepId: number | null) =>
      addAttachment(own.db, {
        projectId: project,
        ownerKind: 'attempt',
        ownerId: attempt.id,
        stepId,
        name,
        hash: name,
        size: 1,
        mime: 'image/png',
        at: own.now(),
        personId: 'tester',
      })
    const shown = file('shown.png', one)
    file('other-step.png', two)
    file('whole.png', null)
    const names = () => defectEvidence(own.db, 'SHOP', defect).map(({ name }) => name)
    expect(names()).to.deep.equal(['shown.png', 'whole.png'])
    expect(defectEvidence(own.db, 'SHOP', defect)[0]?.url).to.equal(`/api/v1/projects/SHOP/evidence/${shown}`)
    hideAttachment(own.db, shown, own.now())
    expect(names()).to.deep.equal(['whole.png'])
  })

  it('states are told from the first to the last, with who and in which build it was repaired', () => {
    addDefectState(own.db, {
      defectId: defect,
      state: 'Ready to retest',
      fixedInBuildId: own.builds[1],
      at: own.now() + minute,
      personId: 'lead',
    })
    expect(statesOfDefect(own.db, defect).map(({ state, person, fixedIn }) => [state, person, fixedIn])).to.deep.equal([
      ['Reported', 'Tester Person', null],
      ['Ready to retest', 'Lead Person', '1.0.1'],
    ])
  })

  it('rows come in the order asked for, and a deleted one is left out', async () => {
    await makeDefect(own, attempt)
    const second = findDefect(own.db, project, 2)?.id ?? 0
    const keys = () => defectRows(own.db, project, [second, defect]).map(({ key }) => key)
    expect(keys()).to.deep.equal(['DF-2', 'DF-1'])
    saveDefect(own.db, defect, { deletedAt: own.now() })
    expect(keys()).to.deep.equal(['DF-2'])
  })
})
