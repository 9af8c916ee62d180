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
import { type Proposed } from '#core/techniques/draft.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useQueryClient } from '@tanstack/react-query'
import { useModel } from './useModel.ts'

export const defaultPattern = (drafting: Drafting): string => `${drafting.requirement.title.slice(0, 120)}: {all}`

export function useModelActs(drafting: Drafting, sheet: ModelSheet, own: ReturnType<typeof useModel>) {
  const { key } = useHere()
  const accepting = useWrite(acceptRows)
  const deciding = useWrite(decideRows)
  const deleting = useWrite(deleteCases)
  const removing = useWrite(deleteModel)
  const restoring = useWrite(restoreModel)
  const client = useQueryClient()
  const params = { key, id: sheet.id }
  return {
    edit: async (body: { name?: string; pattern?: string }) => {
      await own.store()
      try {
        own.version.current = (await call(updateModel, { params, version: own.version.current, body })).version
        await client.invalidateQueries({ queryKey: ['readDrafting'] })
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
      }
    },
    accept: async (rows: readonly Proposed[], as: 'cases' | 'data rows', into?: string): Promise<boolean> => {
      await own.store()
      const pattern = sheet.pattern || defaultPattern(drafting)
      const before = sheet.rows.length
      const body = {
        as,
        revision: own.revision.current,
        title: sheet.name,
        ...(into && { into }),
        rows: rows.map(({ row, steps }, at) => ({
          row: { ...row },
          title: titleBy(pattern, row, before + at + 1).trim() || sheet.name,
          steps: [...steps],
        })),
      }
      const made = await accepting.attempt({ params, body })
      if (!made) return false
      const back = async () => {
        await deciding.attempt({ params, body: { end: made.rows } })
        if (!into) await deleting.attempt({ params: { key }, body: { ids: made.cases } })
      }
      notify(
        into
          ? `${counted(rows.length, 'row')} added to ${into}.`
          : as === 'cases'
            ? `${made.keys.length === 1 ? made.keys[0]! : `${made.keys.length} cases, ${made.keys[0]!} to ${made.keys.at(-1)!},`} written and linked to ${drafting.requirement.key}.`
            : `${made.keys[0]!} is written with ${counted(rows.length, 'data row')}.`,
        into ? {} : { undo: () => void back() },
      )
      return true
    },
    /** Data rows of a case as accepted ones; names the model does not have are left out. */
    adopt: async (ref: string): Promise<boolean> => {
      await own.store()
      try {
        const { content } = await call(readCase, { params: { key, ref }, query: {} })
        const names = namesOf(own.model)
        const rows = content.rows
          .map((row) =>
            Object.fromEntries(Object.entries(row).filter(([name, value]) => names.includes(name) && value !== '')),
          )
          .filter((row) => Object.keys(row).length > 0)
        if (rows.length === 0) {
          notify(`${ref} has no data row with a parameter of this model.`, { tone: 'problem' })
          return false
        }
        const made = await accepting.attempt({
          params,
          body: {
            as: 'existing',
            into: ref,
            revision: own.revision.current,
            rows: rows.map((row) => ({ row, title: ref, steps: [] })),
          },
        })
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
    },
    leaveOut: async (row: Proposed) => {
      await own.store()
      const done = await deciding.attempt({ params, body: { leaveOut: [{ ...row.row }] } })
      if (done)
        notify('The row is left out.', { undo: () => void deciding.attempt({ params, body: { end: done.rows } }) })
    },
    decide: async (row: DecidedRow, what: 'retire' | 'keep' | 'again') => {
      const done = await deciding.attempt({
        params,
        body: what === 'keep' ? { keep: [row.id] } : { end: [row.id], retire: what === 'retire' },
      })
      if (!done || what === 'again') return
      notify(
        what === 'keep'
          ? `${row.case?.key ?? 'The row'} stays.`
          : done.retired.length > 0
            ? `${done.retired.join(', ')} is retired.`
            : 'The row is ended; its case stands for other rows and stays.',
        { undo: () => void deciding.attempt({ params, body: { again: [row.id] } }) },
      )
    },
    remove: async () => {
      if (await removing.attempt({ params }))
        notify(`${sheet.name} is taken away; its cases stay.`, { undo: () => void restoring.attempt({ params }) })
    },
  }
}
