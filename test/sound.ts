import { expect } from 'chai'
import { projectIds } from '#db/projects/projects.ts'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { allStanding } from '#db/reports/standing.ts'
import { wrongItems } from '#db/runs/items.ts'
import { wrongMinutes } from '#server/schedule/learn-minutes.ts'
import type { Shop } from './app.ts'

const sorted = (all: readonly object[]): string[] =>
  all.map((each) => JSON.stringify(Object.entries(each).sort())).sort()

/** What is derived of results is what their attempts say. */
export function expectSound({ db }: Pick<Shop, 'db'>): void {
  // The word is not kept: it is read from the attempt that stands.
  const given = standingFromAttempts(db, {}).map(({ word: _, ...rest }) => rest)
  expect(sorted(allStanding(db))).to.deep.equal(sorted(given))
  expect(wrongItems(db)).to.deep.equal([])
  for (const id of projectIds(db)) expect(wrongMinutes(db, id).changed).to.deep.equal([])
}
