import { expect } from 'chai'
import fc from 'fast-check'
import { it } from 'mocha'
import { versionName } from '#core/cases/steps.ts'
import { addPerson, nobody } from '#db/people/people.ts'
import { addProject, findProjectById } from '#db/projects/projects.ts'
import { findCase } from '#db/cases/cases.ts'
import { versionsOf, workingCopy } from '#db/cases/versions.ts'
import { contextOf } from '#server/http/context.ts'
import { memoryDb } from '../../../test/memory.ts'
import { restoreVersion } from './compare-case.ts'
import { cutVersion } from './cut-version.ts'
import { readVersion } from './read-case.ts'
import { reviewCase } from '#server/review/review-case.ts'
import { storeWorkingCopy } from './store-working-copy.ts'
import { writeCaseLines } from './write-case-lines.ts'

const act = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({ do: fc.constant('write' as const), text: fc.constantFrom('open', 'pay', 'leave', 'look') }),
  },
  fc.record({ do: fc.constant('cut' as const) }),
  fc.record({ do: fc.constant('ask' as const) }),
  fc.record({ do: fc.constant('approve' as const) }),
  fc.record({ do: fc.constant('restore' as const), at: fc.nat(6) }),
)

it('never gives a version number twice, never an older one, and never changes what a version says', () =>
  fc.assert(
    fc.property(fc.array(act, { maxLength: 24 }), (acts) => {
      const db = memoryDb()
      for (const id of ['ada', 'ben'])
        addPerson(db, { id, name: id, email: `${id}@x.example`, administrator: false, passwordHash: '' }, 1)
      const project = findProjectById(db, addProject(db, { key: 'P', name: 'P', product: 'P', createdAt: 1 }))
      if (!project) throw new Error('no project')
      let now = 1
      const as = (id: string) =>
        contextOf({
          tx: db,
          now: ++now,
          person: { ...nobody, id, name: id, email: '', administrator: false },
          project,
          role: 'lead',
          expected: 0,
          limit: null,
        }).context
      writeCaseLines(as('ada'), {
        params: { key: 'P' },
        query: undefined,
        body: { lines: 'A case', requirement: null, folder: null, template: null },
      })
      const params = { key: 'P', ref: 1 }
      const own = findCase(db, project.id, 1)
      if (!own) throw new Error('no case')
      const seen = new Map<number, string>()
      let newest: readonly [number, number] = [0, 0]
      for (const each of acts) {
        try {
          if (each.do === 'write')
            storeWorkingCopy(as('ada'), {
              params,
              query: undefined,
              body: {
                stamp: workingCopy(db, own.id).fingerprint,
                content: {
                  preconditions: '',
                  parameters: [],
                  rows: [],
                  steps: [{ id: null, action: each.text, expected: '', data: '' }],
                },
              },
            })
          if (each.do === 'cut') cutVersion(as('ada'), { params, query: undefined, body: { why: '' } })
          if (each.do === 'ask')
            reviewCase(as('ada'), { params, query: undefined, body: { to: 'In review', people: [], why: '' } })
          if (each.do === 'approve')
            reviewCase(as('ben'), { params, query: undefined, body: { to: 'Approved', people: [], why: '' } })
          const versions = versionsOf(db, own.id)
          if (each.do === 'restore' && versions[each.at])
            restoreVersion(as('ada'), { params, query: undefined, body: { version: versions[each.at]?.id ?? 0 } })
        } catch (error) {
          if (!(error instanceof Error) || !('sentence' in error)) throw error
        }
        const versions = versionsOf(db, own.id)
        expect(new Set(versions.map(({ major, minor }) => versionName(major ?? 0, minor ?? 0))).size).to.equal(
          versions.length,
        )
        const [top] = versions
        if (top) {
          const [major, minor] = [top.major ?? 0, top.minor ?? 0]
          expect(
            major > newest[0] || (major === newest[0] && minor >= newest[1]),
            `${versionName(major, minor)} after ${versionName(newest[0], newest[1])}`,
          ).to.equal(true)
          newest = [major, minor]
        }
        for (const version of versions) {
          const told = JSON.stringify(
            readVersion(as('ada'), { params: { key: 'P', id: version.id }, query: undefined, body: undefined }).content,
          )
          if (seen.has(version.id)) expect(told).to.equal(seen.get(version.id))
          seen.set(version.id, told)
        }
      }
    }),
    { numRuns: 80 },
  ))
