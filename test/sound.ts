import { expect } from 'chai'
import { standingFromAttempts } from '#db/reports/facts.ts'
import { allStanding } from '#db/reports/standing.ts'
import { wrongItems } from '#db/runs/items.ts'
import type { Shop } from './app.ts'

const sorted = (all: readonly object[]): string[] =>
  all.map((each) => JSON.stringify(Object.entries(each).sort())).sort()

/** What is derived of results is what their attempts say. */
export function expectSound({ db }: Pick<Shop, 'db'>): void {
  expect(sorted(allStanding(db))).to.deep.equal(sorted(standingFromAttempts(db, {})))
  expect(wrongItems(db)).to.deep.equal([])
}
