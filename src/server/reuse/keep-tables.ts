import type {
  createTable as createContract,
  deleteTable as deleteContract,
  fillTable as fillContract,
  holdRow as holdContract,
  listTables as listContract,
  readTable as readContract,
  releaseRow as releaseContract,
  updateTable as updateContract,
} from '#core/reuse/table-contract.ts'
import { groupBy } from '#core/lib/group.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  addTable,
  addTableRow,
  casesOfTable,
  dropTableRow,
  emptyTableAgain,
  fillUpTable,
  holdersOf,
  rowsOfTable,
  saveTable,
  saveTableRow,
  tableById,
  tableNamed,
  type TableRowStored,
  tableRows,
  type TableStored,
  usedUpRows,
  useRowUp,
} from '#db/reuse/data-tables.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listTables = ({ tx, project }: Context): Answer<typeof listContract> => ({
  rows: tableRows(tx, project.id),
})

const tableIn = ({ tx, project }: Context, id: number): TableStored =>
  found(tableById(tx, project.id, id), 'data table with this number')

function noSecond({ tx, project }: Context, name: string, own?: number): void {
  const twin = tableNamed(tx, project.id, name)
  if (twin && twin.id !== own)
    throw new Refusal('refused', `There is a data table called ${name} already; nothing was stored.`)
}

export function createTable(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  noSecond(context, body.name)
  const id = addTable(context.tx, context.project.id, body.name, [...new Set(body.columns)])
  context.change({ kind: 'table', id, ref: body.name, action: 'created' })
  return { id }
}

export function readTable(context: Context, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const { tx, project, person } = context
  const stored = tableIn(context, params.id)
  const [row] = tableRows(tx, project.id, stored.id)
  if (!row) throw new Error(`table ${stored.id} has no row`)
  const used = groupBy(usedUpRows(tx, stored.id, null), ({ row: id }) => id)
  const holders = new Map(holdersOf(tx, stored.id).map((each) => [each.row, each]))
  return {
    ...row,
    usedBy: casesOfTable(tx, stored.id),
    values: rowsOfTable(tx, stored.id).map((each) => {
      const holder = holders.get(each.id)
      return {
        id: each.id,
        values: each.values,
        heldBy: holder?.person ?? null,
        heldAt: each.heldAt,
        heldIn: holder?.case ?? null,
        mine: each.heldBy === person.id,
        usedIn: (used.get(each.id) ?? []).map(({ environment }) => environment),
      }
    }),
  }
}

/** Name, columns or rows; a row somebody has checked out can be changed but not taken away. */
export function updateTable(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx } = context
  const stored = tableIn(context, params.id)
  checkVersion(context, stored, `The data table ${stored.name}`)
  if (body.name !== undefined) noSecond(context, body.name, stored.id)
  if (body.rows) storeRows(context, stored, body.rows)
  const version = stored.version + 1
  saveTable(tx, stored.id, {
    version,
    ...(body.name !== undefined && { name: body.name }),
    ...(body.usedUp !== undefined && { usedUp: body.usedUp }),
    ...(body.columns && { columns: JSON.stringify([...new Set(body.columns)]) }),
  })
  context.change({ kind: 'table', id: stored.id, ref: body.name ?? stored.name, action: 'changed' })
  return { version }
}

function storeRows(
  { tx }: Context,
  stored: TableStored,
  rows: readonly { id: number | null; values: Record<string, string> }[],
): void {
  const before = new Map(rowsOfTable(tx, stored.id).map((row) => [row.id, row]))
  rows.forEach(({ id, values }, index) => {
    if (id !== null && !before.has(id))
      throw new Refusal(
        'conflict',
        `A row of ${stored.name} is not there any more; nothing was stored. Look at the table again.`,
      )
    if (id === null) addTableRow(tx, stored.id, index + 1, values)
    else saveTableRow(tx, id, { position: index + 1, values })
    if (id !== null) before.delete(id)
  })
  for (const gone of before.values()) {
    if (gone.heldBy !== null)
      throw new Refusal(
        'refused',
        `Row ${gone.position} of ${stored.name} is checked out; it can be taken away when it is given back. Nothing was stored.`,
      )
    dropTableRow(tx, gone.id)
  }
}

/** What was used up is there again. */
export function fillTable(context: Context, { params, body }: Input<typeof fillContract>): Answer<typeof fillContract> {
  const { tx, now } = context
  const stored = tableIn(context, params.id)
  const rows =
    body.back === undefined
      ? fillUpTable(tx, stored.id, body.environment, now)
      : emptyTableAgain(tx, stored.id, body.back)
  if (rows > 0) context.change({ kind: 'table', id: stored.id, ref: stored.name, action: 'filled up' })
  return { rows, at: now }
}

export function deleteTable(
  context: Context,
  { params, query }: Input<typeof deleteContract>,
): Answer<typeof deleteContract> {
  if (query.undo === 'yes') return bringBack(context, params.id)
  const stored = tableIn(context, params.id)
  const [used] = casesOfTable(context.tx, stored.id)
  if (used)
    throw new Refusal(
      'refused',
      `${used.key} takes its rows from ${stored.name}; choose other rows there first. Nothing was deleted.`,
    )
  saveTable(context.tx, stored.id, { deletedAt: context.now })
  context.change({ kind: 'table', id: stored.id, ref: stored.name, action: 'deleted' })
  return { ok: true }
}

function bringBack(context: Context, id: number): Answer<typeof deleteContract> {
  const stored = tableById(context.tx, context.project.id, id)
  if (!stored || stored.deletedAt === null)
    throw new Refusal('not-found', 'There is no deleted data table with this number in this project.')
  noSecond(context, stored.name)
  saveTable(context.tx, id, { deletedAt: null })
  context.change({ kind: 'table', id, ref: stored.name, action: 'restored' })
  return { ok: true }
}

function rowIn(context: Context, table: TableStored, id: number): TableRowStored {
  const row = rowsOfTable(context.tx, table.id).find((each) => each.id === id)
  if (!row) throw new Refusal('not-found', `There is no such row in ${table.name} any more.`)
  return row
}

export function holdRow(context: Context, { params, body }: Input<typeof holdContract>): Answer<typeof holdContract> {
  const stored = tableIn(context, params.id)
  const row = rowIn(context, stored, body.row)
  if (row.heldBy !== null && row.heldBy !== context.person.id)
    throw new Refusal('refused', `Row ${row.position} of ${stored.name} is with ${holderName(context, stored, row)}.`)
  saveTableRow(context.tx, row.id, { heldBy: context.person.id, heldAt: context.now, heldAttemptId: null })
  context.change({ kind: 'table', id: stored.id, ref: stored.name, action: 'row checked out', verdict: true })
  return { ok: true }
}

export function releaseRow(
  context: Context,
  { params, body }: Input<typeof releaseContract>,
): Answer<typeof releaseContract> {
  const stored = tableIn(context, params.id)
  const row = rowIn(context, stored, body.row)
  if (row.heldBy !== null && row.heldBy !== context.person.id && context.role !== 'lead')
    throw new Refusal(
      'not-allowed',
      `Row ${row.position} of ${stored.name} is with ${holderName(context, stored, row)}; only they or a lead can give it back.`,
    )
  saveTableRow(context.tx, row.id, { heldBy: null, heldAt: null, heldAttemptId: null })
  context.change({ kind: 'table', id: stored.id, ref: stored.name, action: 'row given back', verdict: true })
  return { ok: true }
}

const holderName = ({ tx }: Context, table: TableStored, row: TableRowStored): string =>
  holdersOf(tx, table.id).find(({ row: id }) => id === row.id)?.person ?? 'somebody'

/** The rows an attempt of this version executes, taken from its data table: all of them, or one that nobody has, checked out until the attempt ends. */
export function takeRows(
  context: Context,
  of: {
    readonly tableId: number
    readonly mode: 'each' | 'one'
    readonly attemptId: number
    readonly environmentId: number
  },
): Record<string, string>[] {
  const table = found(tableById(context.tx, context.project.id, of.tableId), 'data table for this case')
  const all = rowsOfTable(context.tx, table.id)
  const used = table.usedUp ? usedUpRows(context.tx, table.id, of.environmentId).map(({ row }) => row) : []
  const rows = all.filter(({ id }) => !used.includes(id))
  if (all.length > 0 && rows.length === 0)
    throw new Refusal(
      'refused',
      `All ${all.length} rows of ${table.name} are used up in this environment; nothing was begun. Fill the table up again (set-up, data tables) when there are new ones.`,
    )
  const useUp = (rowId: number): void => {
    if (table.usedUp)
      useRowUp(context.tx, { rowId, environmentId: of.environmentId, attemptId: of.attemptId, at: context.now })
  }
  if (of.mode === 'each') {
    for (const { id } of rows) useUp(id)
    return rows.map(({ values }) => values)
  }
  const free = rows.find(
    ({ heldBy, heldAttemptId }) => heldBy === null || (heldBy === context.person.id && heldAttemptId === null),
  )
  if (!free)
    throw new Refusal(
      'refused',
      rows.length === 0
        ? `The data table ${table.name} has no row to execute with; add one first.`
        : `All ${rows.length} rows of ${table.name} are checked out: ${holdersOf(context.tx, table.id)
            .map(({ person, case: own }) => `${person ?? 'somebody'}${own ? ` (${own})` : ''}`)
            .join(', ')}. Wait for one, or ask a lead to give one back.`,
    )
  useUp(free.id)
  saveTableRow(context.tx, free.id, { heldBy: context.person.id, heldAt: context.now, heldAttemptId: of.attemptId })
  return [free.values]
}
