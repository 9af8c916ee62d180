import { deleteCases, readCase } from '#core/cases/contract.ts'
import { counted } from '#core/lib/figures.ts'
import {
  acceptRows,
  type DecidedRow,
  decideRows,
  deleteModel,
  type Drafting,
  type ModelSheet,
  restoreModel,
  updateModel,
} from '#core/techniques/contract.ts'
import { namesOf, titleBy } from '#core/techniques/draft-row.ts'
import type { Proposed } from '#core/techniques/draft-answer.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { allStored } from '#ui/shell/sending.ts'
import { useQueryClient } from '@tanstack/react-query'
import type { OwnModel } from './useModel.ts'

export const defaultPattern = (drafting: Drafting): string => `${drafting.requirement.title.slice(0, 120)}: {all}`

/** Everything that is done with a model and its rows beside typing it. */
export function useModelActs(drafting: Drafting, sheet: ModelSheet, own: OwnModel) {
  const { key } = useHere()
  const removing = useWrite(deleteModel)
  const restoring = useWrite(restoreModel)
  const client = useQueryClient()
  const params = { key, id: sheet.id }
  return {
    ...useAccepting(drafting, sheet, own),
    ...useDeciding(sheet, own),
    edit: async (body: { name?: string; pattern?: string }) => {
      if (!(await allStored(own.store))) return
      try {
        own.held.current.version = (
          await call(updateModel, { params, version: own.held.current.version, body })
        ).version
        await client.invalidateQueries({ queryKey: ['readDrafting'] })
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
      }
    },
    remove: async () => {
      if (await removing.attempt({ params }))
        notify(`${sheet.name} is taken away; its cases stay.`, { undo: () => void restoring.attempt({ params }) })
    },
  }
}

type As = 'cases' | 'data rows'

/** Rows become cases or data rows, or are found to be there already. */
function useAccepting(drafting: Drafting, sheet: ModelSheet, own: OwnModel) {
  const { key } = useHere()
  const accepting = useWrite(acceptRows)
  const deciding = useWrite(decideRows)
  const deleting = useWrite(deleteCases)
  const params = { key, id: sheet.id }
  const accept = async (rows: readonly Proposed[], as: As, into?: string): Promise<boolean> => {
    if (!(await allStored(own.store))) return false
    const body = {
      as,
      revision: own.held.current.revision,
      title: sheet.name,
      ...(into && { into }),
      rows: titled(rows, sheet, drafting),
    }
    const made = await accepting.attempt({ params, body })
    if (!made) return false
    const back = async () => {
      await deciding.attempt({ params, body: { end: made.rows } })
      await deleting.attempt({ params: { key }, body: { ids: made.cases } })
    }
    if (into) notify(`${counted(rows.length, 'row')} added to ${into}.`)
    else notify(madeText(made.keys, as, rows.length, drafting), { undo: () => void back() })
    return true
  }
  /** Data rows of a case as accepted ones; names the model does not have are left out. */
  const adopt = async (ref: string): Promise<boolean> => {
    if (!(await allStored(own.store))) return false
    try {
      const { content } = await call(readCase, { params: { key, ref }, query: {} })
      const rows = rowsNamed(content.rows, namesOf(own.model))
      if (rows.length === 0) {
        notify(`${ref} has no data row with a parameter of this model.`, { tone: 'problem' })
        return false
      }
      const body = {
        as: 'existing' as const,
        into: ref,
        revision: own.held.current.revision,
        rows: rows.map((row) => ({ row, title: ref, steps: [] })),
      }
      const made = await accepting.attempt({ params, body })
      if (made)
        notify(
          `${counted(made.rows.length, 'row')} of ${ref} ${made.rows.length === 1 ? 'counts' : 'count'} as accepted.`,
          { undo: () => void deciding.attempt({ params, body: { end: made.rows } }) },
        )
      return made !== null
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
      return false
    }
  }
  return { accept, adopt }
}

/** Rows with the titles of the cases they become, counted on from those that were decided before. */
const titled = (rows: readonly Proposed[], sheet: ModelSheet, drafting: Drafting) =>
  rows.map(({ row, steps }, at) => ({
    row: { ...row },
    title: titleBy(sheet.pattern || defaultPattern(drafting), row, sheet.rows.length + at + 1).trim() || sheet.name,
    steps: [...steps],
  }))

function madeText(keys: readonly string[], as: As, rows: number, { requirement }: Drafting): string {
  const [first = '', last = ''] = [keys[0], keys.at(-1)]
  if (as === 'data rows') return `${first} is written with ${counted(rows, 'data row')}.`
  const which = keys.length === 1 ? first : `${keys.length} cases, ${first} to ${last},`
  return `${which} written and linked to ${requirement.key}.`
}

/** What of each row bears one of these names and says something; rows of which nothing is left are left out. */
const rowsNamed = (rows: readonly Record<string, string>[], names: readonly string[]): Record<string, string>[] =>
  rows
    .map((row) =>
      Object.fromEntries(Object.entries(row).filter(([name, value]) => names.includes(name) && value !== '')),
    )
    .filter((row) => Object.keys(row).length > 0)

/** Rows are left out, and those a newer model no longer asks for are ended or kept. */
function useDeciding(sheet: ModelSheet, own: OwnModel) {
  const { key } = useHere()
  const deciding = useWrite(decideRows)
  const params = { key, id: sheet.id }
  const decide = async (row: DecidedRow, what: 'retire' | 'keep' | 'again') => {
    const body = what === 'keep' ? { keep: [row.id] } : { end: [row.id], retire: what === 'retire' }
    const done = await deciding.attempt({ params, body })
    if (!done || what === 'again') return
    notify(what === 'keep' ? `${row.case?.key ?? 'The row'} stays.` : endedText(done.retired), {
      undo: () => void deciding.attempt({ params, body: { again: [row.id] } }),
    })
  }
  const leaveOut = async (row: Proposed) => {
    if (!(await allStored(own.store))) return
    const done = await deciding.attempt({ params, body: { leaveOut: [{ ...row.row }] } })
    if (done)
      notify('The row is left out.', { undo: () => void deciding.attempt({ params, body: { end: done.rows } }) })
  }
  return { decide, leaveOut }
}

const endedText = (retired: readonly string[]): string =>
  retired.length > 0
    ? `${retired.join(', ')} is retired.`
    : 'The row is ended; its case stands for other rows and stays.'
