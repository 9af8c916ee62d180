import { expect } from 'chai'
import { type Column, columnsText, parseColumns } from './columns.ts'

const columns: Column<object>[] = [
  { name: 'title', label: 'Title', width: 0, cell: () => '' },
  { name: 'risk', label: 'Risk', width: 40, cell: () => '' },
  { name: 'kind', label: 'Kind', width: 40, usual: false, cell: () => '' },
]
it('shows the usual columns until somebody chooses', () =>
  expect(parseColumns(null, columns).shown).to.deep.equal(['title', 'risk']))
it('keeps order and widths in the address, and passes over what is unknown or absurd', () => {
  const state = parseColumns('kind,title:200,colour,risk:9999', columns)
  expect(state).to.deep.equal({ shown: ['kind', 'title', 'risk'], widths: { title: 200 } })
  expect(parseColumns(columnsText(state), columns)).to.deep.equal(state)
})
